import { uuid7 } from '../web/server/ids'

/** A note as a device sends it. @example noteOf(wall, 'Truck with stone') */
export const noteOf = (wall: string, text: string, id = uuid7()) => ({
  id,
  wall,
  revision: 1,
  at: new Date().toISOString(),
  kind: 'note',
  where: {},
  data: { text },
})
