/**
 * The first code of ours that runs in a browser. What makes styles there looks for the page's number in its head when it is loaded; a page that failed
 * on its way to being made has nothing of ours in its head, but its scripts bear the number.
 */
const nonce = document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce
if (nonce && !document.querySelector('meta[property="csp-nonce"]')) {
  const meta = document.createElement('meta')
  meta.setAttribute('property', 'csp-nonce')
  meta.content = nonce
  document.head.append(meta)
}

export {}
