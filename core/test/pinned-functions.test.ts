// What is worked out of numbers alone, as it was when it was pinned: on coarse numbers, where limits are met exactly.
import pinned from './fixtures/pinned-functions.json'
import { FUNCTIONS, functionMarks } from './pinned-functions'

test.each(Object.keys(FUNCTIONS))('%s', (name) => expect(functionMarks(name)).toEqual((pinned as Record<string, string[]>)[name]))
