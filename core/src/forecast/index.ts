export * from './growth'
export * from './scatter'
