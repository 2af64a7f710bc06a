export { DaysPage } from './days-page'
