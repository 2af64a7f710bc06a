import { calculate, NAMES, schemaOf } from './calc'

const good = (name: string, input: unknown): Record<string, unknown> => {
  const made = calculate(name, JSON.stringify(input))
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value as Record<string, unknown>
}
const refused = (name: string, input: unknown) => {
  const made = calculate(name, JSON.stringify(input))
  return made.ok ? undefined : made.problems[0]?.field
}

describe('base-steps', () => {
  const input = {
    datum: 9,
    minEmbedment: 0.2,
    minRun: 1.2,
    unit: { height: 0.2, length: 0.45 },
    profile: [
      { station: 0, toe: 10 },
      { station: 9, toe: 10.1 },
      { station: 15, toe: 10.75 },
    ],
  }
  test('the example: four steps, their breaks and the buried area', () => {
    const { steps, buriedArea } = good('base-steps', input) as { steps: { start: number; end: number; elevation: number }[]; buriedArea: number }
    expect(steps.map((s) => s.elevation)).toEqual([9.8, 10, 10.2, 10.4].map((e) => expect.closeTo(e, 9)))
    expect(steps.slice(0, -1).map((s) => s.end)).toEqual([10.125, 11.925, 13.725].map((e) => expect.closeTo(e, 9)))
    expect(buriedArea).toBeCloseTo(4.155, 3)
  })
  test.each([
    ['stations out of order', { profile: [input.profile[1], input.profile[0]] }, 'profile[1].station'],
    ['one point', { profile: [input.profile[0]] }, 'profile'],
    ['no unit height', { unit: { length: 0.45 } }, 'unit.height'],
    ['an unknown field', { colour: 1 }, 'colour'],
  ])('%s', (_name, change, field) => expect(refused('base-steps', { ...input, ...change })).toBe(field))
})

describe('bond', () => {
  const input = { from: 0, to: 2.25, unit: { length: 0.45 }, half: true, minPiece: 0.15, minOverlap: 0.1, below: [], endCuts: false }
  test('whole units, and halves over whole units', () => {
    expect(good('bond', input)).toEqual({ pieces: Array.from({ length: 5 }, () => ({ length: 0.45, kind: 'full' })), cuts: 0 })
    const over = good('bond', { ...input, below: [0.45, 0.9, 1.35, 1.8] }) as { pieces: { kind: string }[]; cuts: number }
    expect([over.cuts, over.pieces.map((p) => p.kind).filter((k) => k === 'half')]).toEqual([0, ['half', 'half']])
  })
  test('one cut where the length is odd, and not at an end', () => {
    const made = good('bond', { ...input, to: 2.45, half: false }) as { pieces: { length: number; kind: string }[]; cuts: number }
    expect(made.cuts).toBe(1)
    expect([made.pieces[0]?.kind, made.pieces[made.pieces.length - 1]?.kind]).toEqual(['full', 'full'])
    expect(made.pieces.reduce((n, p) => n + p.length, 0)).toBeCloseTo(2.45, 9)
  })
  test('stations need not start at nothing', () => {
    const made = good('bond', { ...input, from: 12.3, to: 14.55, below: [12.75] }) as { pieces: { length: number }[] }
    expect(made.pieces[0]?.length).not.toBeCloseTo(0.45, 6)
  })
  test.each([
    ['ends before it starts', { to: -1 }, 'to'],
    ['no way', { below: [0.45, 0.9, 1.35, 1.8], minOverlap: 0.4 }, 'minOverlap'],
    ['only a cut', { to: 0.3 }, 'endCuts'],
    ['half is a word', { half: 'yes' }, 'half'],
    ['a joint that is no number', { below: [0.1, null] }, 'below[1]'],
  ])('%s', (_name, change, field) => expect(refused('bond', { ...input, ...change })).toBe(field))
})

describe('grid-cut', () => {
  test('strips from rolls with the proof', () => {
    const made = good('grid-cut', {
      rollLength: 50,
      strips: [
        { length: 24, count: 2 },
        { length: 2, count: 1 },
      ],
    })
    expect(made).toEqual({ rolls: [[24, 24, 2]], waste: expect.closeTo(0, 9), lowerBound: 1 })
  })
  test('three that do not pair are proven to need three', () => {
    expect(good('grid-cut', { rollLength: 10, strips: [{ length: 6, count: 3 }] })).toMatchObject({ lowerBound: 3, waste: 12 })
  })
  test.each([
    ['a strip too long', { strips: [{ length: 51, count: 1 }] }, 'strips[0].length'],
    ['no strip', { strips: [] }, 'strips'],
    ['part of a strip', { strips: [{ length: 5, count: 1.5 }] }, 'strips[0].count'],
    ['no roll', { rollLength: 0 }, 'rollLength'],
  ])('%s', (_name, change, field) => expect(refused('grid-cut', { rollLength: 50, strips: [{ length: 5, count: 1 }], ...change })).toBe(field))
})

