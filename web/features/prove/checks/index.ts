export { ChecksPage } from './checks-page'
