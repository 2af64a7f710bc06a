import { fork } from 'node:child_process'
import { Busy } from './busy'
import { log } from './log'
import { type PictureAsked, type PictureMade, pictureOf } from './picture'

/** Pixels up to which a picture is unpacked where requests are answered: a telephone's. A larger one has a process of its own that ends. */
const HERE = 25_000_000
/** Such processes at once, and how many wait for one; more are told to come again. */
const AT_ONCE = 2
const MOST_WAITING = 16
/** A picture that takes longer is given up, ms: a machine six times slower than ours unpacks the largest in a quarter of it. */
const PATIENCE = 120_000

const waiting: (() => void)[] = []
let running = 0

async function turn(): Promise<void> {
  if (running >= AT_ONCE) {
    if (waiting.length >= MOST_WAITING) throw new Busy('too many large pictures come in at once; try again in a moment')
    // The one that is done hands its place on: nobody who comes meanwhile takes it.
    return new Promise<void>((go) => waiting.push(go))
  }
  running++
}
const over = () => {
  const next = waiting.shift()
  if (next) next()
  else running--
}

// Written so that the bundler does not look for the script: it is bundled by itself.
const processOf = (script: string) => Reflect.apply(fork, undefined, [script, [], { serialization: 'advanced' }]) as ReturnType<typeof fork>

const beside = (script: string, asked: PictureAsked) =>
  new Promise<PictureMade>((done, failed) => {
    const child = processOf(script)
    const clock = setTimeout(() => child.kill('SIGKILL'), PATIENCE)
    let answer: { made?: PictureMade; error?: string } = {}
    child.once('message', (said: typeof answer) => {
      answer = said
    })
    const ended = () => {
      clearTimeout(clock)
      if (answer.made) done({ ...answer.made, content: Buffer.from(answer.made.content), thumb: Buffer.from(answer.made.thumb) })
      else if (answer.error) failed(new Error(answer.error))
      // It may be a good picture: the device keeps it and comes again.
      else failed(new Busy('the picture could not be unpacked just now; it stays on the device and is sent again'))
    }
    child.once('exit', ended)
    // One that cannot be started never ends; one that is gone cannot be sent to. Both are said once, and nothing waits for them.
    child.on('error', () => {
      child.kill('SIGKILL')
      ended()
    })
    child.send(asked, () => {})
  })

/**
 * A picture unpacked, where it does not matter how large it is.
 *
 * @param pixels - as the picture says of itself
 * @throws Busy; what the library says of bytes that are no picture
 */
export async function pictureMade(pixels: number, asked: PictureAsked): Promise<PictureMade> {
  const script = process.env.PICTURE_PROCESS
  if (pixels <= HERE || !script) {
    if (pixels > HERE) log.warn({ pixels }, 'a large picture is unpacked where requests are answered: there is no script for a process of its own')
    return pictureOf(asked)
  }
  await turn()
  try {
    return await beside(script, asked)
  } finally {
    over()
  }
}
