const tenth = (v: number) => Math.round(v * 10) / 10

/** The product's mark: four strokes and the bar. */
export function TallyMark({ size }: { size: number }) {
  return (
    <svg width={size * 1.2} height={size} viewBox="0 0 29 24" aria-hidden>
      {[4, 11, 18, 25].map((x) => (
        <line key={x} x1={x} y1={2} x2={x} y2={22} stroke="var(--ink)" strokeWidth={3.4} />
      ))}
      <line x1={0} y1={19} x2={29} y2={5} stroke="var(--now)" strokeWidth={3.4} />
    </svg>
  )
}

/**
 * Progress of a course as tally strokes: four and a bar, dark when set, light when not yet. Long courses count in bundles,
 * so that the row stays readable at arm's length; the number stands beside it.
 */
export function Tally({ done, total, height = 18, max = 60 }: { done: number; total: number; height?: number; max?: number }) {
  const each = Math.max(1, Math.ceil(total / max))
  const strokes = Math.ceil(total / each)
  const filled = done >= total ? strokes : Math.floor(done / each)
  const gap = height * 0.32
  const group = gap * 5.4
  const width = tenth(Math.ceil(strokes / 5) * group)
  const strokeAt = (i: number) => {
    const start = Math.floor(i / 5) * group
    // The fifth is the bar across the four.
    if (i % 5 === 4) return `M${tenth(start)} ${tenth(height * 0.8)}L${tenth(start + gap * 4)} ${tenth(height * 0.2)}`
    return `M${tenth(start + (i % 5) * gap + gap / 2)} 1V${height - 1}`
  }
  const drawn = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => strokeAt(from + i)).join('')
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} role="img" aria-label={`${done} of ${total}`} style={{ maxWidth: '100%' }}>
      {filled < strokes ? <path d={drawn(filled, strokes)} stroke="var(--line)" strokeWidth={1} fill="none" /> : null}
      {filled > 0 ? <path d={drawn(0, filled)} stroke="var(--ink)" strokeWidth={tenth(height * 0.13)} fill="none" /> : null}
    </svg>
  )
}
