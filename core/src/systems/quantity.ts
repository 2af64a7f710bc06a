/** One line of the quantities, with its working in words. */
export interface Quantity {
  readonly id: string
  readonly name: string
  readonly value: number
  readonly unit: 'm' | 'm²' | 'm³' | 'kg' | 'pieces'
  readonly working: string
}
