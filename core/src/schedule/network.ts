/** Tasks that wait for each other, by number: what is asked of the arithmetic below. */
export interface Wiring {
  /** How long each takes; any unit of time, the same throughout. */
  readonly durations: ArrayLike<number>
  /** What each waits for, as [the other's number, lag after its finish]. */
  readonly after: readonly Waits[]
  /** Before this no task begins; nought where left out. */
  readonly notBefore?: ArrayLike<number>
}
type Waits = readonly (readonly [before: number, lag: number])[]

/** Links by the task at one end of them: those of task i stand from `at[i]` to `at[i + 1]`. */
interface Links {
  readonly at: Int32Array
  readonly of: Int32Array
  readonly lag: Float64Array
}

/** @returns links by the task that waits, and by the task that is waited for */
function linksOf(after: readonly Waits[]): { ins: Links; outs: Links } {
  const n = after.length
  const count = after.reduce((sum, a) => sum + a.length, 0)
  const links = (): Links => ({ at: new Int32Array(n + 1), of: new Int32Array(count), lag: new Float64Array(count) })
  const [ins, outs] = [links(), links()]
  let k = 0
  for (let i = 0; i < n; i++) {
    ins.at[i] = k
    for (const [before, lag] of after[i] as Waits) {
      ins.of[k] = before
      ins.lag[k++] = lag
      outs.at[before + 1] = (outs.at[before + 1] as number) + 1
    }
  }
  ins.at[n] = k
  for (let i = 0; i < n; i++) outs.at[i + 1] = (outs.at[i + 1] as number) + (outs.at[i] as number)
  const next = outs.at.slice()
  for (let i = 0; i < n; i++)
    for (let j = ins.at[i] as number; j < (ins.at[i + 1] as number); j++) {
      const before = ins.of[j] as number
      const at = next[before] as number
      next[before] = at + 1
      outs.of[at] = i
      outs.lag[at] = ins.lag[j] as number
    }
  return { ins, outs }
}

/**
 * Tasks with their links, finish to start, worked forwards and backwards in one order. After one task changed, only what the change
 * reaches is looked at again. How much a task may slip is the end less its finish less its tail, so a later end moves nothing else.
 *
 * @example const n = Network.of({ durations: [2, 1], after: [[], [[0, 0]]] }); n.end // 3
 */
export class Network {
  readonly start: Float64Array
  readonly finish: Float64Array
  /** From its finish to the end of all along the longest way. */
  readonly tail: Float64Array
  private ends = 0
  private readonly queued: Uint8Array

  private constructor(
    private readonly durations: Float64Array,
    private readonly notBefore: Float64Array,
    private readonly ins: Links,
    private readonly outs: Links,
    /** Tasks so that each comes after all it waits for. */
    private readonly order: Int32Array,
    private readonly rank: Int32Array,
  ) {
    const n = order.length
    this.start = new Float64Array(n)
    this.finish = new Float64Array(n)
    this.tail = new Float64Array(n)
    this.queued = new Uint8Array(n)
    this.all()
  }

  /** @returns the network, or the number of a task that stands in a circle of links */
  static of(w: Wiring): Network | { readonly circle: number } {
    const n = w.after.length
    const { ins, outs } = linksOf(w.after)
    const waits = Int32Array.from({ length: n }, (_, i) => (ins.at[i + 1] as number) - (ins.at[i] as number))
    const [order, rank] = [new Int32Array(n), new Int32Array(n)]
    let [head, filled] = [0, 0]
    const ready = (i: number) => {
      rank[i] = filled
      order[filled++] = i
    }
    for (let i = 0; i < n; i++) if (waits[i] === 0) ready(i)
    while (head < filled) {
      const i = order[head++] as number
      for (let k = outs.at[i] as number; k < (outs.at[i + 1] as number); k++) {
        const t = outs.of[k] as number
        waits[t] = (waits[t] as number) - 1
        if (waits[t] === 0) ready(t)
      }
    }
    if (filled < n) return { circle: circleIn(w.after, waits) }
    const numbers = (of: ArrayLike<number> | undefined) => Float64Array.from({ length: n }, (_, i) => of?.[i] ?? 0)
    return new Network(numbers(w.durations), numbers(w.notBefore), ins, outs, order, rank)
  }

  /** When all is done. */
  get end(): number {
    return this.ends
  }
  /** How much a task may slip before the end does. */
  float(task: number): number {
    return Math.max(0, this.ends - (this.finish[task] as number) - (this.tail[task] as number))
  }

