// The title of a part of a drawing is one text: of several the server writes none, the page is then made anew on the device and loses its policy's number.
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'

const files = (at: string): string[] =>
  readdirSync(at).flatMap((name) => {
    const path = join(at, name)
    return statSync(path).isDirectory() ? files(path) : name.endsWith('.tsx') ? [path] : []
  })
const titles = ['features', 'ui', 'app'].flatMap((room) =>
  files(join(__dirname, '..', room)).flatMap((path) =>
    [...readFileSync(path, 'utf8').matchAll(/<title>([\s\S]*?)<\/title>/g)].map((m) => ({ path, of: (m[1] ?? '').trim() })),
  ),
)

test('every title is a word or one expression', () => {
  expect(titles.length).toBeGreaterThan(3)
  const several = titles.filter(
    ({ of }) => of.includes('{') && (!/^\{[\s\S]*\}$/.test(of) || /\}\s*[^`}]*\{(?!.*`)/.test(of.replace(/`[\s\S]*`/g, '``'))),
  )
  expect(several).toEqual([])
})
