import { drawFigures } from './draw'
import { groundFigures } from './ground'
import { httpFigures } from './http'
import { layoutFigures } from './layout'
import { foldFigures } from './record'

/** Every figure is a ratio within this run; machines differ, ratios much less. */
const figures = [...layoutFigures(), ...(await drawFigures()), ...foldFigures(), ...(await httpFigures()), ...(await groundFigures())]
console.log()
for (const f of figures) {
  const kept = f.over === 'at most' ? f.value <= f.limit : f.value >= f.limit
  console.log(
    `${kept ? 'kept ' : 'MISSED'}  ${f.name.padEnd(52)} ${f.value.toFixed(2).padStart(8)} ${f.unit.padEnd(2)} ${f.over} ${f.limit} ${f.unit}   ${f.note}`,
  )
}
