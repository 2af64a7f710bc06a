/** A wall as it is listed. */
export interface WallRow {
  readonly id: string
  readonly name: string
  readonly site: string
  /** Made up to try things on; its days and its pace are nobody's. */
  readonly madeUp: boolean
  /** Put away: by whom, when and why. It is kept whole and can be brought back. */
  readonly away?: { readonly by: string; readonly at: string; readonly why: string } | undefined
}
