import type { Figure } from './record'

/** Every figure is a ratio within this run; machines differ, ratios much less. */
export function print(figures: readonly Figure[]) {
  console.log()
  for (const f of figures) {
    const kept = f.over === 'at most' ? f.value <= f.limit : f.value >= f.limit
    console.log(
      `${kept ? 'kept ' : 'MISSED'}  ${f.name.padEnd(52)} ${f.value.toFixed(2).padStart(8)} ${f.unit.padEnd(2)} ${f.over} ${f.limit} ${f.unit}   ${f.note}`,
    )
  }
}
