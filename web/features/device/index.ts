export { Courier } from './courier'
export { DevicePage } from './device-page'
export { Kept, KeptLine } from './kept-lines'
