import { said } from '../base/said'
import { aroundOf, type BuiltInData, builtInKindOf, type Lies, type Plan, toeAt, topAt } from '../plan'
import { since } from '../rules'
import type { Building } from '../systems'
import type { PadStep } from './base-steps'
import type { Course } from './rows'

/** What is built in, where it lies. */
export interface BuiltInDrawn extends Lies {
  readonly item: BuiltInData
}

/** How far in front of the face what stands along the toe is drawn, m. */
const BEFORE = 1
/** What is drawn flat is so thick, m. */
const FLAT = 0.03
/** A ditch that leads away from the wall is so wide, m. */
const DITCH = 0.4

/** What has no elevation of its own, where the wall puts it. */
function alongWall({ plan, building, steps }: Laid, item: BuiltInData, along: 'pad' | 'toe' | 'top'): Lies[] {
  const { from = 0, to = plan.length, station, width } = item as { from?: number; to?: number; station?: number; width?: number }
  const [a, b] = station === undefined ? [from, to] : [station - DITCH / 2, station + DITCH / 2]
  const { depth } = building.course(1)
  if (along === 'pad')
    return steps.flatMap((s) => {
      const [start, end] = [Math.max(a, s.start), Math.min(b, s.end)]
      const bottom = s.elevation - building.foundation.thickness
      return end > start
        ? [
            {
              from: start,
              to: end,
              low: bottom - FLAT,
              high: bottom,
              behind: depth / 2,
              size: width ?? building.foundation.width,
              flat: true as const,
            },
          ]
        : []
    })
  const at = along === 'top' ? topAt : toeAt
  const middle = at(plan, (a + b) / 2)
  const wide = width ?? FLAT
  return [{ from: a, to: b, low: middle - FLAT, high: middle, behind: along === 'top' ? depth + wide / 2 : -BEFORE, size: wide, flat: true }]
}

/** Where everything that is built in with a wall lies, for drawing. @example builtInDrawn(layout).filter((d) => d.upright) */
export const builtInDrawn = (layout: Laid): BuiltInDrawn[] =>
  (layout.plan.builtIn ?? []).flatMap((item) => {
    const kind = builtInKindOf(item.kind)
    const lies = kind?.along ? alongWall(layout, item, kind.along) : (kind?.lies(item, aroundOf(layout.plan)) ?? [])
    return lies.map((l) => ({ ...l, item }))
  })

interface Laid {
  readonly plan: Plan
  readonly building: Building
  readonly courses: readonly Course[]
  readonly steps: readonly PadStep[]
}

/** Whether somebody who may has said that it may stand where it does. */
const worded = (item: BuiltInData) => ((item as { word?: string }).word?.trim().length ?? 0) >= 3

/**
 * What is built in where it must not be: inside the units, through the drainage stone, or through a layer or mat that holds the wall, without
 * the engineer's word.
 */
export function builtInCautions(layout: Laid): { readonly id: string; readonly message: string; readonly blocks: boolean }[] {
  const { building, courses } = layout
  const words: { id: string; message: string; blocks: boolean }[] = []
  const said_ = new Set<string>()
  const say = (item: BuiltInData, id: string, blocks: boolean, message: string) => {
    const key = `built-in ${item.name} ${id}`
    if (said_.has(key)) return
    said_.add(key)
    words.push({ id: key, blocks, message })
  }
  for (const d of builtInDrawn(layout)) {
    if (d.behind <= 0 || d.flat) continue
    const beside = courses.filter((c) => c.top > d.low + 1e-6 && c.bottom < d.high - 1e-6 && c.stretches.some((s) => s.to > d.from && s.from < d.to))
    const near = d.behind - d.size / 2
    for (const c of beside) {
      const back = c.offset + building.course(c.course).depth
      if (near < back - 1e-6)
        say(
          d.item,
          'units',
          true,
          `${d.item.name} stands in the units of course ${c.course}: their back is ${said.length(back, 2)} behind the face. Further back, never through the units.`,
        )
      else if (building.stone && near < back + building.stone.width - 1e-6 && !worded(d.item))
        say(
          d.item,
          'stone',
          d.upright === true,
          `${d.item.name} stands in the drainage stone, which reaches ${said.length(back + building.stone.width, 2)} behind the face: behind it, or with the engineer's word in the plan.`,
        )
    }
    // What lies level in the fill cuts a layer as well as a post does; before rule table 3 only what stands was looked at.
    if ((!d.upright && !since(layout.plan, 3)) || worded(d.item)) continue
    const through = building.layers.find((l) => {
      const row = courses.find((c) => c.course === l.course)
      return row !== undefined && row.top > d.low && row.top < d.high && row.offset + l.length > near
    })
    const mat = building.reach && courses.find((c) => c.bottom > d.low && c.bottom < d.high && c.offset + (building.reach?.(c.course) ?? 0) > near)
    const what = through ? `the layer on course ${through.course}` : mat ? `the mats of course ${mat.course}` : undefined
    if (what)
      say(
        d.item,
        'layer',
        true,
        `${d.item.name} goes through ${what}: what is cut holds nothing. Behind it, or with the engineer's word in the plan.`,
      )
  }
  return words
}
