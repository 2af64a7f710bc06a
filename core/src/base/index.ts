export * from './canonical'
export * from './result'
export * from './schema'
