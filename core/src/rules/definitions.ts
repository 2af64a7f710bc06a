import type { LimitName } from './shipped'

/** How a limit is written: a length, or a number of its own. */
export type LimitUnit =
  | ('length' | '%' | 'passes' | '°' | 'share' | 'ratio' | 'mass' | 'count' | 'days' | 'hours' | 'temperature' | 'pressure')
  | ('speed' | 'rain')

/** Chapters of the rule book, in the order of the work. */
export const CHAPTERS = ['engineer', 'dig', 'pad', 'first', 'courses', 'water', 'fill', 'grid', 'concrete', 'top', 'lifting', 'devices'] as const
export type Chapter = (typeof CHAPTERS)[number]
export const CHAPTER_NAMES: Readonly<Record<Chapter, string>> = {
  engineer: 'Plan and engineer',
  dig: 'Dig',
  pad: 'Pad and levels',
  first: 'First course',
  courses: 'Courses',
  water: 'Water',
  fill: 'Fill and compaction',
  grid: 'Geogrid and wire',
  concrete: 'Concrete and masonry',
  top: 'Top and cap',
  lifting: 'Lifting',
  devices: 'Devices',
}

/** What a limit is: which side of it is out, what is taken for meant, and who may set it. SI. */
export interface LimitDef {
  readonly title: string
  readonly of: LimitUnit
  /** within: so far either way; most and least: on that side. */
  readonly sense: 'most' | 'least' | 'within'
  readonly range: readonly [least: number, most: number]
  readonly chapter: Chapter
  /** An approved drawing may set it for its wall, with its reference. */
  readonly drawing?: true
  /**
   * people: it keeps people safe, nobody sets it kinder than it ships, no drawing either. plan: it holds the wall; a signed plan sets it
   * with its reference, company and wall only stricter.
   */
  readonly safety?: 'people' | 'plan'
  /** A slope, written as 1.5H:1V: its number is across per 1 up, or up per 1 across. */
  readonly slope?: 'across' | 'up'
  /** Held so since this rule table; always where left out. */
  readonly since?: number
}

const def = (title: string, of: LimitUnit, sense: LimitDef['sense'], range: LimitDef['range'], chapter: Chapter): LimitDef => ({
  title,
  of,
  sense,
  range,
  chapter,
})
const drawn = (...of: Parameters<typeof def>): LimitDef => ({ ...def(...of), drawing: true })
const safe = (...of: Parameters<typeof def>): LimitDef => ({ ...def(...of), safety: 'people' })
/** Of the structure: a signed plan may set it, nobody else makes it kinder. */
const signed = (...of: Parameters<typeof def>): LimitDef => ({ ...def(...of), safety: 'plan', drawing: true })

/** What a drawing could set either way before rule table 3. */
const since3 = (safety: 'people' | 'plan', ...of: Parameters<typeof def>): LimitDef => ({ ...def(...of), drawing: true, safety, since: 3 })

const sloped = (slope: 'across' | 'up', of: LimitDef): LimitDef => ({ ...of, slope })

