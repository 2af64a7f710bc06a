/** A word of the trade: how else it is written, and what it means, in one or two plain sentences. */
export interface TradeWord {
  readonly word: string
  /** Other forms it is met in. */
  readonly also?: readonly string[]
  readonly means: string
}

const word = (word: string, means: string, ...also: string[]): TradeWord => ({ word, means, ...(also.length > 0 ? { also } : {}) })

/** Words of the trade as they stand on the screens, by the alphabet. */
export const TRADE_WORDS: readonly TradeWord[] = [
  word('alignment', 'The line of the wall’s face as it is seen from above.'),
  word('backfill', 'The soil that is put back behind the wall, placed and compacted in thin layers.'),
  word('backsight', 'A rod read on a point whose elevation is known, so that the instrument knows how high it stands.'),
  word('batter', 'How far the face leans back towards what it holds.', 'lean'),
  word('benchmark', 'A mark that does not move and whose elevation is known: every level is measured from it.'),
  word('bond', 'How the joints of one course lie over the units below. A joint never stands over a joint.', 'running bond'),
  word('cap', 'The last row of units, which closes the top and is glued or mortared on.', 'caps', 'coping'),
  word('compaction', 'Soil or stone pressed together with a plate, roller or tamper until it no longer settles.', 'compacted'),
  word('core fill', 'Clean stone in the hollows of the units.'),
  word('course', 'One row of units, all at one height.', 'courses'),
  word('drainage stone', 'Clean broken stone directly behind the units: water falls through it to the pipe.'),
  word('embedment', 'How deep the foot of the wall stands in the ground in front.', 'buried'),
  word('engineer of record', 'The licensed engineer who signs for the wall.', 'engineered plan'),
  word('exposed height', 'What is seen of the wall, from the ground in front to its top.'),
  word('finding', 'Something recorded that was out of its limit. It stays open until it is put right or accepted by whoever may.', 'findings'),
  word('frost depth', 'How deep the ground freezes at this place; the local code says it.'),
  word('geogrid', 'A plastic net laid flat between two courses and back into the fill: it ties the wall to the soil.'),
  word('heel drain', 'A second pipe at the back of the cut, which takes water before it reaches the fill.'),
  word('height of instrument', 'How high the level’s line of sight stands: benchmark plus backsight.', 'HI'),
  word('hold point', 'A place in the work where it stops until somebody who may has looked and released it.', 'hold', 'holds'),
  word('invert', 'The lowest point of the inside of a pipe: where the water runs.', 'inverts'),
  word('leveling pad', 'The compacted bed that the first course stands on. What is wrong here is wrong in the whole wall.', 'pad'),
  word('lift', 'One layer that is placed and compacted at a time.', 'lifts'),
  word('nonconformance', 'Work that is not as the plan asks; it is recorded, judged and answered, never covered up.'),
  word('obstruction', 'Something in the way that the plan did not know.'),
  word('outlet', 'Where the drain pipe comes out into the open and the water leaves.', 'outlets', 'daylight'),
  word('proof roll', 'A loaded wheel driven slowly over the ground to see whether it gives.'),
  word('reinforced soil', 'The fill that the layers of geogrid lie in.', 'infill'),
  word('release', 'The word of somebody who may that a hold point is passed. It is signed and stays in the record.', 'released'),
  word('retained soil', 'The ground behind everything that was built: what the wall holds.'),
  word('revision', 'The plan as it was issued, with a number. Work is judged by the one it was made under.', 'revisions'),
  word('rod reading', 'The number where the level’s line of sight meets the rod. A larger one is a lower point.'),
  word('section', 'A stretch of the wall that is built and looked at by itself.', 'sections'),
  word('separation fabric', 'A cloth between soil and stone: water goes through it, soil stays.', 'geotextile'),
  word('setback', 'How far each course stands back from the one below.'),
  word('set-out', 'Marking on the ground where the wall goes.', 'set out'),
  word('soil', 'What is dug and built on: sand, silt, clay and what lies between.'),
  word('station', 'How far along the face line a place is, measured from the start of the wall.', 'stations'),
  word('string line', 'A taut string along which units are set.'),
  word('subgrade', 'The ground the pad stands on, as the dig leaves it.'),
  word('surcharge', 'A load on the ground behind the wall: a drive, goods, a pool.'),
  word('swale', 'A shallow ditch that leads water past the wall.'),
  word('toe', 'The foot of the wall in front; the toe grade is the finished ground there.', 'toe grade'),
  word('toe drain', 'The pipe behind the lowest courses that leads the water out.', 'drain'),
  word('top grade', 'The finished ground at the top of the wall.'),
  word('undercut', 'Bad soil that is dug out deeper than planned and replaced.'),
  word('unit', 'One block, stone, basket or mat of the wall.', 'units'),
  word('witness point', 'Something that is to be looked at and recorded, while the work goes on.'),
]

const FORMS: ReadonlyMap<string, TradeWord> = new Map(
  TRADE_WORDS.flatMap((w) => [w.word, ...(w.also ?? [])].map((f) => [f.toLowerCase(), w] as const)),
)
/** Longer forms first, so that "toe drain" is not read as "drain". */
const PATTERN = new RegExp(
  `\\b(${[...FORMS.keys()]
    .sort((a, b) => b.length - a.length)
    .map((f) => f.replace(/[-/\\^$*+?.()|[\]{}]/g, '\\$&'))
    .join('|')})\\b`,
  'gi',
)

/** A piece of a text: plain, or a word of the trade. */
export interface WordPiece {
  readonly text: string
  readonly word?: TradeWord
}

/**
 * A text with its words of the trade told apart; each word once, where it stands first.
 *
 * @example tradeWordsIn('Read the invert of the pipe').map((p) => p.word?.word) // [undefined, 'invert', undefined]
 */
export function tradeWordsIn(text: string): WordPiece[] {
  const pieces: WordPiece[] = []
  const said = new Set<string>()
  let at = 0
  for (const found of text.matchAll(PATTERN)) {
    const own = FORMS.get(found[0].toLowerCase())
    if (!own || said.has(own.word)) continue
    said.add(own.word)
    if (found.index > at) pieces.push({ text: text.slice(at, found.index) })
    pieces.push({ text: found[0], word: own })
    at = found.index + found[0].length
  }
  if (at < text.length) pieces.push({ text: text.slice(at) })
  return pieces
}
