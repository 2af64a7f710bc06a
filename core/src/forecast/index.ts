export * from './correction'
export * from './growth'
export * from './rule'
export * from './scatter'
