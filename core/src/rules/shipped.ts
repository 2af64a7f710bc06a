import { said } from '../base/said'

/** A number of the rule book with the reason that is shown beside it. SI. */
export interface Limit {
  readonly value: number
  readonly reason: string
}

/** Why plant passes as often as it does. */
const TRIED = 'As often as it takes until nothing moves any more; a density test or the maker’s sheet says better.'

/**
 * Shipped table 1: what revisions issued under it are judged by for ever. Nothing in it is changed any more; see {@link TABLES}.
 * Lengths m.
 */
const FIRST = {
  excavation: { value: 0.025, reason: `A pad of even thickness settles evenly; ±${said.small(0.025)} keeps it so.` },
  padLevel: { value: 0.005, reason: `What the pad is out, the first course is out; grid of points within ±${said.small(0.005)}.` },
  firstLevel: { value: 0.003, reason: 'The first course decides the wall: a little out here is a lot out at the top.' },
  courseLevel: { value: 0.006, reason: `More than ±${said.small(0.006)} over ${said.given(3)} shows, and opens the joints above.` },
  firstLine: { value: 0.006, reason: 'Every course above copies the line of the first.' },
  basketLevel: { value: 0.025, reason: `Baskets are bedded in stone; ±${said.small(0.025)} keeps the lids of a row in one line.` },
  basketLine: { value: 0.025, reason: `A front that wanders more than ±${said.small(0.025)} was not stretched before it was filled.` },
  courseLine: { value: 0.012, reason: `More than ±${said.small(0.012)} over ${said.given(3)} reads as a wave from below.` },
  invert: { value: 0.01, reason: 'A pipe that rises anywhere holds water behind the wall.' },
  levelClosure: { value: 0.004, reason: `Each set-up adds about ±${said.small(0.004)} at most; n of them √n times as much. More is a blunder.` },
  levelCheck: { value: 0.003, reason: `A benchmark read again more than ${said.small(0.003)} off means that the instrument moved.` },
  padThickness: { value: 0.025, reason: `A pad thick here and thin there settles unevenly: within ${said.small(0.025)} of design anywhere.` },
  preciseUnits: { value: 250, reason: `Units over ${said.mass(250)} cannot be nudged: their pad is right before the first one is set.` },
  padPrecise: { value: 0.003, reason: `Under units that only a machine moves the pad is read to ±${said.small(0.003)}.` },
  fabricLap: { value: 0.3, reason: `Laps under ${said.small(0.3)} open when the stone is placed.` },
  spoilSetback: { value: 0.6, reason: `Spoil closer than ${said.given(0.6)} to the edge loads the side and rolls back in.` },
  shoreAbove: { value: 1.2, reason: `A cut deeper than ${said.given(1.2)} is sloped, benched or shored, as a competent person decides.` },
  cutSlope: { value: 0.75, reason: 'Steeper than 0.75 across per m up only where a competent person has said that the soil stands.' },
  passes: { value: 2, reason: 'One pass only dresses the top of a lift.' },
  compaction: { value: 95, reason: 'Per cent of maximum dry density (standard); below it fill settles and pulls the wall.' },
  backfillLift: { value: 0.2, reason: `Plates and rollers reach no deeper than ${said.small(0.2)} of loose fill.` },
  backfillLoose: { value: 1.25, reason: 'Loose over compacted thickness of common fill.' },
  gridFrontMin: { value: 0.025, reason: 'Grid that shows at the face lets the units rock.' },
  gridFrontMax: { value: 0.05, reason: 'Grid too far back is not held between the units.' },
  plantStandoff: { value: 1, reason: `A roller or heavy plate within ${said.given(1)} of the face pushes the units out.` },
  gridCover: { value: 0.15, reason: `Tracks tear a layer that has less than ${said.small(0.15)} of fill on it.` },
  gridLapSoil: { value: 0.075, reason: `Grid lying on grid slides; at least ${said.small(0.075)} of soil between overlaps on a curve.` },
  pipeBed: { value: 0.05, reason: `A pipe on soil clogs and follows its hollows; at least ${said.small(0.05)} of clean stone below it.` },
  pipeCover: { value: 0.15, reason: `Less than ${said.small(0.15)} of stone over a pipe does not carry the plate above it.` },
  topLayer: { value: 0.15, reason: 'A thinner layer cracks and lets the surface water in.' },
  overhangMin: { value: 0, reason: 'A cap behind the face drips down it.' },
  overhangMax: { value: 0.06, reason: `More than ${said.small(0.06)} and the cap tips when someone sits on it.` },
  lean: { value: 2, reason: 'Degrees of total lean off the design; more shows, and changes what the wall can hold.' },
  shim: { value: 0.003, reason: `More than ${said.small(0.003)} under one unit is a bed, not a shim: re-set it.` },
  shave: { value: 0.003, reason: `More than ${said.small(0.003)} off one unit thins its shell: re-set it.` },
  pull: { value: 0.006, reason: `A lug has about ${said.small(0.006)} of play; more cannot be pulled in one course.` },
  pointSpacing: { value: 3, reason: 'Readings further apart than a level is long miss the hollow between them.' },
  passesTamper: { value: 4, reason: TRIED },
  passesTamperFine: { value: 6, reason: TRIED },
  passesLight: { value: 3, reason: TRIED },
  passesLightFine: { value: 4, reason: TRIED },
  passesHeavy: { value: 3, reason: TRIED },
  passesHeavyFine: { value: 4, reason: TRIED },
  passesRoller: { value: 4, reason: TRIED },
  passesRollerFine: { value: 6, reason: TRIED },
  courseWithoutPipe: { value: 3, reason: 'Water that stands behind a wall pushes it over; only walls of a few courses are built without a pipe.' },
  openCourses: { value: 1, reason: 'Unfilled courses shift, and voids stay in cores that are stacked over.' },
  engineeredAbove: { value: 1.2, reason: 'Above this height most codes ask for a licensed engineer and a permit.' },
  questionable: { value: 0.1, reason: `A deviation over ${said.small(0.1)} is more often a slipped digit than a mistake in the work.` },
  // Table 1 asked nothing of the plant; these are its words in the same names, so that both tables can be asked alike.
  plantEdge: { value: 0, reason: 'Plant at the edge of a cut was not judged.' },
  ladder: { value: Number.POSITIVE_INFINITY, reason: 'The way out of a cut was not judged.' },
  liftHand: { value: 1, reason: 'Lifts by hand tamper were not limited by the tool.' },
  liftPlate: { value: 1, reason: 'Lifts by plate or roller were not limited by the tool.' },
  looseHand: { value: 0.2, reason: `Plates and rollers reach no deeper than ${said.small(0.2)} of loose fill.` },
  oversize: { value: 100, reason: 'Any material could be passed by a method record.' },
  pipeFallShare: { value: Number.NEGATIVE_INFINITY, reason: 'The fall between two points was not judged.' },
  slenderness: { value: Number.POSITIVE_INFINITY, reason: 'Height over depth was not looked at.' },
  manualOne: { value: 25, reason: `One person lifts up to about ${said.mass(25)}; less where it is awkward or often.` },
  manualTwo: { value: 50, reason: `Two people lift up to about ${said.mass(50)} between them.` },
  liftingAid: { value: 100, reason: `Tongs, trolley or a vacuum aid handle up to about ${said.mass(100)}; more hangs on rated gear.` },
  gridSpacing: { value: 0.6, reason: `Fill between layers further apart than ${said.given(0.6)} bulges at the face.` },
  gridShare: { value: 0.6, reason: 'Layers shorter than six tenths of the height do not hold the mass together.' },
  tilt: { value: 0.003, reason: 'A first course that tilts across leans the whole wall.' },
  batter: { value: 0.035, reason: `${said.small(0.035)} in a metre are two degrees off the design; more shows, and changes what the wall can hold.` },
  gabionStoneMin: { value: 0.1, reason: 'Stones smaller than the mesh and a half work out through it.' },
  gabionStoneMax: { value: 0.25, reason: 'Large stones leave voids that settle.' },
  fillStep: { value: 0.33, reason: 'A basket filled more than a third over its neighbour bulges into it.' },
  cutDesigned: { value: 6, reason: `A cut deeper than ${said.given(6)} is designed by an engineer.` },
  cutStiffClay: { value: 0.75, reason: 'Dry stiff clay without cracks, as a competent person has said by name; nothing steeper.' },
  unitLevel: { value: 0.002, reason: `A unit off by more than ${said.small(0.002)} over its own length rocks or tilts.` },
  fillShort: { value: 0.025, reason: `${said.small(0.025)} show on a rod in loose stone; what is lower than that is a lift missing.` },
  testEvery: { value: 15, reason: `One density test for each lift and ${said.given(15)} of wall, at least one for each lift of a stretch.` },
  buriedLeast: { value: 0.15, reason: `Under ${said.small(0.15)} frost, rain and feet reach the pad.` },
  bermWidth: {
    value: 1.2,
    reason: `Level ground of ${said.given(1.2)} in front of a wall above a slope; whether the slope itself stands is an engineer's question.`,
  },
  filterRetention: { value: 5, reason: 'D15 of the stone over d85 of the soil; more, and the soil washes into the stone.' },
  filterPermeability: { value: 5, reason: 'D15 of the stone over d15 of the soil; less, and the stone is too fine to take the water off.' },
  filterOpening: { value: 1.2, reason: 'D85 of the stone over the openings of the pipe; less, and the stone washes through them.' },
  pickShare: {
    value: 0.75,
    reason: 'A machine tips before it stalls: three quarters of what its table gives at that reach and height, slings and lifter counted in.',
  },
  slingAngle: { value: 60, reason: 'Flatter slings pull the inserts sideways and load each leg far above its share.' },
  fallZone: { value: 3, reason: `A unit that slips rolls: nobody within ${said.given(3)} of it, and nobody between it and a wall.` },
  clipSpacing: { value: 0.45, reason: `Mesh clipped further apart than ${said.small(0.45)} sags and lets fill through.` },
  wireCover: { value: 0.05, reason: `A tamper on less than ${said.small(0.05)} of fill bends the wires below it.` },
  bermCourse: { value: 3, reason: 'The fill in front holds the toe: it is in before a fourth mat course goes on.' },
  slumpMin: { value: 0.075, reason: 'Stiffer concrete does not close round the bars without honeycombs.' },
  slumpMax: { value: 0.15, reason: 'Wetter concrete than ordered has water in it that somebody added.' },
  concreteCold: { value: 10, reason: 'Colder concrete sets late and may freeze before it does.' },
  concreteHot: { value: 32, reason: 'Hotter concrete sets before it is placed and cracks.' },
  cureUnits: { value: 3, reason: 'Days before units stand on a footing, where no strength was tested; cold makes it longer.' },
  cureBackfill: { value: 7, reason: 'Days before soil leans on grouted units, where no strength was tested; cold makes it longer.' },
  groutLift: { value: 1.2, reason: `Grout that falls further than ${said.given(1.2)} separates, and nobody sees what is below.` },
  groutSlumpMin: { value: 0.2, reason: 'Stiff grout hangs on the webs and leaves the cells empty.' },
  membraneLap: { value: 0.1, reason: `A lap under ${said.small(0.1)} opens when the fill settles against it.` },
  belowSlab: {
    value: 0.075,
    reason: `The top of the footing lies at least ${said.small(0.075)} below the finished slab, so that its edge is never seen.`,
  },
  deviceDays: {
    value: 14,
    reason: 'A device that was lost is open to whoever finds it until its session ends; two weeks without any signal are rare.',
  },
  standBehind: { value: 2, reason: 'What stands behind a wall pushes on it as far back as the wall is high; as much again is kept to be sure.' },
  swing: { value: 3, reason: `The tail of a machine swings through some ${said.given(3)} to either side; nobody has to reach in there for a unit.` },
  standSlope: { value: 0.25, reason: 'Ground that falls away more than 1 in 4 slides away under a stack of pallets.' },
  loadReach: {
    value: 2,
    reason:
      'What stands or drives behind a wall pushes on it about as far back as it is high; as much again is kept, since nobody on site knows the soil that well.',
  },
  driveLoad: {
    value: 12,
    reason: 'Cars and a delivery lorry now and then weigh as much as about two thirds of a metre of soil more behind the wall.',
  },
  levelBehind: { value: 0.1, reason: 'Ground that rises no more than 1 in 10 pushes hardly more than level ground does.' },
  fenceBehind: {
    value: 0.9,
    reason: 'A post needs ground before it and behind it; nearer to the face the wind on the fence pushes the top courses out.',
  },
  stoneFines: { value: 5, reason: 'Stone with more than 5 per cent of fines clogs the pipe and holds water.' },
} as const satisfies Record<string, Limit>

