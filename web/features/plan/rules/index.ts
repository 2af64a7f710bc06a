export { RuleBookPage } from './rule-book'
