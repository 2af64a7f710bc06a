export * from './cut-list'
export { quantities } from './quantities'
