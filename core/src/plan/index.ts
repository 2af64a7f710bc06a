export * from './alignment'
export * from './check'
export * from './edit'
export * from './plan'
