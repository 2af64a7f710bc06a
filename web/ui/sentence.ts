export { countedWords as counted, ended } from '@stone-tally/core'
