// Values that a published schema takes, drawn by a generator.
import type { numbers } from './pinned'

export interface JsonSchema {
  readonly type?: string
  readonly enum?: readonly string[]
  readonly pattern?: string
  readonly minimum?: number
  readonly maximum?: number
  readonly minItems?: number
  readonly maxItems?: number
  readonly maxLength?: number
  readonly properties?: Readonly<Record<string, JsonSchema>>
  readonly required?: readonly string[]
  readonly items?: JsonSchema
}
export type Draw = ReturnType<typeof numbers>
/** Something that is pinned on so many draws. */
export type Pinned = readonly [draws: number, of: (draw: Draw, n: number) => unknown]
export const pick = <T>(draw: Draw, list: readonly T[]): T => list[Math.min(list.length - 1, Math.floor(draw(0, list.length)))] as T

/** A number of a grid, both ends included. */
export const on = (draw: Draw, from: number, to: number, step: number) =>
  Math.round((from + step * Math.floor(draw(0, (to - from) / step + 0.999999))) * 1e9) / 1e9
export const several = <T>(draw: Draw, least: number, most: number, of: (i: number) => T): T[] =>
  Array.from({ length: on(draw, least, most, 1) }, (_, i) => of(i))
export const maybe = (draw: Draw, share = 0.5) => draw(0, 1) < share

/** A value that a schema takes: mostly of the size things have on a wall, now and then its edge. */
export function drawn(s: JsonSchema, draw: Draw, ids: readonly string[]): unknown {
  if (s.enum) return pick(draw, s.enum)
  switch (s.type) {
    case 'object':
      return Object.fromEntries(
        Object.entries(s.properties ?? {})
          .filter(([name]) => s.required?.includes(name) || draw(0, 1) < 0.6)
          .map(([name, of]) => [name, drawn(of, draw, ids)]),
      )
    case 'array': {
      const least = s.minItems ?? 0
      const n = Math.min(s.maxItems ?? 4, least + Math.floor(draw(0, 4)))
      return Array.from({ length: n }, () => drawn(s.items ?? {}, draw, ids))
    }
    case 'boolean':
      return draw(0, 1) < 0.5
    case 'number':
    case 'integer': {
      const [min, max] = [s.minimum ?? 0, s.maximum ?? 100]
      const odd = draw(0, 1)
      const v = odd < 0.05 ? min : odd < 0.1 ? max : Math.min(max, min + (odd < 0.5 ? draw(0, 3) : draw(0, Math.min(max - min, 60))))
      return s.type === 'integer' ? Math.round(v) : Math.round(v * 1000) / 1000
    }
    default:
      if (s.pattern?.includes('4}-')) return `2026-0${1 + Math.floor(draw(0, 9))}-1${Math.floor(draw(0, 10))}`
      if (s.pattern?.includes('64}')) return 'a'.repeat(64)
      return s.maxLength === 36 || s.maxLength === 40 ? pick(draw, ids) : pick(draw, ['A', 'uniaxial 30', 'roll 7', 'seen by hand', 'pallet', 'BM'])
  }
}
