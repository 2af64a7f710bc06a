export * from './drain'
export * from './filter'
