import { Network, type Wiring } from './network'

/** What work takes besides time: who does it, and with what. */
export interface Resources {
  /** How many crews there are. */
  readonly crews: number
  /** By crew: from when until when it is away; in the order of time. */
  readonly away?: readonly (readonly (readonly [from: number, to: number])[])[]
  /** By crew: may it do that task? Any may where left out. */
  readonly may?: (crew: number, task: number) => boolean
  /** Of each task the plant it takes, by its number; -1 for none. */
  readonly plantOf?: ArrayLike<number>
  /** Of each plant the units there are, with the time each is here from; a plant left out is never waited for. */
  readonly plant?: readonly (readonly number[] | undefined)[]
}

/** Work that takes a crew, levelled to as many as there are: a heuristic, with the bound below which nothing can be. */
export interface Levelled {
  readonly start: Float64Array
  readonly finish: Float64Array
  readonly end: number
  /** No order of the work ends sooner: the longest way, or all the work over all the crews, or over all the plant it takes. */
  readonly bound: number
  /** Which crew does it; -1 where it takes none. */
  readonly crew: Int32Array
  /** The network with the crews' and the plant's order in it: who is done with one thing begins the next. */
  readonly wiring: Wiring
}

/** Not within a time away; after it where it would reach into one. */
function fitted(at: number, hours: number, away: readonly (readonly [number, number])[] | undefined): number {
  let start = at
  for (const [from, to] of away ?? []) if (start + hours > from + 1e-9 && start < to - 1e-9) start = to
  return start
}

/**
 * Levels tasks to crews and plant: whenever a crew is free it takes, of what may begin, that behind which the longest way lies. That is a
 * rule of thumb; it is not always the shortest there is.
 *
 * @param crewed - does a task take a crew? Waiting for an inspector or for concrete does not
 * @param rank - what goes before it: the lower first, and among equals the longest way
 * @returns undefined where the links go in a circle
 * @example level({ durations: [2, 2], after: [[], []] }, [true, true], { crews: 1 })?.end // 4
 */
export function level(w: Wiring, crewed: readonly boolean[], resources: Resources, rank?: ArrayLike<number>): Levelled | undefined {
  const network = Network.of(w)
  if (!(network instanceof Network)) return undefined
  const { crews, away, may, plantOf, plant } = resources
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
  const notBefore = Float64Array.from({ length: n }, (_, i) => w.notBefore?.[i] ?? 0)
  const units = (plant ?? []).map((list) => list && { free: Float64Array.from(list), last: new Int32Array(list.length).fill(-1) })
  const unitsOf = (i: number) => {
    const own = units[plantOf?.[i] ?? -1]
    return own && own.free.length > 0 ? own : undefined
  }
  const soonest = (list: Float64Array) => {
    let k = 0
    for (let c = 1; c < list.length; c++) if ((list[c] as number) < (list[k] as number)) k = c
    return k
  }
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
      const at = Math.max(from[i] as number, notBefore[i] as number)
      from[i] = at
      if (crewed[i] && duration(i) > 0) ready.push(i)
      else settle(i, at)
    }
  }
  /** When each could begin it, and who would. */
  const bestCrew = (i: number): { who: number; at: number } => {
    const own = unitsOf(i)
    const least = Math.max(from[i] as number, own ? (own.free[soonest(own.free)] as number) : 0)
    let best = { who: -1, at: Number.POSITIVE_INFINITY }
    for (let c = 0; c < crews; c++) {
      if (may && !may(c, i)) continue
      const at = fitted(Math.max(free[c] as number, least), duration(i), away?.[c])
      if (at < best.at - 1e-12) best = { who: c, at }
    }
    return best
  }
  const longest = (i: number) => duration(i) + (network.tail[i] as number)
  const goesFirst = (a: number, b: number) => {
    const [x, y] = [rank?.[a] ?? 0, rank?.[b] ?? 0]
    return x === y ? longest(a) > longest(b) : x < y
  }
  for (let i = 0; i < n; i++) if (waits[i] === 0) queue.push(i)
  open()
  while (ready.length > 0) {
    // What may begin now, or as soon as anything may; of those that with the longest way behind it.
    const could = ready.map(bestCrew)
    const now = could.reduce((least, c) => Math.min(least, c.at), Number.POSITIVE_INFINITY)
    let best = -1
    could.forEach((c, k) => {
      if (c.at <= now + 1e-9 && (best < 0 || goesFirst(ready[k] as number, ready[best] as number))) best = k
    })
    const { who, at } = could[best] as { who: number; at: number }
    const i = ready.splice(best, 1)[0] as number
    crew[i] = who
    const added: [number, number][] = []
    if ((last[who] as number) >= 0) added.push([last[who] as number, 0])
    last[who] = i
    free[who] = at + duration(i)
    const own = unitsOf(i)
    if (own) {
      const k = soonest(own.free)
      if ((own.last[k] as number) >= 0 && own.last[k] !== added[0]?.[0]) added.push([own.last[k] as number, 0])
      // Here from then on: nobody's order, but a day of its own.
      else if ((own.last[k] as number) < 0) notBefore[i] = Math.max(notBefore[i] as number, own.free[k] as number)
      own.last[k] = i
      own.free[k] = at + duration(i)
    }
    if (added.length > 0) after[i] = [...(after[i] as [number, number][]), ...added]
    // Begun only when its crew is back.
    if (away?.[who]?.some(([, to]) => Math.abs(to - at) < 1e-9)) notBefore[i] = Math.max(notBefore[i] as number, at)
    settle(i, at)
    open()
  }
  const sum = (of: (i: number) => boolean) => w.after.reduce((s, _, i) => s + (of(i) ? duration(i) : 0), 0)
  const byPlant = (plant ?? []).map((list, p) => (list && list.length > 0 ? sum((i) => (crewed[i] ?? false) && plantOf?.[i] === p) / list.length : 0))
  return {
    start,
    finish,
    end: Math.max(0, ...finish),
    bound: Math.max(network.end, sum((i) => crewed[i] ?? false) / crews, ...byPlant),
    crew,
    wiring: { ...w, notBefore, after },
  }
}
