import type { WallSystem } from '@stone-tally/core'
import { builtInLabel } from './built-in'
import { EVERY, partLabel } from './part'

/** What a field of the draft is called on the form, its lines counted from 1. */
const LABEL: Readonly<Record<string, string>> = {
  name: 'Name',
  site: 'Site',
  drawing: 'Drawing',
  engineer: 'Engineered plan',
  engineerBy: 'Its engineer',
  engineerLicence: 'Licence or register number',
  engineerOn: 'Plan of the day',
  coversHeight: 'Covers walls up to',
  coversFrom: 'Covered from',
  coversTo: 'Covered to',
  coversFacts: 'What the plan takes into account',
  asked: 'What was asked first',
  'asked.on': 'What was asked first: on the day',
  soilBehind: 'Soil behind',
  soilBelow: 'Soil below',
  soilBy: 'Who says the soil',
  edge: 'The edge on top',
  holds: 'What it holds',
  frontSlope: 'Ground in front falls',
  frontErodible: 'Ground in front',
  frost: 'Frost depth',
  stands: 'What stands around',
  'stands.away': 'What stands around: how far off',
  'stands.size': 'What stands around: how much',
  found: 'Ground as found',
  foundBack: 'Filled back to',
  padSteps: 'Pad steps at',
  'limits.limit': 'Limit of the drawing: which',
  'limits.value': 'Limit of the drawing: value',
  'limits.source': 'Limit of the drawing: where it says so',
  length: 'Length',
  grades: 'Grades',
  'grades.station': 'Grade: station',
  'grades.toe': 'Grade: toe',
  'grades.top': 'Grade: top',
  benchmarkName: 'Benchmark',
  benchmark: 'Elevation of the benchmark',
  behind: 'Room behind units',
  slope: 'Cut leans back',
  sections: 'Sections',
  'sections.id': 'Section: name',
  'sections.from': 'Section: starts at',
  'sections.to': 'Section: ends at',
  openCourses: 'Open courses allowed',
  topStyle: 'The top',
  alignment: 'The line (Set-out)',
  openings: 'Openings (Set-out)',
  obstacles: 'Obstacles (Set-out)',
  references: 'References (Set-out)',
  water: 'Water',
}

/**
 * A field of the draft in the words of the form.
 *
 * @param system - the system whose questions the form asks
 * @example fieldLabel('sections.1.to') // 'Section 2: ends at'
 */
export function fieldLabel(field: string, system?: WallSystem): string {
  const built = builtInLabel(field)
  if (built) return built
  const own = system && partLabel(system, field)
  if (own) return own
  const every = partLabel(EVERY, field)
  if (every) return every
  const line = /^(\w+)\.(\d+)(?:\.(.+))?$/.exec(field)
  if (!line) return LABEL[field] ?? LABEL[field.split(/[.[]/)[0] ?? ''] ?? field
  const [, list, at, last] = line
  const rest = last?.replace(/^cells\./, '')
  const label = LABEL[rest ? `${list}.${rest}` : `${list}`] ?? LABEL[list as string] ?? (list as string)
  const n = Number(at) + 1
  return label.includes(':') ? label.replace(':', ` ${n}:`) : `${label}, no. ${n}`
}

/** A problem at a field in words; what names its field itself is not said twice. @example problemSaid('grades.1.top', 'top grade 9 must be …') // 'Grade 2: top grade 9 must be …' */
export function problemSaid(field: string, message: string, system?: WallSystem): string {
  const label = fieldLabel(field, system)
  const last = label.split(': ').pop() ?? ''
  return last !== label && message.startsWith(`${last} `) ? `${label.slice(0, -last.length)}${message}` : `${label} ${message}`
}
