// The line ahead held against simulated walls: how often the band holds, and how wide it is.
import { scatterOf, scatterSeen } from '@stone-tally/core'
import { growth, lean, line, rule, top } from './growth'

describe('the band holds what it claims', () => {
  /** Normal numbers from a seed (Lehmer, Box and Muller), so that the figures are the same everywhere. */
  const normals = (seed: number) => {
    let x = seed
    const uniform = () => {
      x = (x * 48271) % 2147483647
      return x / 2147483647
    }
    return (sd: number) => (sd === 0 ? 0 : sd * Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform()))
  }
  const [COURSES, WALLS, NOISE] = [12, 2000, 0.8]
  interface Family {
    readonly model: 'level' | 'lean'
    readonly walk: number
    readonly own: number
    readonly drift: number
  }
  const drifts = [0, 0.25, 0.5]
  const families: readonly Family[] = [
    ...[0, 1].map((own) => ({ model: 'level' as const, walk: 0, own, drift: 0 })),
    ...drifts.slice(1).map((drift) => ({ model: 'level' as const, walk: 0, own: 0, drift })),
    ...[0.5, 1, 1.5].flatMap((walk) => drifts.map((drift) => ({ model: 'level' as const, walk, own: 0, drift }))),
    ...[1, 2, 3].flatMap((walk) => drifts.map((drift) => ({ model: 'lean' as const, walk, own: 0, drift }))),
  ]
  /** A wall: what is read of each course, and where its top stands; mm. */
  const wall = (f: Family, normal: (sd: number) => number) => {
    const read: number[] = []
    const gain = normal(f.drift)
    let x = f.model === 'level' ? normal(3) : 0
    let last = 0
    for (let c = 1; c <= COURSES; c++) {
      const step = gain + normal(f.walk)
      x += step
      last = x + normal(f.own)
      read.push((f.model === 'level' ? last : step) + normal(NOISE))
    }
    return { read, top: last }
  }
  /** Half the band of a filter that knows the model, mm: a dense Gaussian, solved as it stands. */
  const ideal = (f: Family, n: number): number => {
    // Unknowns: the start is known by its reading alone; covariance of readings 1..n and the top.
    const cov = (a: number, b: number, noise: boolean) => {
      const start = f.model === 'level' ? 1e4 : 0
      const level = start + f.walk ** 2 * Math.min(a, b) + f.drift ** 2 * a * b + (a === b ? f.own ** 2 : 0)
      const step = f.drift ** 2 + (a === b ? f.walk ** 2 : 0)
      return (f.model === 'level' ? level : step) + (noise && a === b ? NOISE ** 2 : 0)
    }
    const withTop = (a: number) => (f.model === 'level' ? cov(a, COURSES, false) : f.walk ** 2 + COURSES * f.drift ** 2)
    const own = f.model === 'level' ? cov(COURSES, COURSES, false) : COURSES * f.walk ** 2 + COURSES ** 2 * f.drift ** 2
    const a = Array.from({ length: n }, (_, i) => [...Array.from({ length: n }, (_, k) => cov(i + 1, k + 1, true)), withTop(i + 1)])
    for (let i = 0; i < n; i++) {
      for (let r = 0; r < n; r++) {
        if (r === i) continue
        const q = (a[r]?.[i] ?? 0) / (a[i]?.[i] ?? 1)
        for (let c = i; c <= n; c++) (a[r] as number[])[c] = (a[r]?.[c] ?? 0) - q * (a[i]?.[c] ?? 0)
      }
    }
    const explained = Array.from({ length: n }, (_, i) => ((a[i]?.[n] ?? 0) / (a[i]?.[i] ?? 1)) * withTop(i + 1)).reduce((x, y) => x + y, 0)
    return 1.96 * Math.sqrt(Math.max(0, own - explained))
  }
  /** The straight line with a held-back slope that was drawn before, for the size of its errors; mm. */
  const before = (f: Family, read: readonly number[]): number => {
    const y = f.model === 'level' ? read : read.map((_, i) => read.slice(0, i + 1).reduce((a, b) => a + b, 0))
    const n = y.length
    const [mx, my] = [(n + 1) / 2, y.reduce((a, b) => a + b, 0) / n]
    const sum = (g: (dx: number, dy: number) => number) => y.reduce((t, v, i) => t + g(i + 1 - mx, v - my), 0)
    const [sxx, sxy, syy] = [sum((x) => x * x), sum((x, d) => x * d), sum((_, d) => d * d)]
    const [scatter, drift] = f.model === 'level' ? [1.5, 0.5] : [2, 1]
    const variance = n > 2 ? Math.max(scatter ** 2, (syy - (sxy / sxx) * sxy) / (n - 2)) : scatter ** 2
    return my + (sxy / (sxx + variance / drift ** 2)) * (COURSES - mx)
  }
  const results = families.flatMap((f, k) => {
    const normal = normals(7919 * (k + 1))
    const walls = Array.from({ length: WALLS }, () => wall(f, normal))
    return [2, 4, 8].map((n) => {
      let [held, width, now, was] = [0, 0, 0, 0]
      for (const w of walls) {
        const readings = w.read.slice(0, n).map((v, i) => ({ course: i + 1, deviation: v / 1000 }))
        const { deviation, band } = top(growth(readings, COURSES, f.model === 'level' ? rule : lean))
        const off = w.top - deviation * 1000
        if (Math.abs(off) <= band * 1000) held++
        width += band * 1000
        now += off * off
        was += (w.top - before(f, w.read.slice(0, n))) ** 2
      }
      return { ...f, n, held: held / WALLS, width: width / WALLS, ideal: ideal(f, n), now: Math.sqrt(now / WALLS), was: Math.sqrt(was / WALLS) }
    })
  })
  const mean = (list: readonly (typeof results)[number][], of: (r: (typeof results)[number]) => number) =>
    list.reduce((a, r) => a + of(r), 0) / list.length
  test.each(results.map((r) => [`${r.model}, walk ${r.walk}, own ${r.own}, drift ${r.drift} mm, ${r.n} of 12 read`, r] as const))(
    '%s: nine in ten at least',
    (_name, r) => expect(r.held).toBeGreaterThanOrEqual(0.9),
  )
  test.each(['level', 'lean'] as const)('%s: 93 to 98.5 in a hundred over all, and not wider than 1.8 times what can be known', (model) => {
    const own = results.filter((r) => r.model === model)
    const pooled = mean(own, (r) => r.held)
    expect(pooled).toBeGreaterThanOrEqual(0.93)
    expect(pooled).toBeLessThanOrEqual(0.985)
    expect(mean(own, (r) => r.width) / mean(own, (r) => r.ideal)).toBeLessThanOrEqual(1.8)
  })
  // A company's record: 10 walls of 3 stations that share most of their courses' scatter, read to the top; then walls of the same crew.
  const learned = families
    .filter((f) => f.own === 0 && f.walk > 0)
    .map((f, k) => {
      const normal = normals(104729 * (k + 1))
      const positions = (read: readonly number[]) => {
        let sum = 0
        return read.map((v, i) => ({ course: i + 1, deviation: (f.model === 'level' ? v : (sum += v)) / 1000 }))
      }
      const record = Array.from({ length: 10 }, () =>
        scatterSeen(
          [0, 1, 2].map(() => positions(wall(f, normal).read)),
          f.model,
        ),
      )
      const scatter = scatterOf(record, f.model) as number
      const n = 4
      let [held, width] = [0, 0]
      for (let w = 0; w < WALLS; w++) {
        const made = wall(f, normal)
        const readings = made.read.slice(0, n).map((v, i) => ({ course: i + 1, deviation: v / 1000 }))
        const { deviation, band } = top(growth(readings, COURSES, { ...(f.model === 'level' ? rule : lean), scatter }))
        if (Math.abs(made.top - deviation * 1000) <= band * 1000) held++
        width += band * 1000
      }
      const without = results.find((r) => r.model === f.model && r.walk === f.walk && r.drift === f.drift && r.n === n)
      return { ...f, scatter, held: held / WALLS, width: width / WALLS, without: without?.width ?? 0, ideal: ideal(f, n) }
    })
  test.each(learned.map((r) => [`${r.model}, walk ${r.walk}, drift ${r.drift} mm`, r] as const))(
    'learned from ten walls, %s: nine in ten at least',
    (_n, r) => expect(r.held).toBeGreaterThanOrEqual(0.9),
  )
  test('a record makes the band of a calm crew narrower, that of a wild one wider, and each nearer to what can be known', () => {
    const all = (list: typeof learned, of: (r: (typeof learned)[number]) => number) => list.reduce((sum, r) => sum + of(r), 0)
    const calm = learned.filter((r) => r.walk === (r.model === 'level' ? 0.5 : 1))
    const wild = learned.filter((r) => r.walk === (r.model === 'level' ? 1.5 : 3))
    expect(all(calm, (r) => r.width)).toBeLessThan(0.9 * all(calm, (r) => r.without))
    expect(all(wild, (r) => r.width)).toBeGreaterThan(all(wild, (r) => r.without))
    expect(all(learned, (r) => r.width) / all(learned, (r) => r.ideal)).toBeLessThanOrEqual(1.4)
    expect(all(learned, (r) => r.held) / learned.length).toBeLessThanOrEqual(0.985)
  })
  test.each(['level', 'lean'] as const)('%s: a wild crew in a calm company: its own readings speak against the record', (model) => {
    const normal = normals(611953)
    const f: Family = { model, walk: model === 'level' ? 1.5 : 3, own: 0, drift: 0.25 }
    let held = 0
    for (let w = 0; w < WALLS; w++) {
      const made = wall(f, normal)
      const readings = made.read.slice(0, 6).map((v, i) => ({ course: i + 1, deviation: v / 1000 }))
      const { deviation, band } = top(
        growth(readings, COURSES, { ...(model === 'level' ? rule : lean), scatter: model === 'level' ? 0.0006 : 0.0012 }),
      )
      if (Math.abs(made.top - deviation * 1000) <= band * 1000) held++
    }
    expect(held / WALLS).toBeGreaterThanOrEqual(0.9)
  })
  test('points are foretold as well as by the straight line of before, and better over all', () => {
    for (const n of [2, 4, 8]) {
      const own = results.filter((r) => r.n === n)
      expect(mean(own, (r) => r.now)).toBeLessThanOrEqual(mean(own, (r) => r.was) * 1.01)
    }
  })
})

