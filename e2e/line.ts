import { createServer, type IncomingMessage, request, type ServerResponse } from 'node:http'
import type { AddressInfo, Socket } from 'node:net'
import { url } from './site'

/** How the line between a device and the house is. */
export type Mode =
  | 'good'
  /** No signal: connections end at once. */
  | 'dead'
  /** Something in between answers everything with a page of its own. */
  | 'portal'
  /** What is sent arrives; the answer never comes. */
  | 'answers-lost'
  /** The house does not know the wall any more. */
  | 'wall-gone'

export interface Line {
  readonly url: string
  mode: Mode
  /** The house serves another version of the application: what it gives the device to run without it differs. */
  newer: boolean
  /** Breaks off what is sent to an address with this in it once so many bytes of it came through, in all. */
  cut: { at: string; after: number } | undefined
  /** What went through: method, path, bytes of the body. */
  readonly went: { method: string; path: string; bytes: number }[]
  end(): Promise<void>
}

/** A line to the house that can be bad. A device that is given its address sees nothing else of the house. */
export async function line(): Promise<Line> {
  const house = new URL(url())
  const open = new Set<Socket>()
  const went: Line['went'] = []
  let through = 0
  const server = createServer((req: IncomingMessage, res: ServerResponse) => {
    const path = req.url ?? ''
    if (it.mode === 'dead') return void req.socket.destroy()
    if (it.mode === 'portal') {
      res.writeHead(200, { 'content-type': 'text/html' })
      return void res.end('<html><body>Welcome to the site office network. Accept the terms to go on.</body></html>')
    }
    if (it.mode === 'wall-gone' && path.startsWith('/api/walls/')) {
      res.writeHead(404, { 'content-type': 'application/json', 'x-house': '1' })
      return void res.end('{"problems":[{"field":"","message":"there is no such wall"}]}')
    }
    const entry = { method: req.method ?? '', path, bytes: 0 }
    went.push(entry)
    // What is added to has to come as it is written.
    const { 'if-none-match': _tag, 'if-modified-since': _since, ...asked } = req.headers
    const headers = it.newer && path === '/sw.js' ? { ...asked, 'accept-encoding': 'identity' } : req.headers
    const onward = request({ host: house.hostname, port: house.port, method: req.method, path, headers }, (answer) => {
      if (it.mode === 'answers-lost' && req.method === 'POST') {
        answer.resume()
        answer.on('end', () => req.socket.destroy())
        return
      }
      if (it.newer && path === '/sw.js') {
        const { 'content-length': _length, etag: _etag, 'last-modified': _modified, ...rest } = answer.headers
        res.writeHead(answer.statusCode ?? 502, rest)
        answer.pipe(res, { end: false })
        answer.on('end', () => res.end('\n// another version'))
        return
      }
      res.writeHead(answer.statusCode ?? 502, answer.headers)
      answer.pipe(res)
    })
    onward.on('error', () => req.socket.destroy())
    res.on('close', () => onward.destroy())
    req.on('data', (d: Buffer) => {
      entry.bytes += d.length
      const { cut } = it
      if (cut && path.includes(cut.at)) {
        through += d.length
        if (through >= cut.after) {
          it.cut = undefined
          it.mode = 'dead'
          onward.destroy()
          req.socket.destroy()
          return
        }
      }
      onward.write(d)
    })
    req.on('end', () => onward.end())
  })
  server.on('connection', (s) => {
    open.add(s)
    s.on('close', () => open.delete(s))
  })
  server.on('upgrade', (_req, s) => s.destroy())
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  let mode: Mode = 'good'
  const it: Line = {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    get mode() {
      return mode
    },
    set mode(m: Mode) {
      mode = m
      // Streams that were open are cut too.
      if (m !== 'good') for (const s of open) s.destroy()
    },
    newer: false,
    cut: undefined,
    went,
    end: () =>
      new Promise((done) => {
        for (const s of open) s.destroy()
        server.close(() => done())
      }),
  }
  return it
}
