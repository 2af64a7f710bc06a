import { optionalDay } from '../base/day'
import {
  anything,
  choice,
  type InferType,
  list,
  optionalChoice,
  optionalList,
  optionalQuantity,
  optionalRecord,
  optionalText,
  optionalYesNo,
  quantity,
  record,
  text,
  yesNo,
} from '../base/schema'
import { elevationAt, type ProfilePoint, readerOf } from '../geometry'
import { addedPointSchema, choiceChangeSchema, pointChangeSchema, RULE_TABLE, ruleBookSchema, SOIL_CLASSES } from '../rules'
import { type Around, builtInSchema } from './built-in'
import { answerSchema, coversSchema } from './engineer'
import { foundSchema } from './found-ground'
import { standSchema } from './stands'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const elevation = () => metres(-500, 9000)
const stationField = () => metres(0, 2000)
const gridMetres = () => metres(-10_000_000, 10_000_000)

/** What can stand above and beside a wall, or come at it: each of them is an engineer's. */
export const HOLDS = ['slope', 'load', 'water', 'structure', 'tier', 'seismic'] as const
export type Holds = (typeof HOLDS)[number]
export const HOLDS_NAMES: Readonly<Record<Holds, string>> = {
  slope: 'a slope that rises behind it',
  load: 'a drive, traffic or stored loads',
  water: 'standing or flowing water',
  structure: 'a building or structure within its height',
  tier: 'another wall above or below it',
  seismic: 'earthquakes',
}

/**
 * What every wall has, whatever it is built of; the rest belongs to its system, which reads it by a schema of its own. One revision of a
 * plan is in force at a time; entries name the revision they were made under. SI: stations, elevations and lengths in m.
 */
export const planFields = {
  name: text(80),
  site: text(120),
  drawing: optionalText(80),
  engineer: optionalText(120),
  /** Who made the engineered plan: asked since rule table 2, with licence or reference; since table 3 those stand in fields of their own. */
  engineerBy: optionalText(120),
  engineerLicence: optionalText(80),
  /** The day of that plan. */
  engineerOn: optionalDay(),
  engineerCovers: coversSchema(),
  /** What was asked before a crew builds it, and answered. */
  asked: optionalList(answerSchema, 20),
  /** The soil behind and below, where somebody has said it before the dig, and who. What the dig finds goes before it. */
  soil: optionalRecord({ behind: optionalChoice(SOIL_CLASSES), below: optionalChoice(SOIL_CLASSES), by: optionalText(160) }),
  /** Can people come to the edge on top? Taken as yes where nobody says. */
  edge: optionalChoice(['people', 'nobody'] as const),
  /** What stands above and beside the wall, or comes at it; an empty list says that there is nothing, left out that nobody has said. */
  holds: optionalList(choice(HOLDS), 10),
  /** What that is in plain words, with how far off and how much: what of it reaches the wall is judged by the rules. */
  stands: optionalList(standSchema, 20),
  /** The ground as it was found, before anything was dug. */
  found: foundSchema(),
  /** The ground in front: how far it falls away, m down per m out, and whether water or feet wash it out. */
  front: optionalRecord({ slope: quantity({ min: 0, max: 2, unit: 'm down per m out' }), erodible: yesNo() }),
  /** How deep the ground freezes here, m. */
  frost: optionalQuantity({ min: 0, max: 4, unit: 'm' }),
  /** The system it is built of, and that system's own part of the plan. */
  system: record({ id: text(40), data: anything() }),
  length: metres(0.5, 2000),
  /**
   * The face line of course 1 on the site grid, stations from its first point, the fill on its left. `bulge` is the tangent
   * of a quarter of the arc's angle, positive to the left. Left out: a straight wall.
   */
  alignment: optionalRecord({
    vertices: list(record({ easting: gridMetres(), northing: gridMetres(), bulge: optionalQuantity({ min: -50, max: 50 }) }), 2, 500),
    closed: yesNo(),
  }),
  /** How the top follows its grade, and the shortest top step (m). */
  top: optionalRecord({ style: choice(['stepped', 'level', 'cap-following'] as const), minRun: optionalQuantity({ min: 0, max: 50, unit: 'm' }) }),
  /** Stations at which the pad steps, where somebody put them; by themselves where left out. */
  padSteps: optionalList(stationField(), 200),
  /** Pipes and culverts through the wall: courses stop at them. Bottom is an elevation; m. */
  openings: optionalList(
    record({ name: text(60), station: stationField(), width: metres(0.02, 20), bottom: elevation(), height: metres(0.02, 10) }),
    50,
  ),
  /** What the wall is measured from. */
  references: optionalList(
    record({
      name: text(60),
      kind: choice(['building-line', 'string', 'benchmark'] as const),
      points: list(record({ easting: gridMetres(), northing: gridMetres() }), 1, 50),
    }),
    50,
  ),
  /** What must not be touched: a round one has one point and a radius. */
  obstacles: optionalList(
    record({
      name: text(60),
      kind: choice(['tree', 'service', 'structure'] as const),
      points: list(record({ easting: gridMetres(), northing: gridMetres() }), 1, 50),
      radius: optionalQuantity({ min: 0, max: 100, unit: 'm' }),
      clearance: metres(0, 50),
    }),
    100,
  ),
  grades: list(record({ station: stationField(), toe: elevation(), top: elevation() }), 2, 500),
  benchmark: record({ name: text(60), elevation: elevation() }),
  excavation: record({ behind: metres(0, 20), slope: quantity({ min: 0, max: 4, unit: 'm across per m up' }) }),
  /** Where the pipe sits and how it is kept open; what comes to it. Left out: on a stone bed, no sock. */
  water: optionalRecord({
    school: optionalChoice(['in-pad', 'on-bed', 'raised'] as const),
    sock: optionalYesNo(),
    /** Largest opening of the pipe's wall, m: holes or slots. */
    holes: optionalQuantity({ min: 0.0005, max: 0.05, unit: 'm' }),
    /** Stone below and above the pipe, m. */
    bed: optionalQuantity({ min: 0, max: 1, unit: 'm' }),
    cover: optionalQuantity({ min: 0, max: 2, unit: 'm' }),
    /** Places where water could leave by gravity: the ground there, m. */
    possible: optionalList(record({ name: optionalText(60), station: stationField(), invert: elevation() }), 50),
    /** Second pipe at the back of the cut: height of its outlets above those of the toe drain (m), and its own fall. */
    heel: optionalRecord({
      above: metres(0, 3),
      fall: quantity({ min: 0, max: 0.2, unit: 'm per m' }),
      /** Outlets of its own; those of the toe drain, raised, where left out. */
      outlets: optionalList(record({ station: stationField(), invert: elevation() }), 50),
    }),
    /** Ground above that sheds water to the wall, m²; share that runs off; rain, mm in an hour. */
    area: optionalQuantity({ min: 0, max: 1_000_000, unit: 'm²' }),
    runoff: optionalQuantity({ min: 0, max: 1 }),
    rain: optionalQuantity({ min: 0, max: 500, unit: 'mm/h' }),
  }),
  /** What is built with the wall and is no part of it: cleared first, laid under, through or behind it, put on top. */
  builtIn: optionalList(builtInSchema(), 60),
  sections: list(record({ id: text(8), from: stationField(), to: stationField() }), 1, 200),
  /** Which shipped table of limits the revision is judged by; 1 where it was issued before tables had numbers. Set by the house when it is issued. */
  ruleTable: optionalQuantity({ min: 1, max: RULE_TABLE, whole: true }),
  /** The whole of the rules it was issued under, and who set what; the house works it out when the revision is issued. */
  book: ruleBookSchema.optional().default(undefined),
  rules: optionalRecord({
    /** Limits the drawing sets itself, in SI (per cent, passes and degrees as they are), each with where it says so. */
    limits: optionalList(record({ limit: text(40), value: quantity({ min: -10, max: 1000 }), source: text(160) }), 40),
    /** Schools of practice, inspection points and points of its own, where this wall has others than its company and site. */
    choices: optionalList(choiceChangeSchema, 100),
    points: optionalList(pointChangeSchema, 100),
    added: optionalList(addedPointSchema, 100),
    openCourses: optionalQuantity({ min: 1, max: 6, whole: true }),
    pointSpacing: optionalQuantity({ min: 0.5, max: 10, unit: 'm' }),
    engineeredAbove: optionalQuantity({ min: 0, max: 6, unit: 'm' }),
    /** From where the height of the wall is counted: the bottom of the pad, or the underside of the first course. */
    heightFrom: optionalChoice(['pad', 'first-course'] as const),
    /** May a person release at a hold point what they recorded themselves? Taken as no. */
    ownRelease: optionalYesNo(),
  }),
}
export const planSchema = record(planFields)
type Common = InferType<typeof planSchema>
/** A plan as it is worked with: its system's part has been read by that system's schema, and only the system looks into it. */
export type Plan = Omit<Common, 'system'> & { readonly system: { readonly id: string; readonly data: unknown } }

