import { createServer, type Server, type Socket } from 'node:net'
import { type InstrumentLine, writeInstrumentLine } from '@stone-tally/core'
import { type Fault, type Scene, type StandIn, standIns } from './world'

const FAULTS: readonly Fault[] = ['none', 'off', 'drop', 'garbage', 'twice']

function sceneOf(words: readonly string[]): Scene {
  const scene: Record<string, number> = {}
  for (const w of words) {
    const [key, value] = w.split('=')
    if (key && value !== undefined && Number.isFinite(Number(value))) scene[key] = Number(value)
  }
  return scene
}

/**
 * The stand-ins behind one loopback port, in the line protocol of docs/formats/instruments.md.
 *
 * @param port - 0 for any free one
 * @param seed - the same seed tells the same day
 */
export function instrumentServer(port: number, seed = 1): Promise<{ server: Server; port: number; close(): void }> {
  const all = standIns(seed, new Date())
  const sockets = new Set<Socket>()
  const server = createServer((socket) => {
    sockets.add(socket)
    socket.setNoDelay(true)
    const streams = new Map<string, NodeJS.Timeout>()
    const send = (line: InstrumentLine) => socket.writable && socket.write(`${writeInstrumentLine(line)}\n`)
    const give = (one: StandIn) => {
      // A battery that is empty, a switch that is off: nothing comes, as from the real thing.
      if (!one.status().connected) return
      if (one.fault === 'drop') {
        one.fault = 'none'
        const text = writeInstrumentLine({ type: 'reading', reading: one.read(new Date()) })
        // Cut off in the middle of the reading.
        socket.write(text.slice(0, Math.floor(text.length / 2)))
        socket.destroy()
        return
      }
      const text = writeInstrumentLine({ type: 'reading', reading: one.read(new Date()) })
      if (one.fault === 'garbage') {
        one.fault = 'none'
        socket.write(`${text.replace(/\d(?=\.)/, (d) => `${(Number(d) + 1) % 10}`)}\n`)
        return
      }
      socket.write(`${text}\n`)
      if (one.fault === 'twice') {
        one.fault = 'none'
        socket.write(`${text}\n`)
      }
    }
    const commands: Record<string, (one: StandIn | undefined, words: readonly string[]) => void> = {
      LIST: () => {
        for (const one of all.values()) send({ type: 'instrument', status: one.status() })
        send({ type: 'end' })
      },
      READ: (one, words) => {
        if (!one) return
        one.scene = { ...one.scene, ...sceneOf(words) }
        if (one.misses()) send({ type: 'error', id: one.id, message: 'no beam on the receiver' })
        else give(one)
      },
      STREAM: (one, words) => {
        if (!one) return
        const rate = Math.min(500, Math.max(1, Number(words[0]) || 10))
        one.scene = { ...one.scene, ...sceneOf(words.slice(1)) }
        clearInterval(streams.get(one.id))
        // Timers fire late: as many readings as are due are sent each time, so that the rate is kept.
        const start = Date.now()
        let sent = 0
        streams.set(
          one.id,
          setInterval(() => {
            const due = Math.floor(((Date.now() - start) * rate) / 1000)
            for (; sent < due; sent++) give(one)
          }, 20),
        )
      },
      STOP: (one) => one && clearInterval(streams.get(one.id)),
      SCENE: (one, words) => {
        if (one) one.scene = { ...one.scene, ...sceneOf(words) }
      },
      FAULT: (one, words) => {
        if (one) one.fault = FAULTS.find((f) => f === words[0]) ?? 'none'
      },
    }
    let rest = ''
    socket.on('data', (data) => {
      const lines = (rest + data.toString('latin1')).split('\n')
      rest = lines.pop() ?? ''
      if (rest.length > 1000) socket.destroy()
      for (const line of lines) {
        const [verb = '', id = '', ...words] = line.trim().split(/\s+/)
        const run = commands[verb]
        const one = all.get(id)
        if (!run) send({ type: 'error', id, message: `unknown command ${verb.slice(0, 20)}` })
        else if (verb !== 'LIST' && !one) send({ type: 'error', id: id.slice(0, 20), message: 'no such instrument' })
        else run(one, words)
      }
    })
    const gone = () => {
      for (const t of streams.values()) clearInterval(t)
      sockets.delete(socket)
    }
    socket.on('close', gone)
    socket.on('error', gone)
  })
  return new Promise((resolve, reject) => {
    server.on('error', reject)
    server.listen(port, '127.0.0.1', () => {
      const address = server.address()
      resolve({
        server,
        port: typeof address === 'object' && address ? address.port : port,
        close() {
          for (const s of sockets) s.destroy()
          server.close()
        },
      })
    })
  })
}
