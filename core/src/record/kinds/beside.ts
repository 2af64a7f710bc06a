import { choice, type InferType, list, optionalList, optionalRecord, optionalText, optionalYesNo, quantity, record, text } from '../../base/schema'
import { pointOf, ROLES } from '../../rules'
import { formatLength } from '../../units/length'
import { defineKind, MEASURERS } from './kind'

/** The instrument set up: benchmark and backsight, m. */
export const setupData = record({
  benchmark: quantity({ min: -500, max: 9000, unit: 'm' }),
  backsight: quantity({ min: 0, max: 10, unit: 'm' }),
  /** The point looked back at; the benchmark of the plan when left out. */
  point: optionalText(60),
  /** It is a turning point: its elevation comes from the foresight before. */
  turning: optionalYesNo(),
})
export type SetupData = InferType<typeof setupData>
export const setup = defineKind({
  kind: 'setup',
  roles: MEASURERS,
  schema: setupData,
  line: (e, r) =>
    `Instrument set up: HI ${formatLength(e.data.benchmark + e.data.backsight, r.units)}, backsight ${formatLength(e.data.backsight, r.units)}${e.data.point ? ` on ${e.data.point}` : ''}`,
})

const share = () => quantity({ min: 0, max: 1 })

/** A hold point released or rejected, signed by name or by hand: strokes as shares of the width and height of the field. */
export const releaseData = record({
  decision: choice(['released', 'rejected'] as const),
  reason: text(400),
  /** `typed` is the name of the person who is signed in; a drawing is kept with it. */
  signature: optionalRecord({ typed: optionalText(120), drawn: optionalList(list(record({ x: share(), y: share() }), 1, 400), 60) }),
  /** Somebody else who was there and saw it. */
  witness: optionalText(120),
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
export const decidedBy = (e: { by: { name: string }; data: Pick<ReleaseData, 'reported'> }): string =>
  e.data.reported ? `${e.data.reported.name}, ${e.data.reported.role}, as reported by ${e.by.name}` : e.by.name

export const release = defineKind({
  kind: 'release',
  effect: { is: 'decision' },
  stays: 'a decision on a hold point stays; answer it with another decision',
  // Who may is said by the point, in the rules of the plan.
  roles: ROLES,
  schema: releaseData,
  line(e, _r, c) {
    const { decision, reason, signature, witness, reported } = e.data
    const shown = reported ? (reported.document ? `${reported.document}` : 'photo') : undefined
    const more = [
      // A signature of before may bear another name than the person's.
      signature?.typed && signature.typed.trim() !== e.by.name ? `signed ${signature.typed}` : '',
      signature?.drawn?.length ? 'signed by hand' : '',
      witness ? `in the presence of ${witness}` : '',
    ].filter(Boolean)
    const who = reported ? ` by ${reported.name}, ${reported.role}, as reported by ${e.by.name} (${shown})` : ''
    return `Hold point ${pointOf(c.layout.plan, c.stage?.hold ?? '')?.title ?? ''} ${decision}${who}: ${reason}${more.length > 0 ? ` (${more.join(', ')})` : ''}`
  },
})

/** A soft gate passed: the stage in `where` counts as passed, for a written reason. */
export const overrideData = record({ reason: text(400) })
export type OverrideData = InferType<typeof overrideData>
export const override = defineKind({
  kind: 'override',
  effect: { is: 'override' },
  roles: ['foreman'],
  schema: overrideData,
  line: (e, _r, c) => `Went on past ${c.stage?.title.toLowerCase() ?? 'a gate'}: ${e.data.reason}`,
})

/** What a person wrote, with its full stop. */
const sentence = (text: string) => (/[.!?]$/.test(text.trim()) ? text.trim() : `${text.trim()}.`)

/** Cause and action for an entry that was out of tolerance. */
export const actionData = record({ of: text(40), cause: text(400), action: text(400) })
export type ActionData = InferType<typeof actionData>
export const action = defineKind({
  kind: 'action',
  effect: { is: 'answer', of: (data) => data.of },
  roles: ['foreman', 'inspector'],
  schema: actionData,
  line: (e) => `Nonconformance: ${sentence(e.data.cause)} Action: ${sentence(e.data.action)}`,
})

/** A note in the diary. */
export const noteData = record({ text: text(2000) })
export type NoteData = InferType<typeof noteData>
export const note = defineKind({
  kind: 'note',
  roles: ROLES,
  schema: noteData,
  line: (e) => e.data.text,
})

/** A wrong entry struck out; `supersedes` names it, the original stays to be read. */
export const strikeData = record({ reason: text(400) })
export type StrikeData = InferType<typeof strikeData>
export const strike = defineKind({
  kind: 'strike',
  effect: { is: 'strike' },
  stays: 'a strike cannot be corrected',
  roles: MEASURERS,
  schema: strikeData,
  line: (e) => `Struck out: ${e.data.reason}`,
})
