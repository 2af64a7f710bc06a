import { optionalDay } from '../base/day'
import { said } from '../base/said'
import { choice, type InferType, list, optionalRecord, optionalText, quantity, record, text, yesNo } from '../base/schema'
import { below } from '../geometry'
import { rungOf, since, WALL_FACTS, type WallFact } from '../rules'

const station = () => quantity({ min: 0, max: 2000, unit: 'm' })
/** What an engineer's plan covers: walls up to this height as built, these stations, and what it reckons with; m. */
export const coversSchema = () =>
  optionalRecord({ height: quantity({ min: 0.1, max: 15, unit: 'm' }), from: station(), to: station(), facts: list(choice(WALL_FACTS), 0, 40) })

/** Who can say that a crew may build what the rules ask about first. */
export const ANSWERED_BY = ['authority', 'competent', 'neighbour'] as const
export const ANSWERED_NAMES: Readonly<Record<(typeof ANSWERED_BY)[number], string>> = {
  authority: 'The authority',
  competent: 'A competent person',
  neighbour: 'The neighbour',
}
/** An answer to what the rules ask first: who gave it, as what, on which day, by which paper, to which question. */
export const answerSchema = record({
  facts: list(choice(WALL_FACTS), 1, 40),
  who: text(120),
  as: choice(ANSWERED_BY),
  on: optionalDay(),
  reference: optionalText(120),
  question: optionalText(300),
  /** May the crew build it? */
  may: yesNo(),
})
export type Answer = InferType<typeof answerSchema>

/** What of a plan says whose it is. */
interface Signed {
  readonly ruleTable?: number | undefined
  readonly engineer?: string | undefined
  readonly engineerBy?: string | undefined
  readonly engineerLicence?: string | undefined
  readonly engineerOn?: string | undefined
  readonly engineerCovers?: { readonly height: number; readonly from: number; readonly to: number; readonly facts: readonly WallFact[] } | undefined
}

/** Words people put into a field to get past it. */
const NOTHING = /^(n\/?a|none?|no|nil|tbd|tba|tbc|unknown|x+|\?+|-+|\.+|see (plan|drawing)|later)$/i
const words = (text: string | undefined, is: RegExp) => {
  const plain = text?.trim() ?? ''
  return plain.length >= 2 && !NOTHING.test(plain) && is.test(plain)
}

/**
 * What is missing of an engineer's plan, in words: since rule table 3 an engineer is a person with a plan, each of it in a field of its own.
 *
 * @example engineerMissing(plan) // ['the licence or register number']
 */
export function engineerMissing(plan: Signed): string[] {
  if (!since(plan, 3)) {
    return [
      ...((plan.engineer?.trim().length ?? 0) >= 3 ? [] : ['the engineered plan']),
      ...((plan.engineerBy?.trim().length ?? 0) >= 3 ? [] : ['who made it, with licence or reference']),
    ]
  }
  return [
    ...(words(plan.engineerBy, /\p{L}{2}/u) ? [] : ['the engineer’s name']),
    ...(words(plan.engineerLicence, /\d/) ? [] : ['the licence or register number']),
    ...(words(plan.engineer, /[\p{L}\d]/u) ? [] : ['the number of the plan']),
    ...(plan.engineerOn ? [] : ['the day of the plan']),
    ...(plan.engineerCovers ? [] : ['what it covers: heights, stations, what it takes into account']),
  ]
}

/** Is a whole engineer's plan named? @example engineered(plan) */
export const engineered = (plan: Signed): boolean => engineerMissing(plan).length === 0

/**
 * What of this wall the engineer's plan does not cover, in words; nothing under earlier tables, which did not ask.
 *
 * @param wall - its height as built and its length, m; what decides whose it is
 * @example notCovered(plan, { height: 2.4, length: 22, facts: ['pool'] })
 */
export function notCovered(plan: Signed, wall: { readonly height: number; readonly length: number; readonly facts: readonly WallFact[] }): string[] {
  const c = plan.engineerCovers
  if (!since(plan, 3) || !c) return []
  const missing = [...new Set(wall.facts)].filter((f) => f !== 'height' && !c.facts.includes(f))
  return [
    ...(below(c.height, wall.height) ? [`${said.length(wall.height, 2)} of height; it covers ${said.given(c.height)}`] : []),
    ...(below(0, c.from) || below(c.to, wall.length)
      ? [`all of the wall; it covers ${said.station(c.from)} to ${said.station(c.to)} of ${said.given(wall.length)}`]
      : []),
    ...missing.map((f) => rungOf(f).title.toLowerCase()),
  ]
}

/**
 * The answer that opens a fact the rules ask about first; undefined where nobody gave one that says enough.
 *
 * @example answerTo(plan, 'fence-open')?.who
 */
export const answerTo = (plan: { readonly asked?: readonly Answer[] | undefined }, fact: WallFact): Answer | undefined => {
  const whole = plan.asked?.filter((a) => a.facts.includes(fact) && answerMissing(a).length === 0) ?? []
  // Of two answers the stricter holds: a no is not asked away elsewhere.
  return whole.find((a) => !a.may) ?? whole[0]
}

/** What an answer lacks before it opens anything, in words. */
export function answerMissing(a: Answer): string[] {
  return [
    ...(words(a.who, /\p{L}{2}/u) ? [] : ['who answered']),
    ...(a.on ? [] : ['on which day']),
    ...(words(a.reference, /[\p{L}\d]{2}/u) ? [] : ['its reference']),
    ...(words(a.question, /\p{L}{3}/u) ? [] : ['what was asked']),
  ]
}
