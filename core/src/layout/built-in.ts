import { said } from '../base/said'
import { aroundOf, type BuiltInData, builtInKindOf, type Lies, type Plan } from '../plan'
import type { Building } from '../systems'
import type { Course } from './rows'

/** What is built in, where it lies. */
export interface BuiltInDrawn extends Lies {
  readonly item: BuiltInData
}

/** Where everything that is built in with a wall lies, for drawing. @example builtInDrawn(plan).filter((d) => d.upright) */
export const builtInDrawn = (plan: Plan): BuiltInDrawn[] =>
  (plan.builtIn ?? []).flatMap((item) => (builtInKindOf(item.kind)?.lies(item, aroundOf(plan)) ?? []).map((l) => ({ ...l, item })))

interface Laid {
  readonly plan: Plan
  readonly building: Building
  readonly courses: readonly Course[]
}

/** Whether somebody who may has said that it may stand where it does. */
const worded = (item: BuiltInData) => ((item as { word?: string }).word?.trim().length ?? 0) >= 3

/**
 * What is built in where it must not be: inside the units, through the drainage stone, or through a layer or mat that holds the wall, without
 * the engineer's word.
 */
export function builtInCautions({ plan, building, courses }: Laid): { readonly id: string; readonly message: string; readonly blocks: boolean }[] {
  const words: { id: string; message: string; blocks: boolean }[] = []
  const said_ = new Set<string>()
  const say = (item: BuiltInData, id: string, blocks: boolean, message: string) => {
    const key = `built-in ${item.name} ${id}`
    if (said_.has(key)) return
    said_.add(key)
    words.push({ id: key, blocks, message })
  }
  for (const d of builtInDrawn(plan)) {
    if (d.behind <= 0) continue
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
    if (!d.upright || worded(d.item)) continue
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
