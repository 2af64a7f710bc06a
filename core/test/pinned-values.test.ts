import pinned from './fixtures/pinned-values.json'
import { valuesKept } from './pinned-values'

test('every table, limit and form is what it was', () => expect(valuesKept()).toEqual(pinned))
