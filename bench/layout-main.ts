// Bundled as the layout worker is: what a compiler for running sources adds to every function is no part of a layout.
import { layoutFigures } from './layout'
import { planningFigures } from './planning'
import { print } from './print'
import { systemFigures } from './systems'

print([...layoutFigures(), ...systemFigures(), ...planningFigures()])
