// Limits live in the rule book. A number that something is compared with anywhere else in the core is found here, unless it is named as what it is.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

const ROOMS = ['record', 'layout', 'ground', 'water', 'reinforcement', 'materials', 'forecast']
/** Numbers that are no limits of the work, each with what it is. */
const KNOWN: readonly (readonly [code: string, what: string])[] = [
  ['Math.abs(d.value) <= 10', 'a reading of over ten metres was typed in another unit'],
  ['minutes < 120', 'words for a stretch of time'],
  ['minutes < 2880', 'words for a stretch of time'],
  ['?? 0) >= 5', 'rain that counts as wet, an advice on pad material'],
  ['k <= 40', 'a loop'],
  ['places < 6', 'a loop'],
  ['i < 20', 'a loop'],
  ['.trim().length ?? 0) < 3', 'a text that says something'],
  ['licence.trim().length < 3', 'a text that says something'],
  ['?.trim().length ?? 0) >= 3', 'a text that says something'],
  ['points.length < 4', 'a parabola goes through any three points'],
  ['size > 5', 'words for a misclosure of metres'],
  ['f.unitMass > 250', 'an advice on pad material'],
  ['f.height <= 0.6', 'an advice on pad material'],
  ['count > 2', 'pieces of a run'],
  ['finding.entry.where.station) > 0.5', 'the same place, as a finding has one'],
  ['(entry.where.offset ?? 99) - across) > 0.1', 'the same place, as a finding has one'],
  ['Math.abs(t.station - p.station) <= 0.5', 'the same place, of two readings'],
  ['2 * SPACING + 0.01', 'how far a straight line between two readings is believed'],
  ['to - from <= 0.05', 'a stretch of no length'],
  ['to - from < 0.05', 'a stretch of no length'],
  ['left.length > 6', 'how many are listed'],
  ['<= 2 * FRESH', 'a forecast that is still one'],
  ['stroke.length > 3', 'a signature that is more than a dot'],
  ['k < 2 * n', 'a loop'],
  ['front.slope > 0.1', 'from where on ground is said to fall away'],
  ['Math.abs(size - m) <= 0.012', 'words for a misclosure that looks like a staff held wrong'],
  ['meaning.lift < 0.2', 'words on a soil that wants thin lifts'],
  ['share >= 100', 'per cent'],
  ['(data.shifts ?? 1) > 24', 'hours of a day'],
  ['x > 200', 'a loop'],
  ['plan.alignment.vertices.length > 2', 'a line of more than one element'],
  ['o.points.length > 2', 'from where on points enclose something'],
  ['stations.length < 400', 'a loop'],
  ['up > plan.length + 3 && down < -3', 'how far past its ends room is looked for'],
  ['down >= -3', 'the same'],
  ['words.length < 2', 'words of a list'],
  ['n < 200', 'a loop'],
  ['strength.source.trim().length > 2', 'a text that says something'],
  ['> 2 * DAY', 'a forecast that is still one'],
]
/** Constants of a size: noise, spacing and shape of what is worked out, physics, and time. */
const NAMED: ReadonlySet<string> = new Set([
  ...['PHOTO_LIMIT', 'PIECE_LIMIT', 'KERF', 'SWELL', 'WATER', 'GRAINS', 'SAND', 'PIPE_ROUGHNESS', 'OVERSIZE_LIMIT', 'EPS'],
  ...['SLACK', 'HOUR', 'SHIFT', 'FRESH', 'NOISE', 'LINE', 'NEAR', 'SPACING', 'REACH', 'CONFLICT', 'THINNEST', 'STEP', 'CLEAR', 'FALLS'],
  ...['READING_NOISE', 'DRIFT', 'WORTH', 'BELIEF', 'BAND', 'COMMON_ROLL', 'WALKS_KEPT'],
  // How many pallets are drawn in one row, and how far past the ends of a wall its plan knows the ground.
  ...['ROW', 'PAST'],
  // How far ahead a day is taken for meant.
  'YEARS',
  // How what lies flat is drawn.
  ...['FLAT', 'DITCH'],
  // Where a piece that was sawn may lie off and still be it.
  'BESIDE',
  // How finely the ground as found is walked, and how far back it is looked for where nobody says how far is filled.
  ...['ACROSS', 'FILL_BACK'],
  // What levels of rough ground are good to.
  'MEASURED',
  // How much of a link stands in a short code.
  'LINK_BYTES',
  // Ends of pipe that meet, an end at its outlet, an edge that is close to a face or a lip.
  ...['MEETS', 'AT_OUTLET', 'CLOSE'],
  // How far along the wall a thing has to do with its cut, and how finely a slope is read.
  ...['ALONG', 'SLOPE_READ'],
  // How soon the same word of a person is the same one.
  'MOMENT',
  // Paper, and how much of a day's work a sheet shows.
  ...['OVERLAP', 'MARGIN', 'AHEAD'],
])
const files = ROOMS.flatMap((room) =>
  readdirSync(join('core/src', room), { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.ts'))
    .map((f) => join('core/src', room, f)),
)
/** Code without comments and texts. */
const codeOf = (file: string) =>
  readFileSync(file, 'utf8')
    .replace(/\/\*[\s\S]*?\*\//g, (c) => c.replace(/[^\n]/g, ' '))
    .replace(/(^|\s)\/\/.*$/gm, '$1')
    .replace(/'(?:[^'\\\n]|\\.)*'/g, "''")
    .split('\n')

/** A number that could be a limit: not none, one or a rounding. */
const counts = (text: string) => {
  const n = Math.abs(Number(text))
  return n > 0.0101 && n !== 1
}

test('nothing outside the rules is compared with a number of its own', () => {
  const found: string[] = []
  for (const file of files)
    codeOf(file).forEach((line, i) => {
      for (const m of line.matchAll(/(?:[<>]=?)\s*(-?\d+(?:\.\d+)?)\b(?![\w.])/g)) {
        const before = line.slice(0, m.index)
        if (/=$/.test(before) || !counts(m[1] as string)) continue
        if (KNOWN.some(([code]) => line.includes(code))) continue
        found.push(`${file}:${i + 1}: ${line.trim()}`)
      }
    })
  expect(found).toEqual([])
})
test('no constant of a size is a limit in disguise', () => {
  const found: string[] = []
  for (const file of files)
    codeOf(file).forEach((line, i) => {
      const m = /^(?:export )?const ([A-Z][A-Z_0-9]+)(?::[^=]+)? = (-?[\d.]+(?:e-?\d+)?)\b/.exec(line)
      if (m && counts(m[2] as string) && !NAMED.has(m[1] as string)) found.push(`${file}:${i + 1}: ${line.trim()}`)
    })
  expect(found).toEqual([])
})
test('every exception is still there', () => {
  const all = files.map((f) => codeOf(f).join('\n')).join('\n')
  expect(KNOWN.filter(([code]) => !all.includes(code)).map(([code]) => code)).toEqual([])
})
