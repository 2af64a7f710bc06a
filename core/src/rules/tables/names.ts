import type { FIRST } from './first'
import type { Limit } from './limit'
import type { UNJUDGED } from './unjudged'

export type LimitName = keyof typeof FIRST | keyof typeof UNJUDGED
export type Limits = Readonly<Record<LimitName, Limit>>
