import { drawFigures } from './draw'
import { httpFigures } from './http'
import { layoutFigures } from './layout'
import { print } from './print'
import { foldFigures } from './record'

print([...layoutFigures(), ...(await drawFigures()), ...foldFigures(), ...(await httpFigures())])
