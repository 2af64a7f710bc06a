export * from './drawing'
export * from './readings-csv'
export * from './tally-file'
export * from './units-csv'
