/** What a field of the draft is called on the form, its lines counted from 1. */
const LABEL: Readonly<Record<string, string>> = {
  name: 'Name',
  site: 'Site',
  drawing: 'Drawing',
  engineer: 'Engineered plan',
  engineerBy: 'Its engineer',
  holds: 'What it holds',
  frontSlope: 'Ground in front falls',
  frontErodible: 'Ground in front',
  frost: 'Frost depth',
  'limits.limit': 'Limit of the drawing: which',
  'limits.value': 'Limit of the drawing: value',
  'limits.source': 'Limit of the drawing: where it says so',
  unit: 'Unit',
  length: 'Length',
  grades: 'Grades',
  'grades.station': 'Grade: station',
  'grades.toe': 'Grade: toe',
  'grades.top': 'Grade: top',
  benchmarkName: 'Benchmark',
  benchmark: 'Elevation of the benchmark',
  embedFixed: 'Bury at least',
  embedShare: 'Bury at least, % of height',
  padMaterial: 'Pad material',
  padThickness: 'Pad thickness',
  padWidth: 'Pad width',
  padLift: 'Pad lift at most',
  minRun: 'Shortest step',
  behind: 'Room behind units',
  slope: 'Cut leans back',
  stone: 'Stone behind units',
  pipe: 'Pipe diameter',
  fall: 'Fall',
  outlets: 'Outlets',
  'outlets.station': 'Outlet: station',
  'outlets.invert': 'Outlet: invert',
  'grid.course': 'Geogrid: course',
  'grid.length': 'Geogrid: length',
  'grid.type': 'Geogrid: type',
  sections: 'Sections',
  'sections.id': 'Section: name',
  'sections.from': 'Section: starts at',
  'sections.to': 'Section: ends at',
  openCourses: 'Open courses allowed',
  topStyle: 'The top',
  wasteUnits: 'Units ordered above',
  wasteStone: 'Stone ordered above',
  wasteGrid: 'Geogrid ordered above',
  alignment: 'The line (Set-out)',
  openings: 'Openings (Set-out)',
  obstacles: 'Obstacles (Set-out)',
  references: 'References (Set-out)',
  water: 'Water',
  gridRolls: 'Rolls (Layers)',
}

/**
 * A field of the draft in the words of the form.
 *
 * @example fieldLabel('sections.1.to') // 'Section 2: ends at'
 */
export function fieldLabel(field: string): string {
  const line = /^(\w+)\.(\d+)(?:\.(.+))?$/.exec(field)
  if (!line) return LABEL[field] ?? LABEL[field.split(/[.[]/)[0] ?? ''] ?? field
  const [, list, at, rest] = line
  const label = LABEL[rest ? `${list}.${rest}` : `${list}`] ?? LABEL[list as string] ?? (list as string)
  const n = Number(at) + 1
  return label.includes(':') ? label.replace(':', ` ${n}:`) : `${label}, no. ${n}`
}
