export * from './embedment'
export * from './limits'
export * from './points'
