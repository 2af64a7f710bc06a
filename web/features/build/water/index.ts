export { WaterPage } from './water-page'
