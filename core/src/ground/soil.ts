import { said } from '../base/said'
/** What a hand finds in a soil, in six answers. */
export interface SoilAnswers {
  /** What most of it is, seen and felt between the fingers. */
  readonly grain: 'gravel' | 'sand' | 'fine' | 'mixed'
  /** How long a ribbon of moist soil is pressed out between thumb and finger before it breaks. */
  readonly ribbon: 'none' | 'short' | 'medium' | 'long'
  readonly feel: 'gritty' | 'floury' | 'sticky' | 'spongy'
  readonly colour: 'even' | 'mottled' | 'dark'
  readonly smell: 'none' | 'earthy' | 'rotten'
  readonly water: 'dry' | 'moist' | 'wet' | 'seeping'
}

/** The questions in the order they are asked; each answer is one tap. */
export const SOIL_QUESTIONS: readonly {
  readonly id: keyof SoilAnswers
  readonly ask: string
  readonly answers: readonly (readonly [string, string, string])[]
}[] = [
  {
    id: 'grain',
    ask: 'What is most of it?',
    answers: [
      ['gravel', 'Gravel', `stones larger than ${said.small(0.005)}`],
      ['sand', 'Sand', 'single grains you can see'],
      ['fine', 'Fines', 'no grain to be seen'],
      ['mixed', 'Grains in fines', 'grains that stain the hand'],
    ],
  },
  {
    id: 'ribbon',
    ask: 'Moist, pressed between thumb and finger: how long a ribbon?',
    answers: [
      ['none', 'None', 'falls apart'],
      ['short', 'Short', `under ${said.small(0.025)}`],
      ['medium', 'Medium', `${said.small(0.025)} to ${said.small(0.05)}`],
      ['long', 'Long', `over ${said.small(0.05)}`],
    ],
  },
  {
    id: 'feel',
    ask: 'How does it feel?',
    answers: [
      ['gritty', 'Gritty', ''],
      ['floury', 'Floury', 'smooth, like flour'],
      ['sticky', 'Sticky', 'clings, shines when rubbed'],
      ['spongy', 'Spongy', 'springs back, threads in it'],
    ],
  },
  {
    id: 'colour',
    ask: 'Which colour?',
    answers: [
      ['even', 'One even colour', ''],
      ['mottled', 'Grey with rusty spots', 'water stands here at times'],
      ['dark', 'Black or dark brown', ''],
    ],
  },
  {
    id: 'smell',
    ask: 'Which smell?',
    answers: [
      ['none', 'None', ''],
      ['earthy', 'Garden earth', ''],
      ['rotten', 'Rot, sewage or fuel', ''],
    ],
  },
  {
    id: 'water',
    ask: 'Water in the cut?',
    answers: [
      ['dry', 'Dry', ''],
      ['moist', 'Moist', ''],
      ['wet', 'Wet', 'wets the hand'],
      ['seeping', 'Water runs in', ''],
    ],
  },
]

export type SoilClass = 'clean-gravel' | 'dirty-gravel' | 'clean-sand' | 'silty-sand' | 'silt' | 'lean-clay' | 'fat-clay' | 'organic'

/** Friction angle in degrees, unit weight kN/m³, cohesion kPa. */
export interface SoilParameters {
  readonly phi: number
  readonly gamma: number
  readonly c: number
}

/** What a class of soil means for the wall that stands on it and holds it. */
export interface SoilMeaning {
  readonly name: string
  readonly drainage: 'fast' | 'fair' | 'slow'
  readonly frost: 'little' | 'some' | 'much'
  readonly swelling: boolean
  /** Thickest loose lift in which it can be compacted, m. */
  readonly lift: number
  /** Cautious values for planning checks until a report replaces them. */
  readonly parameters: SoilParameters
  readonly means: string
}

/** Cautious textbook ranges for natural soils; general soil mechanics, the lower end of each. */
export const SOILS: Readonly<Record<SoilClass, SoilMeaning>> = {
  'clean-gravel': {
    name: 'Clean gravel',
    drainage: 'fast',
    frost: 'little',
    swelling: false,
    lift: 0.2,
    parameters: { phi: 34, gamma: 20, c: 0 },
    means: 'Carries and drains well; keep it from being washed into open stone.',
  },
  'dirty-gravel': {
    name: 'Gravel with fines',
    drainage: 'fair',
    frost: 'some',
    swelling: false,
    lift: 0.2,
    parameters: { phi: 32, gamma: 20, c: 0 },
    means: 'Carries well; the fines decide how it drains.',
  },
  'clean-sand': {
    name: 'Clean sand',
    drainage: 'fast',
    frost: 'little',
    swelling: false,
    lift: 0.2,
    parameters: { phi: 30, gamma: 18, c: 0 },
    means: 'Drains, but runs: it shifts under the pad unless it is held, and the cut will not stand.',
  },
  'silty-sand': {
    name: 'Silty or clayey sand',
    drainage: 'fair',
    frost: 'some',
    swelling: false,
    lift: 0.2,
    parameters: { phi: 28, gamma: 18.5, c: 0 },
    means: 'Usable when near its best moisture; goes soft when wet.',
  },
  silt: {
    name: 'Silt',
    drainage: 'slow',
    frost: 'much',
    swelling: false,
    lift: 0.15,
    parameters: { phi: 26, gamma: 18, c: 0 },
    means: 'Pumps under the compactor when wet and heaves in frost; keep water and frost from it.',
  },
  'lean-clay': {
    name: 'Clay of low plasticity',
    drainage: 'slow',
    frost: 'some',
    swelling: false,
    lift: 0.15,
    parameters: { phi: 24, gamma: 18.5, c: 0 },
    means: 'Holds water behind the wall: full drainage, thin lifts, close to its best moisture.',
  },
  'fat-clay': {
    name: 'Clay of high plasticity',
    drainage: 'slow',
    frost: 'some',
    swelling: true,
    lift: 0.1,
    parameters: { phi: 20, gamma: 18, c: 0 },
    means: 'Swells and shrinks: not behind or under a wall without an engineer; cover the cut, keep it at one moisture.',
  },
  organic: {
    name: 'Organic soil',
    drainage: 'slow',
    frost: 'much',
    swelling: false,
    lift: 0,
    parameters: { phi: 0, gamma: 14, c: 0 },
    means: 'Rots and settles for years: none may stay under the pad or in the fill.',
  },
}

