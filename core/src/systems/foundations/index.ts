import { said } from '../../base/said'
import { variant, type yup } from '../../base/schema'
import type { Foundation, FoundationData, FoundationKind } from '../foundation'
import type { Quantity } from '../quantity'
import { denseGraded } from './dense-graded'
import { floor } from './floor'
import { footing } from './footing'
import { leanConcrete } from './lean-concrete'
import { openGraded } from './open-graded'
import { sand } from './sand'
import { sandCement } from './sand-cement'
import { twoStone } from './two-stone'

/** Every kind of foundation; a new one is a file beside these and its line here. */
export const FOUNDATIONS: readonly FoundationKind[] = [denseGraded, openGraded, twoStone, sand, sandCement, leanConcrete, footing, floor]

/** Kinds that something is built for: what a wall of units stands on, unless its system lets it stand on the bare floor. */
export const BUILT_FOUNDATIONS: readonly string[] = FOUNDATIONS.filter((f) => !f.nothing).map((f) => f.id)

/** The schema of a foundation of one of these kinds. @example foundationOf(['sand', 'dense-graded']) */
export const foundationSchema = (kinds: readonly string[] = BUILT_FOUNDATIONS): yup.ISchema<FoundationData> =>
  variant<FoundationData>('kind', Object.fromEntries(FOUNDATIONS.filter((f) => kinds.includes(f.id)).map((f) => [f.id, f.schema])))

/** A kind by its id. @example foundationKindOf('sand')?.name // 'Coarse sand' */
export const foundationKindOf = (id: string): FoundationKind | undefined => FOUNDATIONS.find((f) => f.id === id)

/** The kind of a foundation that was read. */
export function foundationKind(data: FoundationData): FoundationKind {
  const kind = foundationKindOf(data.kind)
  if (!kind) throw new RangeError(`no foundation ${data.kind}`)
  return kind
}

/** Its own volume: compacted and loose where it is placed in lifts, else as it is cast. */
function bulk(d: FoundationData, lifts: Foundation['lifts'], run: number, above: number): Quantity[] {
  const thick = lifts?.over ?? d.thickness
  const volume = run * d.width * thick
  const working = `${said.length(run, 2)} × ${said.given(d.width)} × ${said.given(thick)}`
  return lifts
    ? [
        {
          id: 'pad',
          name: 'Pad, compacted',
          value: volume,
          unit: 'm³',
          working,
          bought: { name: 'Pad material', order: volume * (1 + above / 100), loose: lifts.loose, placed: 'pad' },
        },
        {
          id: 'pad-order',
          name: 'Order: pad material, loose',
          value: volume * lifts.loose * (1 + above / 100),
          unit: 'm³',
          working: `× ${lifts.loose} loose + ${above} %`,
          bought: false,
        },
      ]
    : [
        {
          id: 'pad',
          name: 'Foundation, cast',
          value: volume,
          unit: 'm³',
          working,
          bought: { name: 'Concrete', order: volume * (1 + above / 100), placed: 'pad' },
        },
        { id: 'pad-order', name: 'Order: foundation, cast', value: volume * (1 + above / 100), unit: 'm³', working: `+ ${above} %`, bought: false },
      ]
}

/** A foundation's data as the rest of the house looks at it. @example foundation(data.foundation).drains */
export function foundation(data: FoundationData): Foundation {
  const kind = foundationKind(data)
  const coarse = kind.coarse?.(data)
  const own = kind.lifts?.(data)
  const lifts = own && coarse !== undefined ? { ...own, over: coarse } : own
  return {
    kind: kind.id,
    name: kind.name,
    thickness: data.thickness,
    width: data.width,
    minRun: data.minRun,
    ...kind.traits,
    ...(lifts ? { lifts } : {}),
    sizes: kind.sizes?.(data) ?? {},
    takes: (run, above) => [...(kind.nothing ? [] : bulk(data, lifts, run, above)), ...(kind.takes?.(data, run) ?? [])],
  }
}
