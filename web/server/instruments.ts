import { connect, type Socket } from 'node:net'
import { fail, type InstrumentLine, type InstrumentReading, type InstrumentStatus, ok, type Result, readInstrumentLine } from '@stone-tally/core'

/** How long a reading may take, ms. */
const PATIENCE = 3000

const portOf = () => Number(process.env.INSTRUMENTS_PORT ?? 0)

/** What came over the line besides good readings. */
export interface LineTrouble {
  /** Lines that were broken on the way and thrown away. */
  readonly broken: number
  /** Readings that were sent twice and counted once. */
  readonly repeated: number
}

/**
 * One conversation with the instruments: lines are checked, broken ones are counted and dropped, and a reading that comes twice
 * counts once. The connection is the caller's to end.
 */
function talk(
  onLine: (line: InstrumentLine) => void,
  onEnd: (why: string) => void,
): { say(text: string): void; end(): void; trouble(): LineTrouble } {
  let [broken, repeated] = [0, 0]
  const seen = new Map<string, number>()
  let rest = ''
  const socket: Socket = connect({ host: '127.0.0.1', port: portOf() })
  socket.setNoDelay(true)
  socket.on('data', (data) => {
    const lines = (rest + data.toString('latin1')).split('\n')
    rest = (lines.pop() ?? '').slice(0, 1000)
    for (const text of lines) {
      const line = readInstrumentLine(text)
      if (!line.ok) {
        broken++
        continue
      }
      if (line.value.type === 'reading') {
        const { id, seq } = line.value.reading
        if ((seen.get(id) ?? 0) >= seq) {
          repeated++
          continue
        }
        seen.set(id, seq)
      }
      onLine(line.value)
    }
  })
  let over = false
  const end = (why: string) => {
    if (over) return
    over = true
    onEnd(why)
  }
  socket.on('error', () => end('the instruments cannot be reached; switch them on, or type the reading'))
  socket.on('close', () => end('the connection broke off in the middle; nothing was taken. Take the reading again'))
  return {
    say: (text) => socket.write(`${text}\n`),
    end: () => {
      over = true
      socket.destroy()
    },
    trouble: () => ({ broken, repeated }),
  }
}

/** The instruments within reach; an empty list when they are switched off. */
export function listInstruments(): Promise<readonly InstrumentStatus[]> {
  if (portOf() === 0) return Promise.resolve([])
  return new Promise((resolve) => {
    const list: InstrumentStatus[] = []
    const done = () => {
      clearTimeout(late)
      line.end()
      resolve(list)
    }
    const late = setTimeout(done, PATIENCE)
    const line = talk((l) => {
      if (l.type === 'instrument') list.push(l.status)
      else if (l.type === 'end') done()
    }, done)
    line.say('LIST')
  })
}

const id = /^[a-z0-9-]{1,20}$/
const words = (scene: Readonly<Record<string, number>>) =>
  Object.entries(scene)
    .filter(([k, v]) => /^[a-z]{1,12}$/.test(k) && Number.isFinite(v))
    .map(([k, v]) => `${k}=${v}`)
    .join(' ')

/**
 * Takes one reading.
 *
 * @param scene - what a stand-in should meet; a real instrument ignores it
 * @returns the reading with whose it is, or in plain words why there is none
 */
export async function takeReading(
  which: string,
  scene: Readonly<Record<string, number>> = {},
): Promise<Result<{ status: InstrumentStatus; reading: InstrumentReading }>> {
  if (!id.test(which)) return fail('instrument', 'is not the name of an instrument')
  const status = (await listInstruments()).find((i) => i.id === which)
  if (!status) return fail('instrument', 'the instruments cannot be reached; switch them on, or type the reading')
  if (!status.connected) return fail('instrument', `${status.name} ${status.serial} is off or out of reach; switch it on, or choose another`)
  return new Promise((resolve) => {
    const done = (result: Result<{ status: InstrumentStatus; reading: InstrumentReading }>) => {
      clearTimeout(late)
      line.end()
      resolve(result)
    }
    const late = setTimeout(() => {
      const { broken } = line.trouble()
      done(
        fail(
          'instrument',
          broken > 0 ? 'what came was garbled and was thrown away; take the reading again' : `no reading within ${PATIENCE / 1000} s; take it again`,
        ),
      )
    }, PATIENCE)
    const line = talk(
      (l) => {
        if (l.type === 'reading' && l.reading.id === which) done(ok({ status, reading: l.reading }))
        else if (l.type === 'error') done(fail('instrument', `${l.message}; aim again and take the reading again`))
      },
      (why) => done(fail('instrument', why)),
    )
    line.say(`READ ${which} ${words(scene)}`)
  })
}

/** Plays a bad day on a stand-in: off, drop, garbage, twice, or none. */
export function setFault(which: string, fault: string): Promise<void> {
  if (portOf() === 0 || !id.test(which) || !/^[a-z]{1,10}$/.test(fault)) return Promise.resolve()
  return new Promise((resolve) => {
    const line = talk(
      (l) => {
        if (l.type !== 'end') return
        line.end()
        resolve()
      },
      () => resolve(),
    )
    line.say(`FAULT ${which} ${fault}`)
    // The list that follows tells that the command before it was heard.
    line.say('LIST')
  })
}

/**
 * Streams readings until it is ended.
 *
 * @param rate - readings a second
 */
export function streamReadings(
  which: string,
  rate: number,
  onReading: (r: InstrumentReading) => void,
  onEnd: (why: string) => void,
): { end(): void; trouble(): LineTrouble } {
  const line = talk((l) => {
    if (l.type === 'reading' && l.reading.id === which) onReading(l.reading)
    else if (l.type === 'error') onEnd(l.message)
  }, onEnd)
  line.say(`STREAM ${which} ${Math.round(rate)}`)
  return line
}
export const knownInstrument = (which: string) => id.test(which)
