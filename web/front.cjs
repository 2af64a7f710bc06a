// Loaded before the application's server: what it must know of a request before anything else looks at it. It is told where a request comes from,
// under which name it was asked for, and whether its address can be read at all.
const http = require('node:http')

const trusted = process.env.TRUST_PROXY === '1'
/** Names this installation is served as, with or without a port; without any every name is taken. */
const names = new Set(
  (process.env.SERVED_AS ?? '')
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean),
)
/** What a client may say of itself only where a proxy of ours wrote it. */
const FORWARDED = ['x-forwarded-for', 'x-forwarded-proto', 'x-forwarded-host', 'x-forwarded-port', 'x-real-ip', 'forwarded']

const page = (title, text) => `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>${title} · Stone Tally</title><style>body{font:17px/1.5 sans-serif;max-width:34em;margin:14vh auto;padding:0 20px;color:#14181b;background:#fbfaf6}a{color:inherit;display:inline-block;min-height:48px;line-height:48px}</style>
<main><h1>${title}</h1><p>${text}</p><p><a href="/">Yard: all walls</a></p></main></html>`

function answer(res, status, title, text, isApi, keep = false) {
  res.statusCode = status
  res.setHeader('x-house', '1')
  res.setHeader('cache-control', 'no-store')
  res.setHeader('x-content-type-options', 'nosniff')
  res.setHeader('referrer-policy', 'same-origin')
  res.setHeader(
    'content-security-policy',
    "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'",
  )
  if (!keep) res.setHeader('connection', 'close')
  if (isApi) {
    res.setHeader('content-type', 'application/json')
    return res.end(JSON.stringify({ problems: [{ field: '', message: text }] }))
  }
  res.setHeader('content-type', 'text/html; charset=utf-8')
  res.end(page(title, text))
}

/** Can every part of the address be read, and is none of it a sign no address has? */
function readable(url) {
  if (!url.startsWith('/') || url.length > 8192) return false
  try {
    const path = decodeURIComponent(url.split('?')[0])
    // biome-ignore lint/suspicious/noControlCharactersInRegex: they are the ones looked for
    return !/[\u0000-\u001f\u007f\\]/.test(path) && !path.startsWith('//')
  } catch {
    return false
  }
}

/** Pages are read; what changes something is sent to a route. */
const READ = new Set(['GET', 'HEAD'])

const served = (host) => names.size === 0 || names.has(host) || names.has(host.replace(/:\d+$/, ''))

const emit = http.Server.prototype.emit
http.Server.prototype.emit = function front(event, ...more) {
  const [req, res] = more
  if (event !== 'request' || !req || !res) return emit.call(this, event, ...more)
  if (!trusted) for (const name of FORWARDED) delete req.headers[name]
  req.headers['x-tally-peer'] = req.socket?.remoteAddress ?? ''
  const url = req.url ?? '/'
  const isApi = url.startsWith('/api/')
  if (!served((req.headers.host ?? '').toLowerCase())) {
    answer(
      res,
      421,
      'Not served here',
      'Stone Tally is not served under this name. Whoever looks after it adds the name to those it is served as.',
      isApi,
    )
    return true
  }
  if (!readable(url)) {
    answer(
      res,
      400,
      'This address cannot be read',
      'A part of it was cut off or garbled on its way. Go to the Yard and open the wall from there.',
      isApi,
    )
    return true
  }
  if (!isApi && !READ.has(req.method ?? '')) {
    // What was sent along is read to its end and thrown away: an answer that comes before is lost on its way.
    req.on('end', () => {
      res.setHeader('allow', 'GET, HEAD')
      answer(res, 405, 'Nothing is sent to a page', 'Go to the Yard and open the wall from there. Nothing was changed.', false, true)
    })
    req.on('error', () => {})
    req.resume()
    return true
  }
  return emit.call(this, event, ...more)
}
