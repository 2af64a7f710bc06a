import { optionalRecord, quantity, record } from '../../base/schema'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })

/** What every foundation has; m. */
export const SIZE = { thickness: metres(0.05, 1), width: metres(0.15, 4), minRun: metres(0, 50) }
const lift = { max: metres(0.03, 0.5), loose: quantity({ min: 1, max: 2 }) }
/** Lifts: thickness at most (m), and how many times as thick it is placed loose. */
export const lifts = () => record(lift)
/** The same, for what may be cast in one go. */
export const optionalLifts = () => optionalRecord(lift)
