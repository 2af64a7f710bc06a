import { groundFigures } from './ground'
import { print } from './print'

// A process of its own: each run of the application has its own database.
print(await groundFigures())
