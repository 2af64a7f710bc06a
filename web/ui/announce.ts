/** How long a screen reader needs to notice that the same words are said anew, ms. */
const ANEW = 60

/**
 * Says something to who does not see it: what became of a press. It is read out and shown to nobody.
 *
 * @example announce('Saved to the record.')
 */
export function announce(words: string): void {
  if (typeof document === 'undefined') return
  let place = document.getElementById('announced')
  if (!place) {
    place = document.body.appendChild(document.createElement('div'))
    place.id = 'announced'
    place.setAttribute('aria-live', 'polite')
    Object.assign(place.style, {
      position: 'absolute',
      width: '1px',
      height: '1px',
      overflow: 'hidden',
      clipPath: 'inset(50%)',
      whiteSpace: 'nowrap',
    })
  }
  place.textContent = ''
  const here = place
  setTimeout(() => {
    here.textContent = words
  }, ANEW)
}
