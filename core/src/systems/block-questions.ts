import { WASTE } from './blocks'
import { BUILT_FOUNDATIONS, FOUNDATIONS } from './foundations'
import type { Question } from './question'

const COMPACTED = FOUNDATIONS.filter((f) => !f.traits.cast && !f.nothing).map((f) => f.id)

/**
 * What the planner asks for a wall of units on a foundation, in the order of the trade.
 *
 * @param kinds - foundations the system may stand on
 */
export const blockQuestions = (kinds: readonly string[] = BUILT_FOUNDATIONS): readonly Question[] => [
  { id: 'unit', at: 'unit', chapter: 'wall', label: 'Unit', of: 'unit' },
  { id: 'embedFixed', at: 'embedment[kind=fixed].depth', chapter: 'pad', label: 'Bury at least', of: 'length', optional: true },
  {
    id: 'embedShare',
    at: 'embedment[kind=fraction].fraction',
    chapter: 'pad',
    label: 'and at least, % of height',
    name: 'Bury at least, % of height',
    hint: 'the deepest rule of the wall governs',
    of: 'share',
    optional: true,
  },
  {
    id: 'embedBase',
    at: 'embedment[kind=perHeight].base',
    chapter: 'pad',
    label: 'or a depth',
    name: 'Bury at least, a depth',
    hint: 'with so much more per metre of height beside it',
    of: 'length',
    optional: true,
  },
  {
    id: 'embedPerMetre',
    at: 'embedment[kind=perHeight].perMetre',
    chapter: 'pad',
    label: 'and more per 1 of height',
    name: 'Bury at least, more per 1 of height',
    of: 'number',
    optional: true,
  },
  {
    id: 'embedCourses',
    at: 'embedment[kind=courses].count',
    chapter: 'pad',
    label: 'or whole courses',
    name: 'Bury at least, whole courses',
    of: 'number',
    optional: true,
  },
  {
    id: 'padMaterial',
    at: 'foundation.kind',
    chapter: 'pad',
    label: 'Foundation',
    of: 'choice',
    options: FOUNDATIONS.filter((f) => kinds.includes(f.id)).map((f) => [f.id, f.name] as const),
  },
  {
    id: 'padThickness',
    at: 'foundation.thickness',
    chapter: 'pad',
    label: 'Pad thickness',
    of: 'length',
    when: { question: 'padMaterial', is: BUILT_FOUNDATIONS },
  },
  { id: 'padWidth', at: 'foundation.width', chapter: 'pad', label: 'Pad width', of: 'length' },
  {
    id: 'padLift',
    at: 'foundation.lifts.max',
    chapter: 'pad',
    label: 'Pad lift at most',
    of: 'length',
    when: { question: 'padMaterial', is: COMPACTED },
  },
  {
    id: 'padLoose',
    at: 'foundation.lifts.loose',
    chapter: 'pad',
    label: 'Placed loose, times as thick',
    hint: 'a supplier’s or trial’s own figure goes before the usual one',
    of: 'number',
    when: { question: 'padMaterial', is: COMPACTED },
  },
  { id: 'minRun', at: 'foundation.minRun', chapter: 'pad', label: 'Shortest step', of: 'length' },
  { id: 'chip', at: 'foundation.chip', chapter: 'pad', label: 'Chip on top', of: 'small', when: { question: 'padMaterial', is: ['two-stone'] } },
  ...footing('cover', 'foundation.cover', 'Cover of the bars', 'small'),
  ...footing('barCount', 'foundation.bars.count', 'Bars along', 'number'),
  ...footing('barDiameter', 'foundation.bars.diameter', 'Bar diameter', 'small'),
  ...footing('barLap', 'foundation.bars.lap', 'Lap of two bars', 'length'),
  ...footing('barStock', 'foundation.stock', 'Longest bar delivered', 'length'),
  { id: 'stone', at: 'stone.width', chapter: 'water', label: 'Stone behind units', of: 'length' },
  { id: 'pipe', at: 'drain.diameter', chapter: 'water', label: 'Pipe diameter', of: 'length' },
  { id: 'fall', at: 'drain.fall', chapter: 'water', label: 'Fall, %', name: 'Fall', of: 'share' },
  { id: 'outletsApart', at: 'drain.maxOutletSpacing', chapter: 'water', label: 'Outlets apart, at most', of: 'length' },
  {
    id: 'outlets',
    at: 'drain.outlets',
    chapter: 'water',
    label: 'Outlets',
    one: 'Outlet',
    of: 'list',
    columns: [
      { id: 'station', label: 'Outlet at', of: 'length', begin: '0' },
      { id: 'invert', label: 'Invert', of: 'length' },
    ],
    least: 1,
    stands:
      'at the start or both ends, no further apart than said above, so low that the pipe lies below the ground in front; whether water can leave there the site must say',
    add: 'Add an outlet',
  },
  {
    id: 'grid',
    at: 'layers',
    chapter: 'grid',
    label: 'Geogrid',
    one: 'Geogrid',
    of: 'list',
    columns: [
      { id: 'course', label: 'On top of course', of: 'number' },
      { id: 'length', label: 'Length from face', of: 'length', again: true },
      { id: 'type', label: 'Type', of: 'text', again: true },
    ],
    least: 0,
    add: 'Add a layer',
    proposed: 'layers',
  },
  {
    id: 'rolls',
    at: 'rolls',
    chapter: 'grid',
    label: 'Rolls delivered',
    one: 'Roll',
    of: 'list',
    columns: [
      { id: 'type', label: 'Roll of type', of: 'text', again: true },
      { id: 'width', label: 'Wide', of: 'length' },
      { id: 'length', label: 'Long', of: 'length' },
    ],
    least: 0,
    add: 'Add a roll',
    optional: true,
  },
  { id: 'wasteUnits', at: 'waste.units', chapter: 'order', label: 'Units, %', name: 'Units ordered above', of: 'number', usual: WASTE.units },
  { id: 'wasteStone', at: 'waste.stone', chapter: 'order', label: 'Stone and pad, %', name: 'Stone ordered above', of: 'number', usual: WASTE.stone },
  { id: 'wasteGrid', at: 'waste.grid', chapter: 'order', label: 'Geogrid, %', name: 'Geogrid ordered above', of: 'number', usual: WASTE.grid },
]

function footing(id: string, at: string, label: string, of: 'length' | 'small' | 'number'): Question[] {
  return [{ id, at, chapter: 'pad', label, of, when: { question: 'padMaterial', is: ['footing'] } }]
}
