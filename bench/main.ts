import { drawFigures } from './draw'
import { forecastFigures } from './forecast'
import { httpFigures } from './http'
import { print } from './print'
import { foldFigures } from './record'
import { ruleFigures } from './rules'

print([...(await drawFigures()), ...foldFigures(), ...ruleFigures(), ...forecastFigures(), ...(await httpFigures())])
