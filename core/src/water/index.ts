export * from './drain'
