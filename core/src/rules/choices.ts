import { said } from '../base/said'
import type { Chapter } from './definitions'

/** What is known of a wall when a school is recommended; lengths m, masses kg. */
export interface WallFacts {
  readonly height: number
  readonly unit: {
    readonly height: number
    readonly length: number
    readonly mass: number
    readonly profile?: string | undefined
    readonly hollow: boolean
  }
  readonly courses: number
  readonly pad: string
  /** Is there somewhere lower than the pad for its water to leave? */
  readonly drains: boolean
  readonly frost?: number | undefined
  readonly slope: boolean
  readonly load: boolean
  readonly engineered: boolean
  /** The ground in front falls away or washes out. */
  readonly weakToe: boolean
}

/** One school of practice. */
export interface School {
  readonly id: string
  readonly title: string
  /** What it is and what it trades, in a sentence or two. */
  readonly says: string
  /** Limits it comes to, where nobody at its level or below sets them. */
  readonly limits?: Readonly<Record<string, number>>
}

/** Where good practitioners disagree: one question, its schools, and which is taken where nobody says otherwise. */
export interface ChoiceDef {
  readonly id: string
  readonly title: string
  readonly chapter: Chapter
  readonly options: readonly School[]
  readonly standard: string
  /** Asked since this rule table; always where left out. */
  readonly since?: number
  /** The school the facts of a wall speak for, and why; undefined where they speak for none. */
  recommend?(wall: WallFacts): { readonly option: string; readonly because: string } | undefined
}

const choose = (
  id: string,
  chapter: Chapter,
  title: string,
  standard: string,
  options: readonly (readonly [id: string, title: string, says: string])[],
  recommend?: ChoiceDef['recommend'],
): ChoiceDef => ({
  id,
  chapter,
  title,
  standard,
  options: options.map(([o, t, says]) => ({ id: o, title: t, says })),
  ...(recommend ? { recommend } : {}),
})

/** Schools that are limits, SI. */
const SCHOOL_LIMITS: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  'open-courses two': { openCourses: 2 },
  'cap flush': { overhangMin: -0.003, overhangMax: 0.003 },
  'lift-thickness thin': { backfillLift: 0.1, liftPlate: 0.08 },
}

