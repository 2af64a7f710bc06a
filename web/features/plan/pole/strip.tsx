import { formatLength, type PoleMark, type PoleStrip, type UnitSystem } from '@stone-tally/core'

const MM = 1000
/** Width of a strip on paper, mm. */
const WIDE = 150
/** Above and below the strip on its sheet, mm. */
const ABOVE = 12
const CHECK = 100
const INCHES = 4 * 25.4

/**
 * One sheet of the pole at full size: a millimetre of the drawing is a millimetre of paper. Two check marks beside it, 100 mm and 4 in apart,
 * prove what the printer made of it.
 */
export function Strip({
  strip,
  marks,
  number,
  of,
  units,
}: {
  strip: PoleStrip
  marks: readonly PoleMark[]
  number: number
  of: number
  units: UnitSystem
}) {
  const tall = (strip.to - strip.from) * MM
  const y = (up: number) => ABOVE + (strip.to - up) * MM
  const here = marks.filter((m) => m.up >= strip.from - 1e-9 && m.up <= strip.to + 1e-9)
  const text = { fontFamily: 'Barlow Condensed', fontSize: 4.4, fontWeight: 600, fill: '#000' }
  const ticks = Array.from(
    { length: Math.floor((strip.to - strip.from) / 0.01 + 1e-9) + 1 },
    (_, i) => Math.ceil(strip.from / 0.01 - 1e-9) * 0.01 + i * 0.01,
  )
  return (
    <svg
      width={`${WIDE + 30}mm`}
      height={`${tall + 2 * ABOVE}mm`}
      viewBox={`0 0 ${WIDE + 30} ${tall + 2 * ABOVE}`}
      role="img"
      aria-label={`Strip ${number} of ${of}`}
      style={{ display: 'block' }}
    >
      <rect x={2} y={ABOVE} width={WIDE - 60} height={tall} fill="none" stroke="#000" strokeWidth={0.4} strokeDasharray="3 1.5" />
      <text x={2} y={ABOVE - 3} {...text}>
        {`Strip ${number} of ${of}${number < of ? ', the next is taped over its upper edge' : ''}`}
      </text>
      {ticks
        .filter((t) => t <= strip.to + 1e-9)
        .map((t) => {
          const long = Math.abs(Math.round(t * 100) % 10) === 0
          return (
            <g key={t.toFixed(3)}>
              <path d={`M2 ${y(t)}h${long ? 10 : 5}`} stroke="#000" strokeWidth={long ? 0.5 : 0.25} />
              {long ? (
                <text x={13} y={y(t) + 1.5} {...text} fontWeight={400} fontSize={3.6}>
                  {formatLength(t, units, 2)}
                </text>
              ) : null}
            </g>
          )
        })}
      {here.map((m) => (
        <g key={`${m.kind} ${m.title}`}>
          <path
            d={`M2 ${y(m.up)}h${WIDE - 60}`}
            stroke="#000"
            strokeWidth={m.kind === 'layer' ? 0.9 : 0.6}
            strokeDasharray={m.kind === 'layer' ? '4 2' : ''}
          />
          <text x={34} y={m.kind === 'layer' ? y(m.up) + 4.6 : y(m.up) - 1} {...text}>
            {m.title}
          </text>
        </g>
      ))}
      <g>
        <path d={`M${WIDE - 20} ${ABOVE + 20}h10m-5 0v${CHECK}m-5 0h10`} stroke="#000" strokeWidth={0.5} fill="none" data-check="100 mm" />
        <text x={WIDE - 26} y={ABOVE + 20 + CHECK + 6} {...text}>
          100 mm
        </text>
        <path d={`M${WIDE + 6} ${ABOVE + 20}h10m-5 0v${INCHES}m-5 0h10`} stroke="#000" strokeWidth={0.5} fill="none" data-check="4 in" />
        <text x={WIDE + 6} y={ABOVE + 20 + INCHES + 6} {...text}>
          4 in
        </text>
      </g>
    </svg>
  )
}
