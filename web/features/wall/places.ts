/** How the places of a wall are grouped: as people work. */
export const GROUPS = [
  ['plan', 'Plan it'],
  ['build', 'Build it'],
  ['prove', 'Prove it'],
] as const
export type Group = (typeof GROUPS)[number][0]

/** A place of a wall: where it is found, and what it is called there. */
interface Described {
  /** Its address below the wall's. */
  readonly id: string
  readonly group: Group
  readonly title: string
  /** Other words people look for it by. */
  readonly also: string
}

/** Every place of a wall but its Board, which is always one tap away; another is one line here and its page. */
export const PLACES = [
  { id: 'plan', group: 'plan', title: 'Plan', also: 'revision issue form system unit grades embedment' },
  { id: 'set-out', group: 'plan', title: 'Set-out', also: 'line stakes corners curve drawing file import grades revisions' },
  { id: 'units', group: 'plan', title: 'Units', also: 'pieces cuts quantities blocks order caps' },
  { id: 'pole', group: 'plan', title: 'Story pole', also: 'rod marks courses heights' },
  { id: 'rules', group: 'plan', title: 'Rules', also: 'limits tolerances schools hold points' },
  { id: 'ground', group: 'build', title: 'Dig and pad', also: 'excavation soil base lifts density compaction levels trench weather' },
  { id: 'water', group: 'build', title: 'Water', also: 'pipe drain outlet fabric filter stone rain' },
  { id: 'layers', group: 'build', title: 'Layers', also: 'geogrid reinforcement rolls' },
  { id: 'ahead', group: 'build', title: 'Ahead', also: 'line lean creep level forecast correction' },
  { id: 'stock', group: 'build', title: 'Stock', also: 'materials deliveries dockets orders left short waste suppliers' },
  { id: 'days', group: 'build', title: 'Days', also: 'programme schedule calendar forecast promise weather crews critical path' },
  { id: 'saw', group: 'build', title: 'Saw day', also: 'cuts cut list off-cuts blade dust' },
  { id: 'crew', group: 'build', title: 'Crew sheet', also: 'today tomorrow talk tasks' },
  { id: 'checks', group: 'prove', title: 'Checks', also: 'hold points inspector release findings nonconformance due' },
  { id: 'record', group: 'prove', title: 'Record', also: 'entries diary corrections notes history' },
  { id: 'readings', group: 'prove', title: 'Readings', also: 'import instrument file csv survey' },
  { id: 'print', group: 'prove', title: 'Print', also: 'course record report paper pdf' },
] as const satisfies readonly Described[]
/** A place of a wall; the empty one is its Board. */
export type PlaceId = (typeof PLACES)[number]['id'] | ''

/** An entry of the record, by its number. @example entryHref('w1', 812) // '/walls/w1/record?entry=812' */
export const entryHref = (wall: string, seq: number): string => `/walls/${wall}/record?entry=${seq}`
/** @example hrefOf('w1', 'water') // '/walls/w1/water' */
export const hrefOf = (wall: string, place: PlaceId, step?: string): string =>
  `/walls/${wall}${place ? `/${place}` : ''}${step ? `?step=${encodeURIComponent(step)}` : ''}`
