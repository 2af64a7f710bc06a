export * from './canonical'
export * from './result'
export { type Quantity as SaidQuantity, quantityOf, said } from './said'
export * from './schema'
