export * from './cut-list'
export { quantities } from './quantities'
export * from './saw-day'