export interface SoilFinding {
  readonly class: SoilClass
  readonly meaning: SoilMeaning
  /** Why this class, answer by answer. */
  readonly because: readonly string[]
  /** May the pad sit on it as it is? */
  readonly suitable: boolean
  /** Depth to dig out under the pad at first, m; deeper until firm ground is met. */
  readonly undercut: number
  readonly advice: readonly string[]
}

/** Depths dug out at first, m. Defaults; a report or the engineer of record overrides. */
export const UNDERCUT = { organic: 0.3, wet: 0.3, swelling: 0.3, seeping: 0.15 }

/**
 * Class of a soil from what a hand finds, and what it means for this wall. A field identification, not a soil report.
 *
 * @example identifySoil({ grain: 'fine', ribbon: 'long', feel: 'sticky', colour: 'even', smell: 'none', water: 'moist' }).class // 'fat-clay'
 */
export function identifySoil(a: SoilAnswers): SoilFinding {
  const because: string[] = []
  const say = (c: SoilClass, why: string): SoilClass => {
    because.push(why)
    return c
  }
  const kind = ((): SoilClass => {
    if (a.feel === 'spongy') return say('organic', 'spongy, with threads: plant remains')
    if (a.colour === 'dark' && a.smell !== 'none') return say('organic', 'dark and it smells: plant remains')
    if (a.smell === 'rotten') return say('organic', 'smells of rot')
    const plastic = a.ribbon === 'medium' || a.ribbon === 'long'
    if (a.grain === 'gravel') {
      return plastic || a.feel === 'sticky'
        ? say('dirty-gravel', 'gravel whose fines stick')
        : say(a.ribbon === 'none' ? 'clean-gravel' : 'dirty-gravel', a.ribbon === 'none' ? 'gravel that leaves the hand clean' : 'gravel with fines')
    }
    if (a.grain === 'sand') return a.ribbon === 'none' ? say('clean-sand', 'sand that falls apart') : say('silty-sand', 'sand that holds a ribbon')
    if (a.ribbon === 'long') return say('fat-clay', `a ribbon over ${said.small(0.05)}: high plasticity`)
    if (a.ribbon === 'medium') return say('lean-clay', `a ribbon of ${said.small(0.025)} to ${said.small(0.05)}: low plasticity`)
    if (a.grain === 'mixed') return say('silty-sand', 'grains in fines that hardly ribbon')
    if (a.feel === 'sticky') return say('lean-clay', 'it sticks although its ribbon is short')
    return say('silt', 'fines without a ribbon, floury')
  })()
  const meaning = SOILS[kind]
  const fine = meaning.drainage === 'slow'
  const soft = fine && (a.water === 'wet' || a.water === 'seeping')
  const advice: string[] = [meaning.means]
  let undercut = 0
  if (kind === 'organic') {
    undercut = UNDERCUT.organic
    because.push('organic soil never carries')
    advice.push('Dig it out to firm mineral soil and set it aside for planting.')
  } else if (soft) {
    undercut = UNDERCUT.wet
    because.push('fine and wet: soft under foot')
    advice.push('Dig the soft soil out, fill with compacted pad material over separation fabric.')
  } else if (meaning.swelling) {
    undercut = UNDERCUT.swelling
    because.push('swells with water')
    advice.push('Ask the engineer of record; replace what lies under the pad and keep water away from it.')
  }
  if (a.water === 'seeping') {
    undercut = Math.max(undercut, UNDERCUT.seeping)
    because.push('water runs into the cut')
    advice.push('Find where the water comes from and lead it out before the pad: a drain at the lowest point, open stone under the pad.')
  }
  if (a.colour === 'mottled') advice.push('Rusty spots: water stands here in the wet season; plan the drain for that, not for today.')
  if (a.smell === 'rotten') advice.push('Rot, sewage or fuel: stop, keep sparks away, have it looked at before anyone works in the cut.')
  if (meaning.frost === 'much') advice.push('Heaves in frost: keep the pad below frost depth or replace what freezes, and never build on it frozen.')
  if (fine) advice.push('Holds water: clean stone behind the wall, a drain that runs out, and fabric or a graded filter between.')
  if (meaning.lift > 0 && meaning.lift < 0.2) advice.push(`Compacts only in loose lifts up to ${said.small(meaning.lift)}.`)
  return { class: kind, meaning, because, suitable: undercut === 0, undercut, advice }
}

/**
 * Volume of soil dug out below the pad and of pad material to fill it, m³.
 *
 * @param stretch - length along the wall and width across, m; sides stand as wide as the replaced soil must spread the load (1:1)
 */
export const undercutVolume = (length: number, width: number, depth: number) => length * (width * depth + depth * depth)
