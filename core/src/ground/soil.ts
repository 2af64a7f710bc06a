import { said } from '../base/said'
import type { SoilClass } from '../rules'
/** What a hand finds in a soil, in six answers. */
export interface SoilAnswers {
  /** What most of it is, seen and felt between the fingers. */
  readonly grain: 'gravel' | 'sand' | 'fine' | 'mixed'
  /** How long a ribbon of moist soil is pressed out between thumb and finger before it breaks. */
  readonly ribbon: 'none' | 'short' | 'medium' | 'long'
  readonly feel: 'gritty' | 'floury' | 'sticky' | 'spongy'
  readonly colour: 'even' | 'mottled' | 'dark'
  readonly smell: 'none' | 'earthy' | 'rotten' | 'foul'
  readonly water: 'dry' | 'moist' | 'wet' | 'seeping'
  /** Grown ground, or tipped by people: asked since rule table 2. */
  readonly origin?: 'natural' | 'made' | 'unsure' | undefined
  /** How it takes a heel, a bar or a loaded wheel: asked since rule table 2. */
  readonly firm?: 'hard' | 'firm' | 'soft' | 'pumps' | undefined
}

export interface SoilQuestion {
  readonly id: keyof SoilAnswers
  readonly ask: string
  readonly answers: readonly (readonly [string, string, string])[]
}

/** The questions of rule table 1 in the order they were asked; each answer is one tap. */
export const SOIL_QUESTIONS: readonly SoilQuestion[] = [
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

/** What is asked since table 2: a smell that drives people out of the cut is not one of rotting plants; where it comes from; how firm it is. */
const SINCE: readonly SoilQuestion[] = [
  {
    id: 'smell',
    ask: 'Which smell?',
    answers: [
      ['none', 'None', ''],
      ['earthy', 'Garden earth', ''],
      ['rotten', 'Rotting plants', ''],
      ['foul', 'Fuel, gas, solvent or sewage', 'leave the cut now'],
    ],
  },
  {
    id: 'origin',
    ask: 'Grown ground, or tipped there by people?',
    answers: [
      ['natural', 'Grown', 'lies as nature left it'],
      ['made', 'Tipped or dug before', 'brick, ash, rubbish, an old trench'],
      ['unsure', 'Not sure', ''],
    ],
  },
  {
    id: 'firm',
    ask: 'A heel, a bar or a loaded wheel on it?',
    answers: [
      ['hard', 'No mark', ''],
      ['firm', 'A mark', `a heel under ${said.small(0.01)}, a bar hardly goes in`],
      ['soft', 'Sinks in', `a heel over ${said.small(0.01)}, a bar by hand`],
      ['pumps', 'Moves', 'waves or shakes beside the wheel or the foot'],
    ],
  },
]

/**
 * What is asked of a soil under a rule table.
 *
 * @example soilQuestions(2).length // 8
 */
export function soilQuestions(table: number): readonly SoilQuestion[] {
  if (table === 1) return SOIL_QUESTIONS
  const own = SOIL_QUESTIONS.map((q) => SINCE.find((s) => s.id === q.id) ?? q)
  return [...own, ...SINCE.filter((s) => !own.includes(s))]
}

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
  /** Cautious values for planning checks until a report replaces them: light where its weight helps. */
  readonly parameters: SoilParameters
  /** Unit weight where it pushes, kN/m³: the heavy end of the range. */
  readonly heavy: number
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
    heavy: 21.5,
    means: 'Carries and drains well; keep it from being washed into open stone.',
  },
  'dirty-gravel': {
    name: 'Gravel with fines',
    drainage: 'fair',
    frost: 'some',
    swelling: false,
    lift: 0.2,
    parameters: { phi: 32, gamma: 20, c: 0 },
    heavy: 22,
    means: 'Carries well; the fines decide how it drains.',
  },
  'clean-sand': {
    name: 'Clean sand',
    drainage: 'fast',
    frost: 'little',
    swelling: false,
    lift: 0.2,
    parameters: { phi: 30, gamma: 18, c: 0 },
    heavy: 20,
    means: 'Drains, but runs: it shifts under the pad unless it is held, and the cut will not stand.',
  },
  'silty-sand': {
    name: 'Silty or clayey sand',
    drainage: 'fair',
    frost: 'some',
    swelling: false,
    lift: 0.2,
    parameters: { phi: 28, gamma: 18.5, c: 0 },
    heavy: 21,
    means: 'Usable when near its best moisture; goes soft when wet.',
  },
  silt: {
    name: 'Silt',
    drainage: 'slow',
    frost: 'much',
    swelling: false,
    lift: 0.15,
    parameters: { phi: 26, gamma: 18, c: 0 },
    heavy: 20,
    means: 'Pumps under the compactor when wet and heaves in frost; keep water and frost from it.',
  },
  'lean-clay': {
    name: 'Clay of low plasticity',
    drainage: 'slow',
    frost: 'some',
    swelling: false,
    lift: 0.15,
    parameters: { phi: 24, gamma: 18.5, c: 0 },
    heavy: 20.5,
    means: 'Holds water behind the wall: full drainage, thin lifts, close to its best moisture.',
  },
  'fat-clay': {
    name: 'Clay of high plasticity',
    drainage: 'slow',
    frost: 'some',
    swelling: true,
    lift: 0.1,
    parameters: { phi: 20, gamma: 18, c: 0 },
    heavy: 20,
    means: 'Swells and shrinks: not behind or under a wall without an engineer; cover the cut, keep it at one moisture.',
  },
  'made-ground': {
    name: 'Made ground',
    drainage: 'slow',
    frost: 'much',
    swelling: false,
    lift: 0,
    parameters: { phi: 20, gamma: 14, c: 0 },
    heavy: 21,
    means: 'Tipped by people: nobody knows what lies in it or how deep. It carries no wall and is no fill.',
  },
  organic: {
    name: 'Organic soil',
    drainage: 'slow',
    frost: 'much',
    swelling: false,
    lift: 0,
    parameters: { phi: 0, gamma: 14, c: 0 },
    heavy: 18,
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
  /** Work stops and people leave the cut: nothing that is dug out answers it. */
  readonly stop: boolean
  readonly advice: readonly string[]
}

