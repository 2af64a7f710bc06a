export * from './cut-list'
export { fillWidth, quantities } from './quantities'
export * from './saw-day'