export type LimitName = keyof typeof FIRST
export type Limits = Readonly<Record<LimitName, Limit>>

/** Shipped table 2. Cautious defaults, always behind the approved plan and local code; each with what it rests on (docs/engineering.md). */
const SECOND: Limits = {
  ...FIRST,
  cutSlope: {
    value: 1.5,
    reason:
      'Soil nobody has classified is taken for the weakest: 1.5 across per 1 up. Only a named competent person may let a dry side stand steeper.',
  },
  levelClosure: { value: 0.002, reason: `A careful set-up adds about ±${said.small(0.002)}; n of them √n times as much. More is a blunder.` },
  plantEdge: { value: 1, reason: `Plant within ${said.given(1)} of the edge loads the side until it comes down.` },
  ladder: { value: 7.5, reason: `Whoever is in a cut is at a ladder or ramp within ${said.given(7.5)}.` },
  liftHand: { value: 0.075, reason: `A hand tamper reaches no deeper than ${said.small(0.1)} of loose fill, about ${said.small(0.075)} compacted.` },
  liftPlate: {
    value: 0.16,
    reason: `Plates and rollers reach no deeper than ${said.small(0.2)} of loose fill, about ${said.small(0.16)} compacted.`,
  },
  looseHand: { value: 0.1, reason: `A hand tamper reaches no deeper than ${said.small(0.1)} of loose fill.` },
  oversize: { value: 30, reason: 'Fill with at most 30 per cent of coarse stones can be tested; a method record serves only what cannot.' },
  pipeFallShare: { value: 0.5, reason: 'Between two points at least half of the planned fall must be there; against it water stands.' },
  slenderness: {
    value: 3,
    reason: 'A wall over three times as high as its units are deep stands by more than its weight alone: an engineer checks it.',
  },
}

/** The shipped tables by number. A revision is judged by the table it was issued under. */
const TABLES: Readonly<Record<number, Limits>> = { 1: FIRST, 2: SECOND }
/** The table new revisions are issued under. */
export const RULE_TABLE = 2

/** Limits every new wall starts from, for what belongs to no revision. */
export const LIMITS: Limits = SECOND
/** A shipped table by number; the newest for a number that is none. @example shippedLimits(2).compaction.value // 95 */
export const shippedLimits = (number: number): Limits => TABLES[number] ?? SECOND