/** Both grades of a plan as profiles: they are asked for at every unit of a wall. */
const profiles = new WeakMap<Plan['grades'], Record<'toe' | 'top', readonly ProfilePoint[]>>()
function profileOf({ grades }: Plan, of: 'toe' | 'top'): readonly ProfilePoint[] {
  let known = profiles.get(grades)
  if (!known) {
    const made = (of: 'toe' | 'top') => grades.map((g) => ({ station: g.station, elevation: g[of] }))
    known = { toe: made('toe'), top: made('top') }
    profiles.set(grades, known)
  }
  return known[of]
}

/** Toe grade at a station, m. */
export const toeAt = (plan: Plan, station: number) => elevationAt(profileOf(plan, 'toe'), station)

/** As `toeAt`, for many stations one after the other. */
export const toeReader = (plan: Plan) => readerOf(profileOf(plan, 'toe'))

/** Top grade at a station, m. */
export const topAt = (plan: Plan, station: number) => elevationAt(profileOf(plan, 'top'), station)

/**
 * Greatest height of wall that can be seen, m: top grade above toe grade. A top that is built level stands as high as its highest grade
 * wherever the toe is; rule table 1 did not count that.
 */
export function exposedHeight(plan: Plan): number {
  const level = plan.top?.style === 'level' && (plan.ruleTable ?? 1) > 1
  const high = Math.max(...plan.grades.map((g) => g.top))
  return Math.max(...plan.grades.map((g) => (level ? high : g.top) - g.toe))
}

/** What of a wall that which is built in with it may look at. @example aroundOf(plan).topAt(4) */
export const aroundOf = (plan: Plan): Around => ({
  length: plan.length,
  topAt: (station) => topAt(plan, station),
  toeAt: (station) => toeAt(plan, station),
  openings: plan.openings ?? [],
  sections: plan.sections,
})
