import { drawFigures } from './draw'
import { forecastFigures } from './forecast'
import { httpFigures } from './http'
import { print } from './print'
import { programmeFigures } from './programme'
import { foldFigures } from './record'
import { ruleFigures } from './rules'

print([...(await drawFigures()), ...foldFigures(), ...ruleFigures(), ...forecastFigures(), ...programmeFigures(), ...(await httpFigures())])
