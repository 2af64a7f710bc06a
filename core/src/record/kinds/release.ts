import { choice, type InferType, list, optionalList, optionalRecord, optionalText, quantity, record, text } from '../../base/schema'
import { pointOf, ROLES } from '../../rules'
import { defineKind } from './kind'

const share = () => quantity({ min: 0, max: 1 })

/** A hold point released or rejected, signed by name or by hand: strokes as shares of the width and height of the field. */
export const releaseData = record({
  decision: choice(['released', 'rejected'] as const),
  reason: text(400),
  /** `typed` is the name of the person who is signed in; a drawing is kept with it. */
  signature: optionalRecord({ typed: optionalText(120), drawn: optionalList(list(record({ x: share(), y: share() }), 1, 400), 60) }),
  /** Somebody else who was there and saw it. */
  witness: optionalText(120),
  /** The same person looked again, where a company is one: what of the list made for that look was seen, and the photo taken at it. */
  second: optionalRecord({ confirmed: list(text(40), 0, 40), photo: text(36) }),
  /** Somebody from outside decided over the link that was sent to them: which request they answer, and what they say of themselves. */
  outside: optionalRecord({ request: text(36), as: text(80), licence: text(80) }),
  /** The decision of somebody who has no account here, by the paper or the photo that says so. */
  reported: optionalRecord({ name: text(120), role: text(80), document: optionalText(200), photo: optionalText(36) }),
})
export type ReleaseData = InferType<typeof releaseData>

/**
 * Is it signed? A name of one letter and a dot on the field are no signature.
 *
 * @example isSigned({ typed: 'I. Vale' }) // true
 */
export const isSigned = (s: ReleaseData['signature']) => (s?.typed?.trim().length ?? 0) >= 2 || (s?.drawn ?? []).some((stroke) => stroke.length > 3)

/**
 * Who decided, as it is to be read everywhere: the person who was signed in, or by whom it was reported.
 *
 * @example decidedBy({ by: { name: 'Mara Quill', … }, data: { reported: { name: 'I. Vale', role: 'inspector', … }, … } }) // 'I. Vale, inspector, as reported by Mara Quill'
 */
export const decidedBy = (e: { by: { name: string }; data: Pick<ReleaseData, 'reported' | 'second' | 'outside'> }): string => {
  const { second, reported, outside } = e.data
  if (second) return `${e.by.name}, second look by the same person`
  if (outside) return `${e.by.name}, ${outside.as}, ${outside.licence}, by a link sent to them; identity not checked`
  return reported ? `${reported.name}, ${reported.role}, as reported by ${e.by.name}` : e.by.name
}

export const release = defineKind({
  kind: 'release',
  effect: { is: 'decision' },
  stays: 'a decision on a hold point stays; answer it with another decision',
  // Who may is said by the point, in the rules of the plan.
  roles: ROLES,
  schema: releaseData,
  line(e, _r, c) {
    const { decision, reason, signature, witness, reported, second, outside } = e.data
    const shown = reported ? (reported.document ? `${reported.document}` : 'photo') : undefined
    const more = [
      // A signature of before may bear another name than the person's.
      signature?.typed && signature.typed.trim() !== e.by.name ? `signed ${signature.typed}` : '',
      signature?.drawn?.length ? 'signed by hand' : '',
      witness ? `in the presence of ${witness}` : '',
      second ? 'second look by the same person' : '',
    ].filter(Boolean)
    const told = reported ? ` by ${reported.name}, ${reported.role}, as reported by ${e.by.name} (${shown})` : ''
    const who = outside ? ` by ${decidedBy(e)}` : told
    return `Hold point ${pointOf(c.layout.plan, c.stage?.hold ?? '')?.title ?? ''} ${decision}${who}: ${reason}${more.length > 0 ? ` (${more.join(', ')})` : ''}`
  },
})
