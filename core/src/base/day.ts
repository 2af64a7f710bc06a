import { optionalText, text } from './schema'

const SHAPE = /^\d{4}-\d\d-\d\d$/
const isDay = (v: string | null | undefined) => v == null || !SHAPE.test(v) || new Date(`${v}T00:00:00Z`).toJSON()?.slice(0, 10) === v
const NO_DAY = 'is not a day of the calendar'
const DAY_SHAPE = 'must be a day such as 2026-05-31'
/** A day as 2026-05-31. */
export const dayText = () => text(10).matches(SHAPE, DAY_SHAPE).test('is-a-day', NO_DAY, isDay)
/** The same, but it may be left out. */
export const optionalDay = () => optionalText(10).matches(SHAPE, DAY_SHAPE).test('is-a-day', NO_DAY, isDay)