const ALL: readonly ChoiceDef[] = [
  choose(
    'embedment',
    'engineer',
    'Embedment depth',
    'deepest',
    [
      [
        'deepest',
        'Deepest of several',
        'Every school the plan names is worked out, and the deepest governs. Costs a course where they differ; never too shallow.',
      ],
      ['fixed', 'Fixed minimum', 'The same depth under every wall. Easy to check; too little where the ground in front slopes or freezes.'],
      [
        'fixed-and-height',
        'Fixed, and more with height',
        'A minimum with an allowance for each metre of height. Follows the load without asking for the ground.',
      ],
      ['fraction', 'Fraction of the height', 'A tenth to a third of what is seen. Sound for high walls, very little under low ones.'],
      [
        'whole-course',
        'At least one whole course',
        'What is buried is a course, so that the first seen one starts level. More than is needed under thick units.',
      ],
      ['part-course', 'Part of a course', 'For walls of up to three courses only: the toe is held, little is lost to the ground.'],
    ],
    (w) =>
      w.weakToe || (w.frost ?? 0) > 0.3
        ? { option: 'deepest', because: w.weakToe ? 'The ground in front falls away or washes out.' : 'The ground freezes here.' }
        : w.courses <= 3
          ? { option: 'part-course', because: `It is ${w.courses} ${w.courses === 1 ? 'course' : 'courses'} high.` }
          : undefined,
  ),
  choose('floor', 'dig', 'Floor of the trench', 'compacted', [
    ['compacted', 'Compacted', 'The floor is compacted before the pad, whatever it looks like. Always right but in wet clay, which it kneads soft.'],
    [
      'undisturbed',
      'Left undisturbed',
      'Cut with a flat edge and never walked on loose: firm ground stays as it is, and is looked at instead. What was disturbed is compacted all the same.',
    ],
  ]),
  choose(
    'pad-material',
    'pad',
    'Pad material',
    'dense-graded',
    [
      ['dense-graded', 'Dense graded', 'Crushed stone with fines: compacts hard and can be tested. Holds water where it has nowhere to go.'],
      [
        'open-graded',
        'Open graded',
        'Clean stone, a finer layer on top: drains and works in rain. Wants somewhere lower for the water, and a method record instead of a density.',
      ],
      ['sand', 'Coarse sand', 'For tiny walls only: quick to screed, washes out.'],
      ['sand-cement', 'Dry sand and cement', 'About 6 : 1, kept dry until watered: stiff under small units, cracks where the ground moves.'],
      [
        'lean-concrete',
        'Lean concrete',
        'Exact and stiff, wanted under units that only a machine moves. Does not drain and does not follow the ground.',
      ],
      ['footing', 'Reinforced footing', 'For masonry: a footing by the engineer. Nothing that steps or settles.'],
    ],
    (w) =>
      w.drains && (w.frost ?? 0) > 0
        ? { option: 'open-graded', because: 'Water can leave below it, and the ground freezes.' }
        : !w.drains
          ? { option: 'dense-graded', because: 'There is nowhere lower for water to leave: an open pad would stand in it.' }
          : undefined,
  ),
  choose(
    'pad-test',
    'pad',
    'How the pad is proved',
    'density',
    [
      [
        'density',
        'By density tests',
        'Tests by lift and stretch against maximum density. Says what is there; open-graded stone cannot be tested so.',
      ],
      [
        'method',
        'By method',
        'Plant, lift and passes recorded, and somebody looks that nothing moves any more. Right for stone that cannot be tested; for others it proves less.',
      ],
    ],
    (w) => (w.pad === 'open-graded' ? { option: 'method', because: 'Open-graded stone has no density to test.' } : undefined),
  ),
  choose(
    'base-unit',
    'first',
    'Underside of the first course',
    'as-made',
    [
      ['as-made', 'As it is', 'The unit lies flat as it is made, or a flat base unit is ordered.'],
      [
        'lip-off',
        'Lip or lug knocked off',
        'The first course lies flat on the pad. Quick; each unit is a little weaker at its edge, and the count of lips is work of its own.',
      ],
      ['recessed', 'Recess in the pad', 'A groove for the lip is raked into the pad. Keeps the unit whole; the groove is hard to keep level.'],
    ],
    (w) => (w.unit.profile === 'rear-lip' ? { option: 'lip-off', because: 'The lip would hold every unit off the pad.' } : undefined),
  ),
  choose(
    'level-interval',
    'courses',
    'Levels above the first course',
    'every',
    [
      ['every', 'Every course', 'What is out is seen before the next course hides it. A few minutes a course.'],
      ['third', 'Every third course', 'The first course, then every third and the last. Less reading; a creep is seen two courses late.'],
    ],
    (w) => (w.courses > 8 || w.engineered ? { option: 'every', because: 'On a high wall a little out below is a lot out at the top.' } : undefined),
  ),
  choose(
    'open-courses',
    'courses',
    'Courses open before they are filled',
    'one',
    [
      ['one', 'One', 'Each course is filled before the next: nothing shifts, no core is stacked over empty.'],
      ['two', 'Two', 'Faster with small light units; unfilled units shift when the second is knocked in.'],
    ],
    (w) => (w.unit.hollow && w.unit.height > 0.15 ? { option: 'one', because: 'Cores under a second course cannot be rodded.' } : undefined),
  ),
  choose('setback', 'courses', 'Setback', 'unit', [
    ['unit', 'As the unit makes it', 'Lug, lip or tongue sets it. Nothing to measure wrong.'],
    [
      'chosen',
      'Chosen for each course',
      `For flat units: ${said.small(0.01)} to ${said.small(0.015)} hides a line that wanders, and leans into the fill.`,
    ],
    ['near-vertical', 'Near vertical', 'Looks straight and saves ground; stands by its weight alone, and every error shows.'],
  ]),
  choose('corner', 'courses', 'Corners', 'corner-units', [
    [
      'corner-units',
      'Corner units in turn',
      'Finished on two faces, long side and short side in turn. Strong; to be ordered by hand, left and right.',
    ],
    [
      'mitred',
      'Mitred, both at half the angle',
      'Any angle from whole units; both stones are cut at half the turn and the corner looks even. Its joint runs up.',
    ],
    [
      'mitred-turn',
      'Mitred in turn',
      'One stone cut at the whole angle against a whole one, in turn: the cut of one course lies over a whole stone of the next. Slower, wants a saw day.',
    ],
    ['broken', 'Never the same joint twice', 'Whatever fits, so long as no joint runs up the corner. For free curves and landscape stone.'],
  ]),
  choose(
    'adhesive',
    'courses',
    'Adhesive',
    'caps',
    [
      ['caps', 'Caps only', 'Units with lug, lip or tongue hold each other; what can be lifted off by hand is glued.'],
      ['each', 'Each course', 'Small flat units: two beads on clean dry stone, set straight down, never slid. Never a substitute for drainage.'],
      ['none', 'None', 'Caps by their weight or in mortar. Can be taken off again, by anybody.'],
    ],
    (w) =>
      w.unit.profile === 'landscape' && w.unit.mass < 20
        ? { option: 'each', because: `A stone of ${said.mass(w.unit.mass)} is pushed off by a foot.` }
        : undefined,
  ),
  choose('drain-seat', 'water', 'Where the toe drain sits', 'by-facts', [
    [
      'by-facts',
      'Where pad and outlet put it',
      'Inside an open pad, on a bed beside a dense one, raised where the outlet is high: worked out for each wall.',
    ],
    ['in-pad', 'Low, inside an open pad', 'Drains the pad itself. Weakens a dense pad, and wants an outlet lower still.'],
    ['on-bed', 'On a stone bed behind the pad', 'Beside a dense pad, above its 1 : 1 line. The usual place.'],
    ['raised', 'Raised to where it can run out', 'Several courses up, stone below it: where there is no lower outlet. What is below stays wet.'],
  ]),
  choose('pipe-sock', 'water', 'Sock round the pipe', 'none', [
    ['none', 'None', 'The clean stone is the filter; only ends are wrapped. Nothing to blind.'],
    ['sock', 'Sock', 'Keeps fines out of the pipe; blinds in silt and iron water and then drains nothing.'],
  ]),
  choose('fabric', 'water', 'Filter fabric', 'by-filter', [
    ['by-filter', 'What the filter check says', 'None where soil and stone filter each other, else behind the stone.'],
    ['wrap', 'Full wrap behind the stone', 'Stone and soil never meet. One clogged sheet holds the whole face.'],
    ['ends', 'Below and on top only', 'Keeps soil from falling in from above and pumping up from below.'],
    ['u-shape', 'Below and behind', 'A U under and behind the stone, folded over at the top.'],
    ['none', 'None', 'A graded filter instead. Wants soil and stone that were sieved.'],
  ]),
  choose(
    'stone',
    'fill',
    'Stone behind the units',
    'rodded',
    [
      ['rodded', 'Rodded', 'Placed and rodded by hand: nothing pushes the units. Settles a little.'],
      ['plated', 'Light plate with the backfill', 'Settles nothing; pushes light units out where the plate comes too close.'],
    ],
    (w) => (w.unit.mass < 20 ? { option: 'rodded', because: 'Units this light move under a plate.' } : undefined),
  ),
  choose(
    'face-compactor',
    'fill',
    'Compactor near the face',
    'plate',
    [
      ['plate', 'Light plate', 'Reaches further and is quicker; from the face backwards, parallel to it.'],
      ['hand', 'Hand tamper', 'Within a metre of the face only by hand, in thinner lifts: for small walls and light units.'],
    ],
    (w) => (w.unit.mass < 20 ? { option: 'hand', because: `Units of ${said.mass(w.unit.mass)} are pushed out by a plate.` } : undefined),
  ),
  choose('lift-thickness', 'fill', 'Lifts of backfill', 'by-plant', [
    ['by-plant', 'What the plant reaches', `Loose ${said.small(0.1)} by hand tamper, ${said.small(0.2)} by plate and roller, by the limits beside.`],
    ['thin', 'Thin everywhere', `Loose ${said.small(0.1)} whatever the plant. More lifts, more even; a density test seldom fails.`],
  ]),
  choose('grid-start', 'grid', 'Where geogrid starts', 'as-planned', [
    ['as-planned', 'As the plan shows', 'Nothing is proposed where the plan has no layer.'],
    [
      'first-joint',
      'From the first joint',
      'A layer on the first course and on every second one. Holds the toe of the mass; the planner proposes it where no engineer’s plan governs.',
    ],
    [
      'second-course',
      'Every second course',
      'From the second course on: one layer fewer, the first fill is easier; the planner proposes it where no engineer’s plan governs.',
    ],
    ['under-pad', 'One more under the pad', 'On ground that settles unevenly: laid flat on the compacted subgrade.'],
  ]),
  choose(
    'grid-length',
    'grid',
    'Length of geogrid where no plan governs',
    'seven-tenths',
    [
      ['six-tenths', 'Six tenths of the height', 'The least that is common; level top, good soil, no load.'],
      ['seven-tenths', 'Seven tenths of the height', 'The common length under the engineered height.'],
      ['height', 'Equal to the height', 'Poor soil, a slope or a load above; more to dig.'],
    ],
    (w) => (w.slope || w.load ? { option: 'height', because: w.slope ? 'Ground rises behind it.' : 'A load stands above it.' } : undefined),
  ),
  {
    ...choose('layer-edge', 'grid', 'Where the edge of a layer lies', 'by-unit', [
      [
        'by-unit',
        'As the unit wants it',
        'Behind the lug where units have one, up to the face where they are flat: what the unit grips is what holds.',
      ],
      [
        'behind',
        'Behind the face',
        `${said.small(0.025)} to ${said.small(0.05)} behind it: never seen, and held between the units. Some grip is given away on shallow ones.`,
      ],
      ['flush', 'Close to the face', `Within ${said.small(0.025)} of it: all of the unit grips it; an edge that shows is burnt off.`],
      ['lip', 'Against the lip', 'Where a lip at the back holds it: no edge in the bed that lets units rock. Less of the unit lies on it.'],
    ]),
    since: 3,
  },
  choose('top-row', 'top', 'Top row under the cap', 'upright', [
    ['upright', 'As every other', 'Lugs up; the cap is laid over them or they are knocked off.'],
    ['inverted', 'Laid upside down', 'The cap sits flat without knocking lugs off. The row must be bonded, nothing engages it.'],
  ]),
  choose('cap', 'top', 'Cap', 'overhang', [
    ['overhang', 'Overhanging', `Up to about ${said.small(0.05)}: drips clear of the face and hides a line that wanders.`],
    ['flush', 'Flush', 'Straight down with the face; every millimetre of the top course shows.'],
    ['alternating', 'Wide and narrow in turn', 'Tapered caps turned in turn on straight runs, all one way on curves.'],
  ]),
  choose('top-grade', 'top', 'Top of the wall', 'stepped', [
    ['stepped', 'Stepped with the grade', 'Follows the ground; finished ends at every step.'],
    ['level', 'One level top', 'For a fence or a terrace; the wall is as high as its highest ground everywhere.'],
  ]),
  {
    ...choose('height-from', 'engineer', 'Height of a wall is counted from', 'pad', [
      ['pad', 'The bottom of the pad', 'What is buried pushes as what is seen does. The engineer is asked sooner.'],
      [
        'first-course',
        'The underside of the first course',
        'As some local codes count it; the pad is left out. Say which code, by its section: the engineer is asked a pad’s thickness later.',
      ],
    ]),
    since: 3,
  },
  {
    ...choose('second-eyes', 'engineer', 'Who releases a hold point', 'others', [
      ['others', 'Somebody who did not do the work', 'A second pair of eyes sees what the first got used to.'],
      [
        'own',
        'Who did the work, where the point can be looked at later',
        'Faster for a small crew. What is covered and cannot be looked at again still takes somebody else.',
      ],
    ]),
    since: 3,
  },
  {
    ...choose('crew', 'engineer', 'People in the company', 'several', [
      ['several', 'Several', 'A release waits for a second person where its point asks for one.'],
      [
        'one',
        'One person',
        'The same person looks again after a pause, by a list made for that look and with a photo, and the record says so. Lifting, picks and deep cuts keep their second person; engineers’ walls keep somebody from outside.',
      ],
    ]),
    since: 3,
  },
  {
    ...choose('low-pipe', 'water', 'Low walls without a pipe', 'always', [
      ['always', 'Always a pipe', 'A pipe costs an hour and shows where water comes from. Three courses at most go without.'],
      [
        'drained',
        'None where the ground lets it through',
        'Gravel and sand below, an open pad with a way out for the water: a pipe lies dry there, and may clog unseen. Wrong where the ground was judged kinder than it is.',
      ],
    ]),
    since: 3,
  },
  choose('waterproofing', 'water', 'Waterproofing of masonry', 'membrane', [
    ['membrane', 'Self-adhesive membrane', 'Lasts as long as the wall; wants a dry, clean, primed face and boards before the fill.'],
    ['coating', 'Brushed coating', 'Goes on damp walls and round corners; thinner, and roots and stones get through it sooner.'],
  ]),
]

/**
 * Every choice between schools, in the order of the work. The standard of each is what a wall was built by before there were choices.
 * An approved plan goes before any of them.
 */
export const CHOICES: readonly ChoiceDef[] = ALL.map((c) => ({
  ...c,
  options: c.options.map((o) => {
    const limits = SCHOOL_LIMITS[`${c.id} ${o.id}`]
    return limits ? { ...o, limits } : o
  }),
}))

/** The choices a rule table knows. @example choicesSince(2).length */
export const choicesOf = (table: number): readonly ChoiceDef[] => CHOICES.filter((c) => (c.since ?? 1) <= table)

export const choiceDef = (id: string): ChoiceDef | undefined => CHOICES.find((c) => c.id === id)
