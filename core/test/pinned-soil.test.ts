// What is said of a soil, pinned for two thousand hands full of it: every answer there is, by the questions of each rule table.
import pinned from './fixtures/pinned-soil.json'
import { soilMarks } from './pinned'

test('every soil is said to be what it was', () => expect(soilMarks()).toEqual(pinned))
