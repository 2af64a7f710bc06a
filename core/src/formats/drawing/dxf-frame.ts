import { fail, ok, type Result } from '../../base/result'
import type { Point3 } from './space'

/** An entity as it stands in the file: its pairs of group code and value, and the vertices that follow a polyline. */
export interface Entity {
  readonly type: string
  /** Line of the file it begins at. */
  readonly line: number
  readonly pairs: readonly (readonly [code: number, value: string])[]
  readonly vertices: Entity[]
}
export interface Block {
  readonly base: Point3
  readonly entities: readonly Entity[]
}
/** A DXF taken apart: entities of the model, blocks, layers with how they are shown, and what the header says. */
export interface Frame {
  readonly entities: readonly Entity[]
  readonly blocks: ReadonlyMap<string, Block>
  readonly layers: ReadonlyMap<string, 'shown' | 'off' | 'frozen'>
  /** $INSUNITS; 0 where it does not say. */
  readonly unit: number
}

/** Names in older files carry signs beyond the code page as escapes. */
export const plainName = (name: string) => name.replace(/\\U\+([0-9a-f]{4})/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))

/** A value of an entity by its group code. */
export const textAt = (e: Entity, code: number): string | undefined => {
  for (const p of e.pairs) if (p[0] === code) return p[1]
  return undefined
}
export const numberOf = (e: Entity, code: number): number | undefined => {
  const v = textAt(e, code)
  return v === undefined ? undefined : Number(v)
}
export const pointOf = (e: Entity, code: number): Point3 | undefined => {
  const [x, y] = [numberOf(e, code), numberOf(e, code + 10)]
  return x === undefined || y === undefined ? undefined : [x, y, numberOf(e, code + 20) ?? 0]
}

/**
 * Is this the beginning of a DXF? Comments may stand before the first section. Looked at line by line: time grows with what is read.
 *
 * @example looksLikeDxf('0\nSECTION\n') // true
 */
export function looksLikeDxf(head: string): boolean {
  const lines = head.split(/\r\n|\r|\n/, 400)
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = (lines[i] as string).trim()
    if (code === '999') continue
    return code === '0' && (lines[i + 1] as string).trim() === 'SECTION'
  }
  return false
}

/** Codes whose values are numbers: coordinates, sizes, angles. */
const numeric = (code: number) => (code >= 10 && code < 60) || (code >= 210 && code < 240)

/**
 * A DXF taken apart. What is broken is named with its line.
 *
 * @param content - ASCII DXF
 */
export function framed(content: string, progress?: (share: number) => void): Result<Frame> {
  const broken = (line: number, why: string) => fail('file', `is a DXF drawing that is broken at line ${line}: ${why}; save it again`)
  const lines = content.split(/\r\n|\r|\n/)
  const model: Entity[] = []
  const blocks = new Map<string, Block>()
  const layers = new Map<string, 'shown' | 'off' | 'frozen'>()
  let block: { name: string; base: Point3; entities: Entity[] } | undefined
  let unit = 0
  let section = ''
  let record: Entity | undefined
  let variable = ''
  let ended = false
  const close = () => {
    const e = record
    record = undefined
    if (!e) return
    if (section === 'TABLES') {
      if (e.type !== 'LAYER') return
      const name = textAt(e, 2)
      if (name === undefined) return
      const frozen = ((numberOf(e, 70) ?? 0) & 1) === 1
      layers.set(plainName(name), frozen ? 'frozen' : (numberOf(e, 62) ?? 7) < 0 ? 'off' : 'shown')
      return
    }
    if (section === 'BLOCKS' && e.type === 'BLOCK') {
      block = { name: plainName(textAt(e, 2) ?? ''), base: pointOf(e, 10) ?? [0, 0, 0], entities: [] }
      return
    }
    if (section === 'BLOCKS' && e.type === 'ENDBLK') {
      if (block) blocks.set(block.name, { base: block.base, entities: block.entities })
      block = undefined
      return
    }
    const list = section === 'ENTITIES' ? model : block?.entities
    if (!list || e.type === 'SEQEND' || e.type === 'ATTRIB') return
    const last = list[list.length - 1]
    if (e.type === 'VERTEX' && last?.type === 'POLYLINE') last.vertices.push(e)
    else list.push(e)
  }
  for (let i = 0; i + 1 < lines.length; i += 2) {
    // Joining and unfolding follow; they take about as long.
    if (progress && i % 200_000 === 0) progress((i / lines.length) * 0.6)
    const code = (lines[i] as string).trim()
    const value = (lines[i + 1] as string).trim()
    if (!/^-?\d{1,4}$/.test(code)) return broken(i + 1, `"${code.slice(0, 20)}" is no group code`)
    if (code === '0') {
      close()
      if (value === 'EOF') {
        ended = section === ''
        break
      }
      if (value === 'SECTION') {
        if (section !== '') return broken(i + 2, 'a section begins inside another')
        section = '?'
        continue
      }
      if (value === 'ENDSEC') {
        section = ''
        continue
      }
      if (section === 'ENTITIES' || section === 'BLOCKS' || section === 'TABLES') record = { type: value, line: i + 1, pairs: [], vertices: [] }
      continue
    }
    if (section === '?' && code === '2') {
      section = value
      continue
    }
    if (section === 'HEADER') {
      if (code === '9') variable = value
      else if (variable === '$INSUNITS' && code === '70') unit = Number(value)
    } else if (record) {
      const number = Number(code)
      if (section !== 'TABLES' && numeric(number) && (value === '' || !Number.isFinite(Number(value))))
        return broken(i + 2, `"${value.slice(0, 20)}" is no number`)
      ;(record.pairs as [number, string][]).push([number, value])
    }
  }
  if (!ended) return fail('file', 'is a DXF drawing that is cut off: it has no end; save it again')
  return ok({ entities: model, blocks, layers, unit })
}
