import { said } from '../base/said'
import type { SoilClass } from '../rules'
import { SOILS } from './soil'

export type PadMaterial = 'dense-graded' | 'open-graded' | 'sand' | 'sand-cement' | 'lean-concrete'
export const PAD_NAMES: Readonly<Record<PadMaterial, string>> = {
  'dense-graded': 'Dense graded',
  'open-graded': 'Open graded',
  sand: 'Coarse sand',
  'sand-cement': 'Sand-cement',
  'lean-concrete': 'Lean concrete',
}

export const PAD_MATERIALS = Object.keys(PAD_NAMES) as readonly PadMaterial[]

/** What is known of the place a pad is built in. Elevations m, mass kg. */
export interface PadFacts {
  /** Bottom of the pad at its lowest. */
  readonly padBottom: number
  readonly padTop: number
  /** Lowest outlet that can run out by gravity. */
  readonly outlet: number
  readonly subgrade: SoilClass
  readonly frost: boolean
  /** Rain expected while the pad is open. */
  readonly rain: boolean
  readonly unitMass: number
  /** Visible height of the wall, m. */
  readonly height: number
  /** Baskets and the like follow what settles; rigid units do not. */
  readonly flexible: boolean
}

export interface PadOption {
  readonly material: PadMaterial
  readonly score: number
  readonly reasonsFor: readonly string[]
  readonly against: readonly string[]
  /** May not be chosen without an engineer. */
  readonly ruledOut: boolean
  /** Where the toe drain sits with this pad. */
  readonly drain: string
}

/**
 * Pad materials for this place, best first, each with what speaks for it and against it. The foreman chooses; an approved plan overrides.
 *
 * @example padAdvice(facts)[0].material
 */
export function padAdvice(f: PadFacts): PadOption[] {
  const drains = f.outlet <= f.padBottom + 0.02
  const soil = SOILS[f.subgrade]
  const tight = soil.drainage === 'slow'
  const heavy = f.unitMass > 250
  const tiny = f.height <= 0.6
  const low = drains
    ? 'Low: inside the stone of the pad, at the bottom.'
    : `Raised to ${said.length(f.outlet, 2)}, the lowest level that still runs out by gravity.`
  const onBed = f.outlet <= f.padTop + 0.02 ? 'On a bed of clean stone on the pad.' : low
  type Reason = readonly [number, string]
  const make = (material: PadMaterial, drain: string, reasons: readonly (Reason | false)[], ruledOut = false): PadOption => {
    const said = reasons.filter((r): r is Reason => r !== false)
    return {
      material,
      score: said.reduce((sum, [n]) => sum + n, 0) - (ruledOut ? 100 : 0),
      reasonsFor: said.filter(([n]) => n > 0).map(([, t]) => t),
      against: said.filter(([n]) => n < 0).map(([, t]) => t),
      ruledOut,
      drain,
    }
  }
  const options = [
    make('dense-graded', onBed, [
      [3, 'Locks tight, levels to a few millimetres and can be tested for density.'],
      !drains && [3, 'No outlet below the pad: stone with fines does not fill with water that cannot leave.'],
      tight && !drains && [1, 'On tight soil an open pad would stand full.'],
      drains && [-1, 'Holds back water that could leave below it.'],
      f.frost && [-2, 'Its fines hold water and can heave in frost.'],
      f.rain && [-2, 'Turns to mud when rained on before it is covered.'],
      heavy && [-4, 'Heavy units print into it unless it is very well compacted.'],
    ]),
    make('open-graded', low, [
      drains && [4, 'The outlet lies below the pad: water leaves through it.'],
      !drains && [-4, 'No outlet below the pad: it would be a sump under the wall.'],
      f.rain && [2, 'Rain does not hurt it while it is open.'],
      f.frost && [2, 'Holds no water to freeze.'],
      tight && drains && [1, 'Keeps water off the tight soil below.'],
      [-1, 'Cannot be tested for density; wants a method record and a thin finer layer to level on.'],
      f.subgrade === 'silt' && [-1, 'Silt washes into it: fabric below.'],
    ]),
    make(
      'sand',
      onBed,
      [
        tiny && [1, 'Quick to screed for a very low wall.'],
        [-2, 'Washes out wherever water runs.'],
        !tiny && [-4, `Too weak for a wall over ${said.given(0.6)}.`],
        f.rain && [-1, 'Washes out in rain.'],
      ],
      !tiny,
    ),
    make('sand-cement', onBed, [
      [1, 'Screeds fine and sets hard.'],
      heavy && [2, 'Heavy units do not print into it.'],
      f.rain && [-2, 'Must be in before the rain.'],
      f.flexible && [-2, 'Baskets bend; a stiff pad under them only cracks.'],
      f.frost && [-2, 'Cracks where the ground heaves.'],
    ]),
    make('lean-concrete', onBed, [
      heavy && [6, 'Heavy units cannot be nudged: it is level before the first one is set, and stays so.'],
      !heavy && [-1, 'Units that can be tapped level do not need it.'],
      f.flexible && [-3, 'Baskets bend; a stiff pad under them only cracks.'],
      f.frost && [-1, 'Wants to stand below frost depth.'],
      [-2, 'Waits for curing; what is out cannot be shaved.'],
    ]),
  ]
  return options.sort((a, b) => b.score - a.score)
}