  private all(): void {
    const { order } = this
    for (let r = 0; r < order.length; r++) {
      const i = order[r] as number
      const start = this.startOf(i)
      this.start[i] = start
      this.finish[i] = start + (this.durations[i] as number)
    }
    this.ends = latest(this.finish)
    for (let r = order.length - 1; r >= 0; r--) {
      const i = order[r] as number
      this.tail[i] = this.tailOf(i)
    }
  }
  /**
   * When all is done were the tasks to take other times: what simulated runs ask for. Nothing here is changed by it.
   *
   * @param finish - gets when each ends
   */
  endWith(durations: Float64Array, finish: Float64Array): number {
    const { order, notBefore } = this
    const { at, of, lag } = this.ins
    let ends = 0
    for (let r = 0; r < order.length; r++) {
      const i = order[r] as number
      let s = notBefore[i] as number
      const until = at[i + 1] as number
      for (let k = at[i] as number; k < until; k++) {
        const t = (finish[of[k] as number] as number) + (lag[k] as number)
        if (t > s) s = t
      }
      const end = s + (durations[i] as number)
      finish[i] = end
      if (end > ends) ends = end
    }
    return ends
  }
  private startOf(i: number): number {
    const { at, of, lag } = this.ins
    let s = this.notBefore[i] as number
    for (let k = at[i] as number; k < (at[i + 1] as number); k++) {
      const t = (this.finish[of[k] as number] as number) + (lag[k] as number)
      if (t > s) s = t
    }
    return s
  }
  private tailOf(i: number): number {
    const { at, of, lag } = this.outs
    let t = 0
    for (let k = at[i] as number; k < (at[i + 1] as number); k++) {
      const o = of[k] as number
      const l = (lag[k] as number) + (this.durations[o] as number) + (this.tail[o] as number)
      if (l > t) t = l
    }
    return t
  }

  /**
   * One task takes another time, or may not begin before another.
   *
   * @returns how many tasks were looked at
   */
  change(task: number, to: { readonly duration?: number; readonly notBefore?: number }): number {
    if (to.duration !== undefined) this.durations[task] = to.duration
    if (to.notBefore !== undefined) this.notBefore[task] = to.notBefore
    let looked = 0
    let wasLast = false
    const ahead = new Ranked(this.rank, this.queued, 1)
    ahead.add(task)
    for (let i = ahead.take(); i !== undefined; i = ahead.take()) {
      looked++
      const start = this.startOf(i)
      const [old, end] = [this.finish[i] as number, start + (this.durations[i] as number)]
      this.start[i] = start
      if (end === old) continue
      this.finish[i] = end
      if (old === this.ends) wasLast = true
      if (end > this.ends) this.ends = end
      for (let k = this.outs.at[i] as number; k < (this.outs.at[i + 1] as number); k++) ahead.add(this.outs.of[k] as number)
    }
    // What ended last ends at another time: another may be the last now.
    if (wasLast) this.ends = latest(this.finish)
    if (to.duration === undefined) return looked
    const behind = new Ranked(this.rank, this.queued, -1)
    const waitedFor = (i: number) => {
      for (let k = this.ins.at[i] as number; k < (this.ins.at[i + 1] as number); k++) behind.add(this.ins.of[k] as number)
    }
    waitedFor(task)
    for (let i = behind.take(); i !== undefined; i = behind.take()) {
      looked++
      const tail = this.tailOf(i)
      if (tail === this.tail[i]) continue
      this.tail[i] = tail
      waitedFor(i)
    }
    return looked
  }
}

const latest = (finish: Float64Array): number => {
  let most = 0
  for (let i = 0; i < finish.length; i++) if ((finish[i] as number) > most) most = finish[i] as number
  return most
}

/** What is left waits for a circle or stands in one: back along what waits too until one is met twice. */
function circleIn(after: readonly Waits[], waits: Int32Array): number {
  let at = waits.findIndex((c) => c > 0)
  const met = new Uint8Array(after.length)
  while (!met[at]) {
    met[at] = 1
    at = (after[at] as Waits).find(([b]) => (waits[b] as number) > 0)?.[0] ?? at
  }
  return at
}

/** Tasks still to be looked at, each once, those first that the others wait for (or, the other way round, that wait for them). */
class Ranked {
  private readonly heap: number[] = []
  constructor(
    private readonly rank: Int32Array,
    private readonly queued: Uint8Array,
    private readonly way: 1 | -1,
  ) {}
  private key(task: number): number {
    return this.way * (this.rank[task] as number)
  }
  add(task: number) {
    if (this.queued[task]) return
    this.queued[task] = 1
    const { heap } = this
    let at = heap.push(task) - 1
    while (at > 0) {
      const up = (at - 1) >> 1
      if (this.key(heap[up] as number) <= this.key(task)) break
      heap[at] = heap[up] as number
      at = up
    }
    heap[at] = task
  }
  take(): number | undefined {
    const { heap } = this
    const first = heap[0]
    const last = heap.pop()
    if (first === undefined || last === undefined) return undefined
    this.queued[first] = 0
    if (heap.length === 0) return first
    let at = 0
    for (;;) {
      let down = 2 * at + 1
      if (down >= heap.length) break
      if (down + 1 < heap.length && this.key(heap[down + 1] as number) < this.key(heap[down] as number)) down++
      if (this.key(heap[down] as number) >= this.key(last)) break
      heap[at] = heap[down] as number
      at = down
    }
    heap[at] = last
    return first
  }
}
