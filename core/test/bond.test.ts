import {
  type BondInput,
  type BondPiece,
  bond,
  bondOf,
  cutting,
  cuttingBound,
  gridCut,
  quickBond,
  type StretchToBond,
  searchBond,
} from '@stone-tally/core'
import fc from 'fast-check'

/** Every rule of the bond, checked on the result alone. */
function broken(input: BondInput, pieces: readonly BondPiece[]): string | undefined {
  const full = input.unit.length
  let at = input.from
  for (const [i, p] of pieces.entries()) {
    if (p.kind === 'full' && Math.abs(p.length - full) > 1e-6) return `piece ${i} is no full unit`
    if (p.kind === 'half' && (!input.half || Math.abs(p.length - full / 2) > 1e-6)) return `piece ${i} is no half`
    if (p.kind === 'cut') {
      if (p.length < input.minPiece - 1e-6 || p.length >= full) return `piece ${i} is a cut of ${p.length}`
      if (!input.endCuts && (i === 0 || i === pieces.length - 1)) return 'a cut at an end'
    }
    at += p.length
    if (i < pieces.length - 1) for (const b of input.below) if (Math.abs(b - at) < input.minOverlap - 1e-6) return `joint ${at} over ${b}`
  }
  return Math.abs(at - input.to) > 1e-6 ? `ends at ${at}` : undefined
}

/** Fewest cuts and halves on a grid of whole centimetres, by plain dynamic programming: never better than the true optimum. */
function onGrid(s: { length: number; full: number; half: boolean; minPiece: number; minOverlap: number; below: number[]; cuts: boolean }) {
  const best = new Map<number, number>()
  const go = (at: number): number => {
    if (at === s.length) return 0
    const known = best.get(at)
    if (known !== undefined) return known
    best.set(at, Number.POSITIVE_INFINITY)
    let result = Number.POSITIVE_INFINITY
    const sizes: [number, number][] = [[s.full, 0]]
    if (s.half && s.full % 2 === 0) sizes.push([s.full / 2, 1])
    for (let c = s.minPiece; c < s.full; c++) sizes.push([c, 4096])
    for (const [size, cost] of sizes) {
      const to = at + size
      if (to > s.length) continue
      if (to < s.length && s.below.some((b) => Math.abs(b - to) < s.minOverlap)) continue
      if (cost === 4096 && !s.cuts && (at === 0 || to === s.length)) continue
      result = Math.min(result, cost + go(to))
    }
    best.set(at, result)
    return result
  }
  return go(0)
}

const cost = (pieces: readonly BondPiece[]) => pieces.reduce((sum, p) => sum + (p.kind === 'cut' ? 4096 : p.kind === 'half' ? 1 : 0), 0)

describe('bond', () => {
  const base: BondInput = { from: 0, to: 1.8, unit: { length: 0.45 }, half: true, minPiece: 0.15, minOverlap: 0.1125, below: [], endCuts: false }
  test('whole units where they fit', () => {
    expect(bond(base)).toEqual({ ok: true, value: { pieces: Array.from({ length: 4 }, () => ({ length: 0.45, kind: 'full' })), cuts: 0 } })
  })
  test('halves at the ends over a course of whole units', () => {
    const made = bond({ ...base, below: [0.45, 0.9, 1.35] })
    expect(made.ok && made.value.pieces.map((p) => p.kind)).toEqual(['half', 'full', 'full', 'full', 'half'])
  })
  test('without halves two cuts stand inside, never at an end', () => {
    const offset = { ...base, to: 2, half: false, below: [0.2, 0.65, 1.1] }
    const made = bond(offset)
    if (!made.ok) throw new Error(made.problems[0]?.message)
    expect(made.value.cuts).toBeGreaterThan(0)
    expect(broken(offset, made.value.pieces)).toBeUndefined()
  })
  test.each([
    ['nothing to build', { to: 0 }, 'to'],
    ['a piece longer than the unit', { minPiece: 0.6 }, 'minPiece'],
    ['overlap that cannot be', { below: [0.45, 0.9, 1.35], minOverlap: 0.3 }, 'minOverlap'],
    ['a stretch of one cut', { to: 0.3 }, 'endCuts'],
    ['a sliver', { to: 0.1, endCuts: true }, 'minPiece'],
  ])('%s: names the rule in the way', (_name, change, field) => {
    const made = bond({ ...base, ...change })
    expect(made.ok ? 'solved' : made.problems[0]?.field).toBe(field)
  })
  const walls = fc.record({
    length: fc.integer({ min: 20, max: 420 }),
    full: fc.constantFrom(30, 40, 44),
    half: fc.boolean(),
    minPiece: fc.integer({ min: 8, max: 20 }),
    minOverlap: fc.integer({ min: 0, max: 12 }),
    below: fc.array(fc.integer({ min: 0, max: 420 }), { maxLength: 12 }),
    cuts: fc.boolean(),
  })
  test('keeps every rule, and no arrangement on a centimetre grid has fewer cuts or halves', () => {
    let solved = 0
    fc.assert(
      fc.property(walls, (w) => {
        const input: BondInput = {
          from: 0,
          to: w.length / 100,
          unit: { length: w.full / 100 },
          half: w.half,
          minPiece: w.minPiece / 100,
          minOverlap: w.minOverlap / 100,
          below: w.below.map((b) => b / 100),
          endCuts: w.cuts,
        }
        const made = bond(input)
        const grid = onGrid({ ...w, below: w.below })
        if (!made.ok) return expect(grid).toBe(Number.POSITIVE_INFINITY)
        solved++
        expect(broken(input, made.value.pieces)).toBeUndefined()
        expect(cost(made.value.pieces)).toBeLessThanOrEqual(grid)
      }),
      { numRuns: 250, seed: 7 },
    )
    expect(solved).toBeGreaterThan(60)
  })
  test('the everyday patterns cost what the exact search finds', () => {
    fc.assert(
      fc.property(walls, (w) => {
        const s: StretchToBond = {
          length: w.length / 100,
          full: w.full / 100,
          half: w.half,
          minPiece: w.minPiece / 100,
          minOverlap: w.minOverlap / 100,
          below: [...w.below].sort((a, b) => a - b).map((b) => b / 100),
          cutStart: w.cuts,
          cutEnd: !w.cuts,
        }
        const quick = bondOf(s)
        const exact = searchBond(s)
        const cuts = (made: readonly BondPiece[] | undefined) => made?.filter((p) => p.kind === 'cut').length
        expect(cuts(quickBond(s))).toBe(cuts(exact))
        const laid = quickBond(s)
        if (laid) {
          const { full, below, minPiece, minOverlap, half } = s
          expect(
            broken(
              { from: 0, to: s.length, unit: { length: full }, half, minPiece, minOverlap, below: [...(below as number[])], endCuts: true },
              laid,
            ),
          ).toBeUndefined()
          if (!s.cutStart) expect(laid[0]?.kind).not.toBe('cut')
          if (!s.cutEnd) expect(laid[laid.length - 1]?.kind).not.toBe('cut')
        }
        expect(quick && cost(quick)).toBe(exact && cost(exact))
      }),
      { numRuns: 600, seed: 11 },
    )
  })
})

