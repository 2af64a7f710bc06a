import { said } from '../base/said'
import type { CheckItem, Requirement, Stage, WallSystem } from './system'

type Stages = readonly Stage[]
/** What a school makes of the stages of a system. */
type Effect = (stages: Stages) => Stages

const change =
  (id: string, by: (s: Stage) => Stage): Effect =>
  (stages) =>
    stages.map((s) => (s.id === id ? by(s) : s))
const items = (id: string, by: (list: readonly CheckItem[]) => readonly CheckItem[]): Effect =>
  change(id, (s) => (s.work.type === 'check' || s.work.type === 'pipe' ? { ...s, work: { ...s.work, items: by(s.work.items) } } : s))
const also = (id: string, ...more: readonly CheckItem[]): Effect => items(id, (list) => [...list, ...more])
const instead = (id: string, item: string, text: string, more: Partial<CheckItem> = {}): Effect =>
  items(id, (list) => list.map((i) => (i.id === item ? { ...i, ...more, text } : i)))
const without = (id: string, item: string): Effect => items(id, (list) => list.filter((i) => i.id !== item))
/** A stage after another, which whatever asks for that other then asks for too. */
const after =
  (id: string, made: Stage, asks: Pick<Requirement, 'force' | 'why'>): Effect =>
  (stages) =>
    stages.some((s) => s.id === id)
      ? stages.flatMap((s) => {
          const asked = s.requires.find((r) => r.stage === id && r.of === 'same')
          const own = asked && s.id !== made.id ? { ...s, requires: [...s.requires, { stage: made.id, of: asked.of, ...asks }] } : s
          return s.id === id ? [own, made] : [own]
        })
      : stages
const all =
  (...effects: readonly Effect[]): Effect =>
  (stages) =>
    effects.reduce((made, e) => e(made), stages)

const adhesive: Stage = {
  id: 'adhesive',
  title: 'Adhesive',
  witness: 'course',
  scope: 'course',
  when: 'above-first',
  dry: 'Adhesive holds on clean dry units only.',
  heat: 'Adhesive skins over in the heat before it is pressed; bond in the cool of the morning.',
  how: 'Two beads on clean dry stone, each unit set straight down and never slid. Never a substitute for drainage.',
  caution: 'Open air or a mask, gloves; keep it off the face.',
  work: {
    type: 'check',
    items: [
      { id: 'clean', text: 'Beds clean and dry, smooth faces scored' },
      { id: 'beads', text: 'Two beads under every unit' },
      { id: 'down', text: 'Set straight down, none slid' },
    ],
  },
  requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'units are not all set' }],
}

const underPad: Stage = {
  id: 'under-pad',
  title: 'Geogrid under the pad',
  witness: 'pad-lifts',
  scope: 'section',
  when: 'every',
  how: 'On the compacted subgrade, flat, lapped, strength across the wall; covered before anything drives there.',
  work: {
    type: 'check',
    detail: 'Type, roll, length',
    items: [
      { id: 'flat', text: 'Flat on the compacted subgrade, no folds' },
      { id: 'lapped', text: 'Lapped as the plan asks' },
      { id: 'across', text: 'Strength direction across the wall' },
    ],
  },
  requires: [{ stage: 'subgrade', of: 'same', force: 'hold', why: 'the soil may not be covered before it' }],
}

const inverted: Stage = {
  id: 'inverted',
  title: 'Top row upside down',
  witness: 'cap',
  scope: 'course',
  when: 'last',
  dry: 'Adhesive holds on clean dry units only.',
  heat: 'Adhesive skins over in the heat before it is pressed; bond in the cool of the morning.',
  how: 'Lay the top row upside down and bond it: nothing engages it.',
  work: {
    type: 'check',
    items: [
      { id: 'turned', text: 'Every unit of the top row upside down' },
      { id: 'bonded', text: 'Bonded to the course below on clean dry units' },
    ],
  },
  requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'units are not all set' }],
}