/** Every limit of the rule book, in the order of the work. */
export const LIMIT_DEFS: Readonly<Record<LimitName, LimitDef>> = {
  excavation: drawn('Excavation depth', 'length', 'within', [0.002, 0.1], 'dig'),
  spoilSetback: safe('Spoil from the edge of a cut', 'length', 'least', [0.6, 5], 'dig'),
  plantEdge: safe('Plant from the edge of a cut', 'length', 'least', [0.3, 10], 'dig'),
  ladder: safe('Way out of a cut, no further than', 'length', 'most', [1, 15], 'dig'),
  shoreAbove: safe('Cut to be sloped, benched or shored above', 'length', 'most', [0.3, 3], 'dig'),
  cutSlope: sloped('across', safe('Cut nobody has classified, across per 1 up', 'ratio', 'least', [0.25, 4], 'dig')),
  cutDesigned: safe('Cut that an engineer designs, above', 'length', 'most', [3, 6], 'dig'),
  cutStiffClay: sloped('across', safe('Cut in dry stiff clay, classified, across per 1 up', 'ratio', 'least', [0.25, 4], 'dig')),
  padLevel: drawn('Pad level', 'length', 'within', [0.001, 0.03], 'pad'),
  padPrecise: drawn('Pad level under heavy units', 'length', 'within', [0.001, 0.03], 'pad'),
  preciseUnits: def('Units whose pad is read closer, above', 'mass', 'most', [25, 2000], 'pad'),
  padThickness: drawn('Pad thickness', 'length', 'within', [0.005, 0.1], 'pad'),
  levelClosure: def('Closure of a level leg, per root of its set-ups', 'length', 'within', [0.001, 0.01], 'pad'),
  levelCheck: def('Benchmark read again', 'length', 'within', [0.001, 0.01], 'pad'),
  pointSpacing: def('Readings apart, at most', 'length', 'most', [0.5, 10], 'pad'),
  firstLevel: drawn('First course level', 'length', 'within', [0.001, 0.02], 'first'),
  firstLine: drawn('First course alignment', 'length', 'within', [0.001, 0.03], 'first'),
  tilt: drawn('Tilt of the first course across', 'length', 'within', [0.001, 0.02], 'first'),
  unitLevel: def('One unit under the level', 'length', 'within', [0.001, 0.01], 'first'),
  courseLevel: drawn('Course level', 'length', 'within', [0.001, 0.03], 'courses'),
  courseLine: drawn('Course alignment and setback', 'length', 'within', [0.002, 0.05], 'courses'),
  basketLevel: drawn('Basket level', 'length', 'within', [0.005, 0.1], 'courses'),
  basketLine: drawn('Basket line', 'length', 'within', [0.005, 0.1], 'courses'),
  batter: drawn('Batter off the design, in a metre', 'length', 'within', [0.005, 0.1], 'courses'),
  lean: drawn('Total lean off the design', '°', 'most', [0.2, 6], 'courses'),
  shim: def('Shim under one unit', 'length', 'most', [0.001, 0.01], 'courses'),
  shave: def('Shave off one unit', 'length', 'most', [0.001, 0.01], 'courses'),
  pull: def('Pull of one course', 'length', 'most', [0.001, 0.02], 'courses'),
  openCourses: def('Open courses', 'count', 'most', [1, 6], 'courses'),
  questionable: def('Deviation that is asked about', 'length', 'most', [0.02, 0.5], 'courses'),
  gabionStoneMin: drawn('Gabion stone, least', 'length', 'least', [0.05, 0.3], 'courses'),
  gabionStoneMax: drawn('Gabion stone, most', 'length', 'most', [0.1, 0.6], 'courses'),
  fillStep: drawn('Fill between neighbouring baskets, most', 'length', 'most', [0.1, 1], 'courses'),
  invert: drawn('Pipe invert', 'length', 'within', [0.002, 0.03], 'water'),
  pipeFallShare: drawn('Share of the planned fall between two points', 'share', 'least', [0, 1], 'water'),
  pipeBed: drawn('Stone below the pipe', 'length', 'least', [0.03, 0.6], 'water'),
  pipeCover: drawn('Stone over the pipe', 'length', 'least', [0.05, 1], 'water'),
  fabricLap: drawn('Fabric lap', 'length', 'least', [0.1, 2], 'water'),
  filterRetention: def('Filter: holds the soil back', 'ratio', 'most', [3, 9], 'water'),
  filterPermeability: def('Filter: lets the water through', 'ratio', 'least', [4, 10], 'water'),
  filterOpening: def('Filter: stone beside the openings of the pipe', 'ratio', 'least', [1, 3], 'water'),
  stoneFines: def('Fines in the stone', '%', 'most', [0, 15], 'water'),
  compaction: since3('plan', 'Compaction, of maximum density', '%', 'least', [85, 105], 'fill'),
  passes: drawn('Passes', 'passes', 'least', [1, 20], 'fill'),
  passesTamper: drawn('Passes by hand tamper, granular', 'passes', 'least', [1, 20], 'fill'),
  passesTamperFine: drawn('Passes by hand tamper, silt or clay', 'passes', 'least', [1, 20], 'fill'),
  passesLight: drawn('Passes by light plate, granular', 'passes', 'least', [1, 20], 'fill'),
  passesLightFine: drawn('Passes by light plate, silt or clay', 'passes', 'least', [1, 20], 'fill'),
  passesHeavy: drawn('Passes by heavy plate, granular', 'passes', 'least', [1, 20], 'fill'),
  passesHeavyFine: drawn('Passes by heavy plate, silt or clay', 'passes', 'least', [1, 20], 'fill'),
  passesRoller: drawn('Passes by roller, granular', 'passes', 'least', [1, 20], 'fill'),
  passesRollerFine: drawn('Passes by roller, silt or clay', 'passes', 'least', [1, 20], 'fill'),
  liftPlate: drawn('Lift by plate or roller, compacted', 'length', 'most', [0.05, 0.4], 'fill'),
  liftHand: drawn('Lift by hand tamper, compacted', 'length', 'most', [0.03, 0.15], 'fill'),
  backfillLift: drawn('Lift by plate or roller, loose', 'length', 'most', [0.06, 0.5], 'fill'),
  looseHand: drawn('Lift by hand tamper, loose', 'length', 'most', [0.04, 0.2], 'fill'),
  fillShort: def('Fill below its height', 'length', 'most', [0.005, 0.1], 'fill'),
  testEvery: def('Wall to each density test', 'length', 'most', [3, 50], 'fill'),
  backfillLoose: def('Loose over compacted thickness', 'ratio', 'most', [1, 2], 'fill'),
  oversize: def('Coarse stones in fill that is tested', '%', 'most', [10, 60], 'fill'),
  plantStandoff: since3('people', 'Heavy plant from the face', 'length', 'least', [0.5, 5], 'fill'),
  gridFrontMin: drawn('Geogrid behind the face, least', 'length', 'least', [0, 0.3], 'grid'),
  gridFrontMax: drawn('Geogrid behind the face, most', 'length', 'most', [0, 0.3], 'grid'),
  gridCover: since3('plan', 'Fill on geogrid before traffic', 'length', 'least', [0.1, 0.6], 'grid'),
  gridLapSoil: since3('plan', 'Soil between overlapping geogrid', 'length', 'least', [0.025, 0.3], 'grid'),
  gridSpacing: since3('plan', 'Geogrid layers apart, most', 'length', 'most', [0.2, 1], 'grid'),
  gridShare: since3('plan', 'Geogrid length, share of the height', 'share', 'least', [0.4, 1.5], 'grid'),
  courseWithoutPipe: safe('Courses a wall may have without a pipe', 'count', 'most', [0, 3], 'water'),
  topLayer: drawn('Layer over the stone', 'length', 'least', [0.05, 1], 'top'),
  overhangMin: drawn('Cap overhang, least', 'length', 'least', [-0.05, 0.1], 'top'),
  overhangMax: drawn('Cap overhang, most', 'length', 'most', [0, 0.15], 'top'),
  engineeredAbove: safe('Height above which an engineer plans it', 'length', 'most', [0.3, 6], 'engineer'),
  buriedLeast: def('Buried, at least', 'length', 'least', [0.05, 1], 'engineer'),
  bermWidth: def('Level ground in front, where it falls away', 'length', 'least', [0.6, 5], 'engineer'),
  slenderness: safe('Height over depth of the units', 'ratio', 'most', [1, 10], 'engineer'),
  manualOne: safe('Lifted by one person', 'mass', 'most', [5, 40], 'lifting'),
  manualTwo: safe('Lifted by two people', 'mass', 'most', [10, 80], 'lifting'),
  liftingAid: safe('Lifted with an aid', 'mass', 'most', [25, 250], 'lifting'),
  pickShare: safe('Pick, share of what the machine lifts there', 'share', 'most', [0.3, 1], 'lifting'),
  slingAngle: safe('Slings over the level, at least', '°', 'least', [45, 90], 'lifting'),
  fallZone: safe('Nobody nearer to a hanging unit than', 'length', 'least', [1, 20], 'lifting'),
  clipSpacing: drawn('Clips of mesh or fabric apart', 'length', 'most', [0.1, 1], 'grid'),
  wireCover: drawn('Fill over the wires before a tamper', 'length', 'least', [0.03, 0.2], 'grid'),
  bermCourse: drawn('Mat courses before the toe berm is filled', 'count', 'most', [1, 6], 'grid'),
  slumpMin: drawn('Concrete slump, least', 'length', 'least', [0.02, 0.25], 'concrete'),
  slumpMax: drawn('Concrete slump, most', 'length', 'most', [0.05, 0.28], 'concrete'),
  concreteCold: drawn('Concrete placed, no colder than', 'temperature', 'least', [2, 15], 'concrete'),
  concreteHot: drawn('Concrete placed, no warmer than', 'temperature', 'most', [25, 38], 'concrete'),
  cureUnits: since3('plan', 'Footing cured before units stand on it', 'days', 'least', [0, 28], 'concrete'),
  cureBackfill: since3('plan', 'Grout cured before the backfill', 'days', 'least', [1, 28], 'concrete'),
  groutLift: drawn('Grout placed in one go, high', 'length', 'most', [0.2, 3.6], 'concrete'),
  groutSlumpMin: drawn('Grout slump, least', 'length', 'least', [0.15, 0.25], 'concrete'),
  membraneLap: drawn('Membrane lap', 'length', 'least', [0.05, 0.5], 'concrete'),
  loadReach: safe('Loads behind the wall count up to, times its height', 'ratio', 'least', [1, 5], 'engineer'),
  driveLoad: safe('Load of a drive behind the wall', 'pressure', 'least', [10, 60], 'engineer'),
  levelBehind: sloped('up', safe('Ground behind taken for level, up per 1 back', 'ratio', 'most', [0, 0.2], 'engineer')),
  fenceBehind: safe('Posts behind the face', 'length', 'least', [0.6, 5], 'top'),
  standBehind: safe('Material behind the wall, times its height', 'ratio', 'least', [1, 5], 'fill'),
  swing: safe('Material clear of the machine to either side', 'length', 'least', [1.5, 15], 'lifting'),
  standSlope: safe('Ground that carries a stack, across to down', 'ratio', 'most', [0, 0.5], 'dig'),
  deviceDays: safe('A device goes on without a word of the house', 'days', 'most', [1, 30], 'devices'),
  belowSlab: drawn('Footing below the finished slab', 'length', 'least', [0, 1], 'concrete'),
  lowShowing: safe('Low wall, shows at most', 'length', 'most', [0.2, 0.6], 'engineer'),
  steepBehind: sloped('up', safe('Ground behind too steep for a crew, up per 1 back', 'ratio', 'most', [0.1, 0.5], 'engineer')),
  steepFront: sloped('up', safe('Ground in front too steep for a crew, down per 1 out', 'ratio', 'most', [0.1, 0.5], 'engineer')),
  frontNoFigure: sloped('up', safe('Ground in front on which no embedment answers, down per 1 out', 'ratio', 'most', [0.3, 0.67], 'engineer')),
  fenceOpen: safe('Open fence on the wall, high', 'length', 'most', [0.3, 2], 'engineer'),
  guardAbove: safe('Guard over the edge, from a fall of', 'length', 'most', [0.3, 1.2], 'top'),
  footingLine: sloped(
    'across',
    safe('Line from the bottom of the cut that no foundation lies within, back per 1 up', 'ratio', 'least', [1, 3], 'engineer'),
  ),
  slendernessSilty: safe('Height over depth in silty or clayey sand', 'ratio', 'most', [1, 4], 'engineer'),
  slendernessFine: safe('Height over depth in silt, clay or soil unsaid', 'ratio', 'most', [1, 4], 'engineer'),
  cutEvery: safe('Cut that one look speaks for', 'length', 'most', [3, 15], 'dig'),
  matShare: signed('Mat length, share of the height', 'share', 'least', [0.4, 1.5], 'grid'),
  matSpacing: signed('Mats apart, most', 'length', 'most', [0.2, 1], 'grid'),
  courseWithoutStone: safe('Courses a wall may have without stone behind', 'count', 'most', [0, 3], 'water'),
  heightWithoutPipe: safe('Wall without a pipe on ground that drains, high', 'length', 'most', [0, 1.2], 'water'),
  windLift: safe('Wind in which units hang', 'speed', 'most', [10, 45], 'lifting'),
  rainDamp: def('Rain in 24 h that leaves beds damp, over', 'rain', 'most', [0, 5], 'fill'),
  rainWet: safe('Rain in 24 h after which a cut is looked at again', 'rain', 'most', [1, 10], 'dig'),
  rainSoaked: def('Rain in 24 h that soaks fill', 'rain', 'most', [5, 40], 'fill'),
  frostAt: def('Frost, down to', 'temperature', 'least', [-2, 3], 'fill'),
  frostNear: def('Look for frozen crusts, down to', 'temperature', 'least', [0, 6], 'fill'),
  heatAt: def('Too hot for mortar and adhesive, from', 'temperature', 'most', [25, 38], 'concrete'),
  cureLean: signed('Lean concrete before light units', 'days', 'least', [0.5, 28], 'concrete'),
  cureLeanHeavy: signed('Lean concrete before units a machine sets', 'days', 'least', [1, 28], 'concrete'),
  cureMean: signed('A day counts for curing from a mean of', 'temperature', 'least', [0, 10], 'concrete'),
  frostWatch: safe('No frost expected after a pour within', 'hours', 'least', [24, 120], 'concrete'),
  secondLook: safe('Second look by the same person, after', 'hours', 'least', [0.5, 72], 'engineer'),
}

/** Is a value of a limit kinder than another: does it let more pass? */
export const kinder = (d: LimitDef, value: number, than: number) => (d.sense === 'least' ? value < than - 1e-12 : value > than + 1e-12)

/** What a limit is, by name; undefined for a name that is none. @example limitDef('compaction')?.of // '%' */
export const limitDef = (name: string): LimitDef | undefined => (Object.hasOwn(LIMIT_DEFS, name) ? LIMIT_DEFS[name as LimitName] : undefined)
/** The same where a drawing may set it for its own wall. Safety of people is not among them. */
export const drawingMay = (name: string): LimitDef | undefined => {
  const found = limitDef(name)
  return found?.drawing ? found : undefined
}
export const DRAWING_LIMITS: readonly string[] = Object.keys(LIMIT_DEFS).filter((n) => drawingMay(n))
