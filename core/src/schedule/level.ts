import { Network, type Wiring } from './network'

/** Work that takes a crew, levelled to as many as there are: a heuristic, with the bound below which nothing can be. */
export interface Levelled {
  readonly start: Float64Array
  readonly finish: Float64Array
  readonly end: number
  /** No order of the work ends sooner: the longest way, or all the work over all the crews. */
  readonly bound: number
  /** Which crew does it; -1 where it takes none. */
  readonly crew: Int32Array
  /** The network with the crews' order in it: who is done with one thing begins the next. */
  readonly wiring: Wiring
}

/**
 * Levels tasks to crews: whenever a crew is free it takes, of what may begin, that behind which the longest way lies. That is a rule of
 * thumb; it is not always the shortest there is.
 *
 * @param crewed - does a task take a crew? Waiting for an inspector or for concrete does not
 * @param rank - what goes before it: the lower first, and among equals the longest way
 * @returns undefined where the links go in a circle
 * @example level({ durations: [2, 2], after: [[], []] }, [true, true], 1)?.end // 4
 */
export function level(w: Wiring, crewed: readonly boolean[], crews: number, rank?: ArrayLike<number>): Levelled | undefined {
  const network = Network.of(w)
  if (!(network instanceof Network)) return undefined
  const n = w.after.length
  const duration = (i: number) => w.durations[i] as number
  const waits = Int32Array.from(w.after, (a) => a.length)
  const behind: number[][] = Array.from({ length: n }, () => [])
  w.after.forEach((a, i) => {
    for (const [b] of a) behind[b]?.push(i)
  })
  const lags = w.after.map((a) => new Map(a))
  const start = new Float64Array(n)
  const finish = new Float64Array(n)
  const crew = new Int32Array(n).fill(-1)
  const free = new Float64Array(crews)
  const last = new Int32Array(crews).fill(-1)
  const after: (readonly (readonly [number, number])[])[] = [...w.after]
  const ready: number[] = []
  const from = new Float64Array(n)
  const queue: number[] = []
  const settle = (i: number, at: number) => {
    start[i] = at
    finish[i] = at + duration(i)
    for (const b of behind[i] as number[]) {
      from[b] = Math.max(from[b] as number, (finish[i] as number) + (lags[b]?.get(i) ?? 0))
      waits[b] = (waits[b] as number) - 1
      if (waits[b] === 0) queue.push(b)
    }
  }
  const open = () => {
    for (let i = queue.pop(); i !== undefined; i = queue.pop()) {
      const at = Math.max(from[i] as number, w.notBefore?.[i] ?? 0)
      from[i] = at
      if (crewed[i] && duration(i) > 0) ready.push(i)
      else settle(i, at)
    }
  }
  for (let i = 0; i < n; i++) if (waits[i] === 0) queue.push(i)
  open()
  while (ready.length > 0) {
    let who = 0
    for (let c = 1; c < crews; c++) if ((free[c] as number) < (free[who] as number)) who = c
    // What may begin now, or as soon as anything may; of those that with the longest way behind it.
    const now = Math.max(free[who] as number, Math.min(...ready.map((i) => from[i] as number)))
    let best = -1
    const longest = (i: number) => duration(i) + (network.tail[i] as number)
    const goesFirst = (a: number, b: number) => {
      const [x, y] = [rank?.[a] ?? 0, rank?.[b] ?? 0]
      return x === y ? longest(a) > longest(b) : x < y
    }
    ready.forEach((i, k) => {
      if ((from[i] as number) <= now + 1e-9 && (best < 0 || goesFirst(i, ready[best] as number))) best = k
    })
    const i = ready.splice(best, 1)[0] as number
    crew[i] = who
    const before = last[who] as number
    if (before >= 0) after[i] = [...(after[i] as [number, number][]), [before, 0]]
    last[who] = i
    free[who] = now + duration(i)
    settle(i, now)
    open()
  }
  const work = crewed.reduce((sum, c, i) => sum + (c ? duration(i) : 0), 0)
  return { start, finish, end: Math.max(0, ...finish), bound: Math.max(network.end, work / crews), crew, wiring: { ...w, after } }
}