/** The schools that change the work itself, by choice and option; others change limits, or what a plan starts from. */
const EFFECTS: Readonly<Record<string, Effect>> = {
  'floor undisturbed': all(
    instead('subgrade', 'compacted', 'Cut with a flat edge and undisturbed; firm under foot, what was disturbed is compacted'),
    change('subgrade', (s) => ({ ...s, how: 'Take out organic, soft and wet soil; cut the floor with a flat edge and keep off it.' })),
  ),
  'base-unit lip-off': all(
    instead('bedding', 'lugs', 'Lip or lug knocked off every unit of this course'),
    also('bedding', { id: 'bears', text: 'None bears on what is left of it' }),
  ),
  'base-unit recessed': instead('bedding', 'lugs', 'Groove raked into the pad, every unit bears beside it'),
  'level-interval third': change('level', (s) => ({ ...s, when: 'third', how: `${s.how} Every third course, and the last.` })),
  'adhesive each': after('units', adhesive, { force: 'soft', why: 'nobody has said how the course is glued' }),
  'adhesive none': all(
    change('cap', ({ dry: _dry, ...s }) => ({
      ...s,
      title: 'Cap seated',
      how: 'Brush the dust off, set the cap by its weight or in mortar, to the string.',
    })),
    instead('cap', 'bonded', 'Seated to the string, none rocks'),
    instead('cap', 'clean', 'Units brushed clean'),
  ),
  'setback chosen': change('setback', (s) => ({ ...s, how: `${s.how} Set back as chosen, ${said.small(0.01)} to ${said.small(0.015)} a course.` })),
  'setback near-vertical': change('setback', (s) => ({ ...s, how: `${s.how} The face stands nearly upright: whatever leans out counts at once.` })),
  'corner mitred': change('units', (s) => ({ ...s, how: `${s.how} At corners both stones are cut at half the angle.` })),
  'corner mitred-turn': all(
    change('units', (s) => ({ ...s, how: `${s.how} At corners a stone cut at the whole angle meets a whole one, in turn course by course.` })),
    instead('joints', 'mitres', 'At bends a cut stone meets a whole one, in turn course by course'),
  ),
  'corner broken': change('units', (s) => ({ ...s, how: `${s.how} At corners whatever fits, so long as no joint runs up.` })),
  'pipe-sock sock': also('drain', { id: 'sock', text: 'Sock whole, pulled over every joint and tied at the ends' }),
  'fabric wrap': instead('cover', 'fabric', 'Fabric all round the stone, lapped with the flow'),
  'fabric ends': instead('cover', 'fabric', 'Fabric below the stone; it is closed again on top'),
  'fabric u-shape': instead('cover', 'fabric', 'Fabric below and behind the stone, long enough to fold over the top'),
  'fabric none': all(instead('cover', 'fabric', 'No fabric: soil and stone filter each other by the sieves'), without('top', 'fabric')),
  'stone plated': all(
    also('fill', { id: 'plated', text: 'Stone behind plated lightly, plate parallel to the face' }),
    change('fill', (s) => ({ ...s, how: `${s.how} Plate the stone lightly with the backfill; no unit may move.` })),
  ),
  'waterproofing coating': all(
    change('membrane', ({ dry: _dry, ...s }) => ({
      ...s,
      how: 'Joints struck flush, dust off, the face damp at most; two coats brushed crosswise from the footing up, the second when the first has set.',
      caution: 'Coatings stain and irritate: gloves, eye protection, open air.',
    })),
    instead('membrane', 'clean', 'Face clean, joints flush, no water running'),
    instead('membrane', 'laid', 'Two coats crosswise, nowhere thin, from the footing to the top of the fill'),
    change('membrane', (s) => (s.work.type === 'check' ? { ...s, work: { ...s.work, measures: [] } } : s)),
  ),
  'face-compactor hand': change('backfill', (s) => ({
    ...s,
    how: `${s.how} Within a metre of the face by hand tamper only, in lifts it reaches.`,
  })),
  'grid-start under-pad': after('subgrade', underPad, { force: 'hard', why: 'the layer under the pad cannot be put in later' }),
  'top-row inverted': after('units', inverted, { force: 'soft', why: 'nobody has said how the top row lies' }),
  'cap alternating': also('cap-dry', { id: 'turned', text: 'Wide and narrow faces in turn on straight runs, all one way on curves' }),
}

