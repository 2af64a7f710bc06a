export { DensityChart } from './density-chart'
export { GroundPage } from './ground-page'
