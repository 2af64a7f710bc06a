export { LayersPage } from './layers-page'
