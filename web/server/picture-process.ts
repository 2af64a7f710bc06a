import { type PictureAsked, pictureOf } from './picture'

/** Unpacks one picture and ends, so that what it took is given back whole; bundled by scripts/build.ts and started by pictures.ts. */
process.once('message', async (asked: PictureAsked) => {
  const answer = await pictureOf({ ...asked, bytes: Buffer.from(asked.bytes) }).then(
    (made) => ({ made }),
    (error: unknown) => ({ error: error instanceof Error ? error.message : 'cannot be read' }),
  )
  process.send?.(answer, () => process.exit(0))
})
// Whoever asked is gone.
process.once('disconnect', () => process.exit(0))
