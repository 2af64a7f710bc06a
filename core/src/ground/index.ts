export * from './rod'
