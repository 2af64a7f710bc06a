export * from './embedment'
export * from './limits'
export * from './plant'
export * from './points'
