import { drawFigures } from './draw'
import { forecastFigures } from './forecast'
import { httpFigures } from './http'
import { layoutFigures } from './layout'
import { print } from './print'
import { foldFigures } from './record'
import { ruleFigures } from './rules'
import { systemFigures } from './systems'

print([
  ...layoutFigures(),
  ...systemFigures(),
  ...(await drawFigures()),
  ...foldFigures(),
  ...ruleFigures(),
  ...forecastFigures(),
  ...(await httpFigures()),
])
