export { DevicePage } from './device-page'
export { Ago, Kept, KeptLine } from './kept-lines'