describe('cut list', () => {
  const pieces = fc.array(fc.record({ length: fc.integer({ min: 5, max: 100 }), count: fc.integer({ min: 1, max: 4 }) }), {
    minLength: 1,
    maxLength: 8,
  })
  test('every strip once, none over the roll, within one of its bound; equal to it where proven', () => {
    let proven = 0
    fc.assert(
      fc.property(pieces, (strips) => {
        const made = gridCut({ rollLength: 100, strips })
        if (!made.ok) throw new Error('no cutting')
        const { rolls, waste, lowerBound } = made.value
        const asked = strips.flatMap((s) => Array.from({ length: s.count }, () => s.length)).sort((a, b) => a - b)
        expect(rolls.flat().sort((a, b) => a - b)).toEqual(asked)
        for (const r of rolls) expect(r.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(100 + 1e-9)
        expect(waste).toBeCloseTo(rolls.length * 100 - asked.reduce((a, b) => a + b, 0), 6)
        expect(rolls.length - lowerBound).toBeLessThanOrEqual(1)
        expect(lowerBound).toBeLessThanOrEqual(rolls.length)
        if (rolls.length === lowerBound) proven++
      }),
      { numRuns: 300, seed: 3 },
    )
    expect(proven).toBeGreaterThan(280)
  })
  test('the bound is no more than what an exhaustive packing needs', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 10, max: 90 }), { minLength: 1, maxLength: 7 }), (items) => {
        const fewest = (left: number[], rooms: number[]): number => {
          const [x, ...rest] = left
          if (x === undefined) return rooms.length
          let best = fewest(rest, [...rooms, 100 - x])
          rooms.forEach((r, i) => {
            if (r >= x)
              best = Math.min(
                best,
                fewest(
                  rest,
                  rooms.map((q, j) => (j === i ? q - x : q)),
                ),
              )
          })
          return best
        }
        const optimum = fewest(items, [])
        expect(
          cuttingBound(
            100,
            items.map((length) => ({ length, count: 1 })),
          ),
        ).toBeLessThanOrEqual(optimum)
        expect(
          cutting(
            100,
            items.map((length) => ({ length, count: 1 })),
          ).rolls,
        ).toHaveLength(optimum)
      }),
      { numRuns: 150, seed: 5 },
    )
  })
  test('a strip longer than the roll is named', () => {
    const made = gridCut({
      rollLength: 50,
      strips: [
        { length: 2, count: 1 },
        { length: 51, count: 1 },
      ],
    })
    expect(made).toMatchObject({ ok: false, problems: [{ field: 'strips[1].length' }] })
  })
  test('thousands of strips', () => {
    const made = cutting(50, [
      { length: 2.1, count: 4000 },
      { length: 3.4, count: 2500 },
      { length: 1.7, count: 1200 },
    ])
    expect(made.rolls.length - made.lowerBound).toBeLessThanOrEqual(1)
  })
})

test('two hundred thousand strips are taken, one more is not', () => {
  const strips = (more: number) => [
    { length: 5, count: 100_000 },
    { length: 2.5, count: 100_000 - 1 },
    { length: 1, count: 1 + more },
  ]
  const most = gridCut({ rollLength: 10, strips: strips(0) })
  expect(most.ok && [most.value.rolls.length, most.value.lowerBound]).toEqual([75_000, 75_000])
  const over = gridCut({ rollLength: 10, strips: strips(1) })
  expect(over.ok ? [] : over.problems).toEqual([{ field: 'strips', message: '200001 strips are over the limit of 200,000; give them in parts' }])
})
