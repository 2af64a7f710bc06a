import type { Layout } from '../layout'
import { limitsOf } from '../rules'
import { quantities } from './quantities'

/** Soil that is dug and soil that is filled in, in the bank, loose and compacted, m³. */
export interface FillBalance {
  readonly bank: number
  readonly loose: number
  /** Behind the stone, compacted, and as it comes. */
  readonly compacted: number
  readonly wanted: number
  /** Loose: what still has to come where all that is dug may be used, and what goes away where none of it may. */
  readonly toBring: number
  readonly toTakeAway: number
}

/**
 * What comes and goes of fill. Whether what is dug may be used is for the soil panel and the engineer to say: both ends are given.
 *
 * @example fillBalance(layout).toBring // 206.0
 */
export function fillBalance(layout: Layout): FillBalance {
  const list = quantities(layout)
  const of = (id: string) => list.find((q) => q.id === id)?.value ?? 0
  const [bank, loose, compacted] = [of('dig'), of('spoil'), of('backfill')]
  const wanted = compacted * limitsOf(layout.plan).backfillLoose.value
  return { bank, loose, compacted, wanted, toBring: Math.max(0, wanted - loose), toTakeAway: loose }
}
