export { InstrumentsPage } from './instruments-page'
export { TakeReading } from './take'
