export * from './cut-list'
export { type FillBalance, fillBalance } from './fill-balance'
export { fillWidth, quantities } from './quantities'
export * from './saw-day'
