export * from './growth'
