import { v7 } from 'uuid'

/** An id made on the device: time first, then randomness. @param now - ms since 1970 @example uuid7() // '01978a3c-…' */
export const uuid7 = (now = Date.now()): string => v7({ msecs: now })
