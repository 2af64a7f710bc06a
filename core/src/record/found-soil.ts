import { builtHeight, factsOf, type Layout, ladderWords, soilFacts, waterWords } from '../layout'
import { exposedHeight } from '../plan'
import { limitsOf, SOIL_CLASSES, type SoilClass, since } from '../rules'
import { soilsOf } from './ground-report'
import type { WallState } from './state'

/** From the best to stand on and lean against to the worst. */
const WORSE: readonly SoilClass[] = [
  ...(['clean-gravel', 'clean-sand', 'dirty-gravel', 'silty-sand', 'silt', 'lean-clay', 'fat-clay', 'made-ground', 'organic'] as const),
]
const worst = (of: readonly SoilClass[]): SoilClass | undefined =>
  of.reduce<SoilClass | undefined>((w, c) => (w === undefined || WORSE.indexOf(c) > WORSE.indexOf(w) ? c : w), undefined)

/**
 * The soil as it was found behind and below a wall; what was dug out and replaced lies below no more. What nobody said the place of counts for
 * both.
 *
 * @example foundSoil(state).behind // ['lean-clay']
 */
export function foundSoil(state: WallState): { readonly behind: readonly SoilClass[]; readonly below: readonly SoilClass[] } {
  const found = soilsOf(state).filter((s) => !s.finding.stop)
  const of = (place: 'floor' | 'sides') =>
    [
      ...new Set(
        found.filter((s) => (s.data.place ?? place) === place && (place === 'sides' || s.open || s.finding.suitable)).map((s) => s.finding.class),
      ),
    ].sort((a, b) => SOIL_CLASSES.indexOf(a) - SOIL_CLASSES.indexOf(b))
  return { behind: of('sides'), below: of('floor') }
}

const known = new WeakMap<Layout, Map<string, readonly string[]>>()
/**
 * What the soil that was found makes of the wall since rule table 3, in words, where the plan does not say it already: swelling, organic or made
 * ground, and a wall too slender for the soil it leans on. Nobody builds on before it is answered.
 *
 * @example soilStops(state)[0] // 'This wall is an engineer's: clay that swells lies behind it. …'
 */
export function soilStops(state: WallState): readonly string[] {
  const { layout } = state
  const { plan } = layout
  if (!since(plan, 3)) return []
  const { behind, below } = foundSoil(state)
  if (behind.length + below.length === 0) return []
  const key = `${behind.join()}|${below.join()}`
  const own = known.get(layout) ?? new Map<string, readonly string[]>()
  known.set(layout, own)
  const before = own.get(key)
  if (before) return before
  const low = exposedHeight(plan) <= limitsOf(plan).lowShowing.value + 1e-6
  const said = plan.soil ?? {}
  const facts = [
    // Worse than the plan says counts; better is for the next revision to say.
    ...factsOf(layout, {
      behind: worst([...behind, ...(said.behind ? [said.behind] : [])]),
      below: worst([...below, ...(said.below ? [said.below] : [])]),
    }),
    ...behind.flatMap((c) => soilFacts(plan, { behind: c }, low)),
    ...below.flatMap((c) => soilFacts(plan, { below: c }, low)),
  ]
  const told = new Set(layout.cautions.map((c) => c.message))
  // A wall without a pipe was planned for ground that lets water through.
  const drained = waterWords({ ...plan, soil: { ...said, below: worst([...below, ...(said.below ? [said.below] : [])]) } }, layout.courses, facts)
  const words = [...ladderWords(plan, facts, builtHeight(plan, layout.steps, layout.tops).height), ...drained.filter((w) => w.blocks)]
    .map((w) => w.message)
    .filter((m) => !told.has(m))
  own.set(key, words)
  return words
}
