/** A number of the rule book with the reason that is shown beside it. SI. */
export interface Limit {
  readonly value: number
  readonly reason: string
}
