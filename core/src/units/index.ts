export * from './angle'
export * from './length'
export * from './quantity'
export * from './say'