describe('embedment', () => {
  test('the deepest rule governs, the first of equals, in whole courses', () => {
    const rules = [
      { kind: 'fixed', depth: 0.2 },
      { kind: 'fraction', fraction: 0.1 },
      { kind: 'perHeight', base: 0.1, perMetre: 0.05 },
      { kind: 'courses', count: 1 },
    ]
    expect(good('embedment', { exposedHeight: 2, unitHeight: 0.15, rules })).toEqual({ depth: expect.closeTo(0.2, 9), governing: 0, courses: 2 })
  })
  test.each([
    ['a rule without its number', [{ kind: 'fixed' }], 'rules[0].depth'],
    ['a number of another rule', [{ kind: 'fixed', depth: 0.2, count: 1 }], 'rules[0].count'],
    ['an unknown rule', [{ kind: 'guess' }], 'rules[0].kind'],
  ])('%s', (_name, rules, field) => expect(refused('embedment', { exposedHeight: 2, unitHeight: 0.2, rules })).toBe(field))
})

test.each(NAMES)('%s refuses an empty object by its first missing field, and publishes a closed schema', (name) => {
  expect(refused(name, {})).toBeTruthy()
  expect(schemaOf(name)).toMatchObject({ type: 'object', additionalProperties: false, required: expect.any(Array) })
})

describe('trench', () => {
  const input = {
    sideSlope: 0.5,
    swell: 0.25,
    truckVolume: 8,
    sections: [
      { station: 0, ground: 10.4, bottom: 9.45, width: 0.9 },
      { station: 6, ground: 10.55, bottom: 9.45, width: 0.9 },
    ],
  }
  test('average end areas, loose, loads', () => {
    const areas = input.sections.map(({ ground, bottom, width }) => width * (ground - bottom) + 0.5 * (ground - bottom) ** 2)
    const bank = (((areas[0] ?? 0) + (areas[1] ?? 0)) / 2) * 6
    expect(good('trench', input)).toEqual({
      bank: expect.closeTo(bank, 9),
      loose: expect.closeTo(bank * 1.25, 9),
      loads: Math.ceil((bank * 1.25) / 8),
    })
  })
  test.each([
    ['one section', { sections: [input.sections[0]] }, 'sections'],
    ['the same station twice', { sections: [input.sections[0], input.sections[0]] }, 'sections[1].station'],
    ['no width', { sections: [input.sections[0], { station: 9, ground: 10, bottom: 9 }] }, 'sections[1].width'],
    ['no truck', { truckVolume: 0 }, 'truckVolume'],
    ['a slope that overhangs', { sideSlope: -1 }, 'sideSlope'],
  ])('%s', (_name, change, field) => expect(refused('trench', { ...input, ...change })).toBe(field))
})

describe('proctor', () => {
  const points = [
    { moisture: 6, dryDensity: 1905 },
    { moisture: 8, dryDensity: 1990 },
    { moisture: 10, dryDensity: 2015 },
    { moisture: 12, dryDensity: 1960 },
  ]
  test('the example', () =>
    expect(good('proctor', { points })).toEqual({ optimumMoisture: expect.closeTo(9.543, 3), maximumDryDensity: expect.closeTo(2013.83, 2) }))
  test('lighter grains lower the zero-air-voids line', () => {
    expect(refused('proctor', { points, gs: 2.7 })).toBeUndefined()
    expect(refused('proctor', { points, gs: 2.5 })).toBe('points[2].dryDensity')
  })
  test.each([
    ['a word', { points: [...points.slice(0, 3), { moisture: 'wet', dryDensity: 1960 }] }, 'points[3].moisture'],
    ['a field too many', { points: points.map((p) => ({ ...p, colour: 'brown' })) }, 'points[0].colour'],
    ['no points', {}, 'points'],
  ])('%s', (_name, input, field) => expect(refused('proctor', input)).toBe(field))
})

describe('sand-cone', () => {
  const input = { massBefore: 6.5, massAfter: 2.9, coneMass: 1.62, sandDensity: 1430, soilMass: 2.87, moisture: 8.4, maximumDryDensity: 2017 }
  test('the example', () =>
    expect(good('sand-cone', input)).toEqual({
      volume: expect.closeTo(1.98 / 1430, 12),
      wetDensity: expect.closeTo(2072.78, 2),
      dryDensity: expect.closeTo(1912.16, 2),
      relativeCompaction: expect.closeTo(94.8, 2),
    }))
  test.each([
    [{ massAfter: 4.9 }, 'massAfter'],
    [{ soilMass: 0 }, 'soilMass'],
    [{ moisture: 0.084 }, 'moisture'],
    [{ sandDensity: 0 }, 'sandDensity'],
    [{ maximumDryDensity: null }, 'maximumDryDensity'],
  ])('%j', (change, field) => expect(refused('sand-cone', { ...input, ...change })).toBe(field))
})
