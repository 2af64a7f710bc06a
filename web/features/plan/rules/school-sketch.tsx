import { Children, type ReactNode } from 'react'

/** A wall cut across, small: the same few strokes with what a school changes of them. Units of the drawing, y down. */
const W = 120
const H = 84
const block = (x: number, y: number, w = 26, h = 13) => (
  <rect key={`${x} ${y}`} x={x} y={y} width={w} height={h} fill="var(--unit)" stroke="var(--ink)" />
)
const wall = (courses = 4, lean = 2, base = 62) => Array.from({ length: courses }, (_, i) => block(34 + i * lean, base - 13 * (i + 1)))
const ground = (front = 56) => <path d={`M4 ${front}H34M60 8H116`} stroke="var(--ink)" fill="none" />
const hatch = (d: string) => <path d={d} fill="var(--faint)" stroke="var(--ink)" strokeDasharray="2 3" />
const stone = (d: string) => <path d={d} fill="url(#school-stone)" stroke="var(--ink)" />
const pipe = (x: number, y: number) => <circle cx={x} cy={y} r={5} fill="var(--panel)" stroke="var(--ink)" strokeWidth={2} />
const pad = (d = 'M26 62H72V72H26Z') => hatch(d)
const mark = (d: string) => <path d={d} stroke="var(--now)" strokeWidth={3} fill="none" />

const SKETCHES: Readonly<Record<string, ReactNode>> = {
  'drain-seat in-pad': [ground(), wall(), stone('M26 62H80V76H26Z'), pipe(72, 69)],
  'drain-seat on-bed': [ground(), wall(), pad('M26 62H62V72H26Z'), stone('M64 58H84V72H64Z'), pipe(74, 65)],
  'drain-seat raised': [ground(), wall(), pad('M26 62H62V72H26Z'), stone('M62 44H84V62H62Z'), pipe(73, 40)],
  'pad-material dense-graded': [ground(), wall(), pad()],
  'pad-material open-graded': [ground(), wall(), stone('M26 62H72V74H26Z')],
  'pad-material sand': [ground(), wall(2), <path key="s" d="M30 62H66V66H30Z" fill="var(--faint)" stroke="var(--ink)" />],
  'pad-material lean-concrete': [ground(), wall(), <path key="c" d="M26 62H72V72H26Z" fill="var(--set)" stroke="var(--ink)" />],
  'cap overhang': [wall(3, 2, 72), <rect key="c" x={30} y={24} width={34} height={9} fill="var(--cut)" stroke="var(--ink)" />, mark('M30 18V40')],
  'cap flush': [wall(3, 2, 72), <rect key="c" x={38} y={24} width={28} height={9} fill="var(--cut)" stroke="var(--ink)" />, mark('M38 18V40')],
  'base-unit as-made': [wall(2, 4), pad()],
  'base-unit lip-off': [wall(2, 4), pad(), mark('M56 56L64 68M64 56L56 68')],
  'base-unit recessed': [wall(2, 4), hatch('M26 62H56V66H62V62H72V72H26Z'), mark('M56 62V66H62V62')],
  'open-courses one': [wall(3), stone('M60 36H78V62H60Z'), mark('M36 23H82')],
  'open-courses two': [wall(4), stone('M60 36H78V62H60Z'), mark('M36 10H82')],
  'level-interval every': [wall(4), mark('M66 62H84M66 49H84M66 36H84M66 23H84')],
  'level-interval third': [wall(4), mark('M66 49H84M66 10H84')],
  'adhesive caps': [wall(3), <rect key="c" x={36} y={14} width={34} height={9} fill="var(--cut)" stroke="var(--ink)" />, mark('M40 23H64')],
  'adhesive each': [wall(4, 3), mark('M37 49H60M40 36H63M43 23H66')],
  'adhesive none': [wall(3), <rect key="c" x={36} y={14} width={34} height={9} fill="var(--cut)" stroke="var(--ink)" />],
  'top-row upright': [wall(3, 2, 72), <path key="l" d="M44 33v-5h8v5" fill="var(--unit)" stroke="var(--ink)" />],
  'top-row inverted': [wall(3, 2, 72), mark('M44 46v5h8v-5')],
  'top-grade stepped': [<path key="t" d="M8 70V46H40V34H72V22H112V70Z" fill="var(--unit)" stroke="var(--ink)" />, mark('M8 40L112 16')],
  'top-grade level': [<path key="t" d="M8 70V22H112V70Z" fill="var(--unit)" stroke="var(--ink)" />, mark('M8 16H112')],
  'fabric wrap': [wall(), stone('M60 10H80V62H60Z'), mark('M61 62H81V10')],
  'fabric ends': [wall(), stone('M60 10H80V62H60Z'), mark('M60 10H80M60 62H80')],
  'fabric u-shape': [wall(), stone('M60 10H80V62H60Z'), mark('M60 62H80V4H66')],
  'fabric none': [wall(), stone('M60 10H80V62H60Z')],
  'fabric by-filter': [wall(), stone('M60 10H80V62H60Z'), mark('M82 10V24M82 34V48M82 56V62')],
  'floor compacted': [wall(2), pad(), mark('M26 76H72M32 80H40M46 80H54M60 80H68')],
  'floor undisturbed': [wall(2), pad(), mark('M26 75H72')],
  'setback unit': [wall(4, 3), mark('M34 62L43 23')],
  'setback chosen': [wall(4, 5), mark('M34 62L49 23')],
  'setback near-vertical': [wall(4, 0), mark('M34 62V10')],
  'stone rodded': [wall(), stone('M60 10H78V62H60Z'), mark('M69 4V46')],
  'stone plated': [wall(), stone('M60 22H90V62H60Z'), mark('M70 18H88V12H70Z')],
  'grid-start first-joint': [wall(), mark('M36 49H104M42 23H104')],
  'grid-start second-course': [wall(), mark('M38 36H104M44 10H104')],
  'grid-start under-pad': [wall(), pad(), mark('M20 74H104')],
  'grid-length six-tenths': [wall(), mark('M36 49H78'), <path key="h" d="M100 10V62" stroke="var(--soft)" />],
  'grid-length seven-tenths': [wall(), mark('M36 49H86'), <path key="h" d="M100 10V62" stroke="var(--soft)" />],
  'grid-length height': [wall(), mark('M36 49H98'), <path key="h" d="M100 10V62" stroke="var(--soft)" />],
}

/** A small drawing of a school, where one helps; nothing where words say it better. */
export function SchoolSketch({ choice, option }: { choice: string; option: string }) {
  const drawn = SKETCHES[`${choice} ${option}`]
  if (!drawn) return null
  return (
    <svg viewBox={`0 0 ${W} ${H}`} width={W} height={H} aria-hidden style={{ display: 'block' }}>
      <defs>
        <pattern id="school-stone" width="7" height="7" patternUnits="userSpaceOnUse">
          <rect width="7" height="7" fill="var(--panel)" />
          <circle cx="2" cy="2" r="1.4" fill="none" stroke="var(--soft)" />
          <circle cx="5.4" cy="5" r="1.2" fill="none" stroke="var(--soft)" />
        </pattern>
      </defs>
      {Children.toArray(drawn)}
    </svg>
  )
}
