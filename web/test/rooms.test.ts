// The rooms of the interface: grouped as people work, and none imports in a circle.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { PLACES } from '../features/wall/places'

const ROOT = 'web/features'
const GROUPED = ['plan', 'build', 'prove']
const folders = (path: string) => readdirSync(path, { withFileTypes: true }).flatMap((e) => (e.isDirectory() ? [e.name] : []))
const rooms = folders(ROOT).flatMap((f) => (GROUPED.includes(f) ? folders(join(ROOT, f)).map((r) => `${f}/${r}`) : [f]))

function* files(path: string): Generator<string> {
  for (const e of readdirSync(path, { withFileTypes: true }))
    if (e.isDirectory()) yield* files(join(path, e.name))
    else yield join(path, e.name)
}
const roomAt = (path: string) => rooms.find((r) => path === r || path.startsWith(`${r}/`))
/** Rooms a room takes something from that runs; types alone are no part of a circle. */
const imports = new Map(
  rooms.map((room) => {
    const text = [...files(join(ROOT, room))].map((f) => readFileSync(f, 'utf8')).join('\n')
    const from = [...text.matchAll(/(?:import|export) (?!type )[^;]*?from '@\/features\/([^']+)'|import\('@\/features\/([^']+)'\)/g)]
    return [room, new Set(from.map((m) => roomAt((m[1] ?? m[2]) as string)).filter((r) => r !== undefined && r !== room))] as const
  }),
)

test('no room imports in a circle', () => {
  expect(imports.get('build/ground')).toContain('wall')
  const reaches = (from: string, to: string, seen = new Set<string>()): boolean =>
    [...(imports.get(from) ?? [])].some((r) => r === to || (r !== undefined && !seen.has(r) && reaches(r, to, seen.add(r))))
  expect(rooms.filter((r) => reaches(r, r))).toEqual([])
})

test('a room stands in the group in which its place is found', () => {
  const grouped = rooms.filter((r) => r.includes('/')).map((r) => r.split('/') as [string, string])
  // Readings and print are pages of the record.
  const places = PLACES.filter((p) => !['readings', 'print'].includes(p.id))
  for (const p of places) expect(grouped).toContainEqual([p.group, p.id])
})