/** Depths dug out at first, m. Defaults; a report or the engineer of record overrides. */
export const UNDERCUT = { organic: 0.3, wet: 0.3, swelling: 0.3, seeping: 0.15 }

/**
 * Class of a soil from what a hand finds, and what it means for this wall. A field identification, not a soil report.
 *
 * @param table - rule table of the revision it was found under
 * @example identifySoil({ grain: 'fine', ribbon: 'long', feel: 'sticky', colour: 'even', smell: 'none', water: 'moist' }, 1).class // 'fat-clay'
 */
export const identifySoil = (a: SoilAnswers, table: number): SoilFinding => (table === 1 ? identifyFirst(a) : identifyCautious(a))

function identifyFirst(a: SoilAnswers): SoilFinding {
  const because: string[] = []
  const say = (c: SoilClass, why: string): SoilClass => {
    because.push(why)
    return c
  }
  const kind = ((): SoilClass => {
    if (a.feel === 'spongy') return say('organic', 'spongy, with threads: plant remains')
    if (a.colour === 'dark' && a.smell !== 'none') return say('organic', 'dark and it smells: plant remains')
    if (a.smell === 'rotten' || a.smell === 'foul') return say('organic', 'smells of rot')
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
  return { class: kind, meaning, because, suitable: undercut === 0, undercut, stop: false, advice }
}

/** Plastic fines rule over the grains one can see: a soil is as bad as the worst of it. */
function classOf(a: SoilAnswers): readonly [SoilClass, string] {
  if (a.feel === 'spongy') return ['organic', 'spongy, with threads: plant remains']
  if (a.smell === 'rotten') return ['organic', 'smells of rot']
  if (a.colour === 'dark' && a.smell !== 'none') return ['organic', 'dark and it smells: plant remains']
  if (a.origin === 'made') return ['made-ground', 'tipped there by people, or dug before']
  if (a.origin !== 'natural') return ['made-ground', 'nobody is sure that it is grown ground']
  if (a.ribbon === 'long') return ['fat-clay', `a ribbon over ${said.small(0.05)}: high plasticity, whatever grains are in it`]
  if (a.grain === 'gravel') {
    const clean = a.ribbon === 'none' && a.feel === 'gritty'
    return clean ? ['clean-gravel', 'gravel that leaves the hand clean'] : ['dirty-gravel', 'gravel with fines']
  }
  if (a.ribbon === 'medium') return ['lean-clay', `a ribbon of ${said.small(0.025)} to ${said.small(0.05)}: low plasticity`]
  if (a.feel === 'sticky') return ['lean-clay', 'it sticks although its ribbon is short']
  if (a.grain === 'sand')
    return a.ribbon === 'none' && a.feel === 'gritty' ? ['clean-sand', 'sand that falls apart'] : ['silty-sand', 'sand with fines in it']
  if (a.grain === 'mixed') return ['silty-sand', 'grains in fines that hardly ribbon']
  return ['silt', 'fines without a ribbon, floury']
}

/** Rule table 2. Field identification by hand after the visual-manual practice of soil mechanics; firmness by heel, bar or proof roll. */
function identifyCautious(a: SoilAnswers): SoilFinding {
  const [kind, why] = classOf(a)
  const meaning = SOILS[kind]
  const because = [why]
  const advice = [meaning.means]
  const fine = meaning.drainage === 'slow'
  const wet = a.water === 'wet' || a.water === 'seeping'
  // Whatever has fines in it goes soft with water; clean sand runs with it.
  const softened = wet && kind !== 'clean-gravel' && (kind !== 'clean-sand' || a.water === 'seeping')
  let undercut = 0
  const out = (depth: number, reason: string, what: string) => {
    undercut = Math.max(undercut, depth)
    because.push(reason)
    advice.push(what)
  }
  if (kind === 'organic') out(UNDERCUT.organic, 'organic soil never carries', 'Dig it out to firm mineral soil and set it aside for planting.')
  if (kind === 'made-ground') out(UNDERCUT.organic, 'made ground never carries', 'Dig it out to firm grown ground, or ask the engineer of record.')
  if (meaning.swelling)
    out(UNDERCUT.swelling, 'swells with water', 'Ask the engineer of record; replace what lies under the pad and keep water away from it.')
  if (softened)
    out(UNDERCUT.wet, 'wet: soft under foot', 'Dig the soft soil out to firm ground, fill with compacted pad material over separation fabric.')
  if (a.firm === 'soft' || a.firm === 'pumps')
    out(
      UNDERCUT.wet,
      a.firm === 'soft' ? 'a heel or bar sinks in' : 'it moves under the wheel or foot',
      'Dig to ground that takes a heel and a bar without giving.',
    )
  if (a.firm === undefined) out(UNDERCUT.wet, 'nobody tried how firm it is', 'Try it with a heel, a bar or a loaded wheel.')
  if (a.water === 'seeping')
    out(
      UNDERCUT.seeping,
      'water runs into the cut',
      'Find where the water comes from and lead it out before the pad: a drain at the lowest point, open stone under the pad.',
    )
  if (a.colour === 'mottled') advice.push('Rusty spots: water stands here in the wet season; plan the drain for that, not for today.')
  if (meaning.frost === 'much') advice.push('Heaves in frost: keep the pad below frost depth or replace what freezes, and never build on it frozen.')
  if (fine) advice.push('Holds water: clean stone behind the wall, a drain that runs out, and fabric or a graded filter between.')
  if (meaning.lift > 0 && meaning.lift < 0.2) advice.push(`Compacts only in loose lifts up to ${said.small(meaning.lift)}.`)
  const stop = a.smell === 'foul'
  if (stop) {
    because.unshift('fuel, gas, solvent or sewage was smelled')
    advice.unshift(
      'Stop. Everyone out of the cut, engines and sparks away, let it air. Call the owner of the line and the competent person; nobody goes back before one of them has said so by name.',
    )
  }
  return { class: kind, meaning, because, suitable: undercut === 0 && !stop, undercut, stop, advice }
}

/**
 * Volume of soil dug out below the pad and of pad material to fill it, m³.
 *
 * @param stretch - length along the wall and width across, m; sides stand as wide as the replaced soil must spread the load (1:1)
 */
export const undercutVolume = (length: number, width: number, depth: number) => length * (width * depth + depth * depth)
