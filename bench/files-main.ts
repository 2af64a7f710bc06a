import { fileFigures } from './files'
import { print } from './print'

print(fileFigures())