/** Does a school change the stages of the work? @example changesStages('adhesive', 'each') // true */
export const changesStages = (choice: string, option: string): boolean => Object.hasOwn(EFFECTS, `${choice} ${option}`)

/**
 * The stages of a system as the schools of a plan make them.
 *
 * @param choices - choice and option, in the order of the book
 * @example schooled(stages, [{ choice: 'adhesive', option: 'each' }]).some((s) => s.id === 'adhesive') // true
 */
export function schooled(stages: Stages, choices: readonly { readonly choice: string; readonly option: string }[]): Stages {
  return choices.reduce((made, c) => EFFECTS[`${c.choice} ${c.option}`]?.(made) ?? made, stages)
}

/** One thing about the stages that differs, in words. */
export interface StageChange {
  readonly stage: string
  readonly text: string
}

/**
 * What differs between the stages of two systems: stages that come or go, when they are done, what is confirmed, what holds.
 *
 * @example stageChanges(before, after).map((c) => c.text) // ['Adhesive: a stage more']
 */
export function stageChanges(before: WallSystem, after: WallSystem): StageChange[] {
  const changes: StageChange[] = []
  const old = new Map(before.stages.map((s) => [s.id, s]))
  const itemsOf = (s: Stage) => (s.work.type === 'check' || s.work.type === 'pipe' ? s.work.items : [])
  for (const s of after.stages) {
    const say = (text: string) => changes.push({ stage: s.id, text: `${s.title}: ${text}` })
    const was = old.get(s.id)
    old.delete(s.id)
    if (!was) {
      say('a stage more')
      continue
    }
    if (was.title !== s.title) say(`was ${was.title}`)
    if (was.when !== s.when) say(s.when === 'third' ? 'every third course only' : was.when === 'third' ? 'every course again' : 'at other courses')
    if (was.hold !== s.hold) say(s.hold ? 'holds the work' : 'holds the work no more')
    if (was.how !== s.how) say(`“${s.how}”`)
    const texts = new Map(itemsOf(was).map((i) => [i.id, i.text]))
    for (const i of itemsOf(s)) {
      const text = texts.get(i.id)
      texts.delete(i.id)
      if (text === undefined) say(`asks “${i.text}”`)
      else if (text !== i.text) say(`asks “${i.text}” instead of “${text}”`)
    }
    for (const text of texts.values()) say(`no longer asks “${text}”`)
  }
  for (const s of old.values()) changes.push({ stage: s.id, text: `${s.title}: a stage less` })
  return changes
}

/** Limits that stages name. */
function limitsNamed(stages: Stages): Set<string> {
  const named = new Set<string>()
  for (const { work, requires } of stages) {
    if (work.type === 'readings') for (const l of [work.limit, work.firstLimit]) if (l) named.add(l)
    if (work.type === 'check')
      for (const m of work.measures ?? []) for (const l of [m.least, m.most]) if (typeof l === 'string' && !l.includes('.')) named.add(l)
    for (const r of requires) if (typeof r.days === 'string') named.add(r.days)
  }
  return named
}

/**
 * Limits that the stages of other systems name and those of this one do not: they say nothing of its walls.
 *
 * @example limitsApart(hollowCore, SYSTEMS).has('basketLevel') // true
 */
export function limitsApart(system: WallSystem, all: readonly WallSystem[]): ReadonlySet<string> {
  const own = limitsNamed(system.stages)
  return new Set(all.flatMap((s) => [...limitsNamed(s.stages)]).filter((l) => !own.has(l)))
}