describe('the company’s own scatter', () => {
  test('by hand: three courses 1, 3 and 5 mm above the one before, readings of 0.8 mm', () => {
    const station = [0, 0.001, 0.004, 0.009].map((deviation, i) => ({ course: i + 1, deviation }))
    const level = scatterSeen([station], 'level')
    expect(level.steps).toBe(3)
    expect(level.squares * 1e6).toBeCloseTo(1 + 9 + 25 - 3 * 2 * 0.64, 9)
    // A setback is one reading, and what is left out between counts by its courses.
    const gap = scatterSeen([[station[0], station[2]] as never], 'lean')
    expect(gap.steps).toBe(2)
    expect(gap.squares * 1e6).toBeCloseTo(16 - 2 * 0.64, 9)
    // Thirty courses of crews in general weigh against them: 1.516 mm² each.
    expect((scatterOf([level], 'level') ?? 0) * 1000).toBeCloseTo(Math.sqrt((30 * 1.516 + 31.16) / 33), 9)
  })
  test('four stations of one wall say twice what one says; four walls four times', () => {
    const station = line(0, 0.002, 9)
    const one = scatterSeen([station], 'level')
    const four = scatterSeen([station, station, station, station], 'level')
    expect(four.steps).toBeCloseTo(2 * one.steps, 12)
    expect(four.squares).toBeCloseTo(2 * one.squares, 15)
    expect(scatterOf([one, one, one, one], 'level')).toBeGreaterThan(scatterOf([four], 'level') ?? 1)
  })
  test('nothing read says nothing; no record makes a crew quieter than the quietest believed of', () => {
    expect(scatterOf([], 'level')).toBeUndefined()
    expect(scatterOf([scatterSeen([[], [{ course: 1, deviation: 0 }]], 'level')], 'level')).toBeUndefined()
    const still = scatterSeen([line(0, 0, 400)], 'level')
    expect(
      scatterOf(
        Array.from({ length: 500 }, () => still),
        'level',
      ),
    ).toBe(0.0002)
    expect(
      scatterOf(
        Array.from({ length: 500 }, () => scatterSeen([line(0, 0, 400)], 'lean')),
        'lean',
      ),
    ).toBe(0.001)
  })
})
