import { FOOT, formatLength, formatSmall, INCH, parseLength } from '@stone-tally/core'
import { render, screen } from '@testing-library/react'
import { scaleLinear } from 'd3-scale'
import fc from 'fast-check'
import { roundTicks, StationAxis, ValueAxis } from '../ui/drawing/axis'

describe('values at an axis', () => {
  test('are round in metres, and in feet where one reads feet', () => {
    expect(roundTicks([0, 10], 5, 'length', 'metric')).toEqual([0, 2, 4, 6, 8, 10])
    expect(roundTicks([0, 10], 5, 'length', 'imperial').map((t) => t / FOOT)).toEqual([0, 5, 10, 15, 20, 25, 30])
    expect(roundTicks([0, 0.6], 5, 'length', 'imperial').map((t) => Math.round(t / INCH))).toEqual([0, 6, 12, 18])
    expect(roundTicks([0, 0.015], 5, 'small', 'imperial').map((t) => Math.round((t / INCH) * 16))).toEqual([0, 2, 4, 6, 8])
    expect(roundTicks([0, 0.01], 5, 'small', 'imperial').map((t) => Math.round((t / INCH) * 16))).toEqual([0, 1, 2, 3, 4, 5, 6])
    expect(roundTicks([0, 0.3], 4, 'length', 'decimal-feet').map((t) => +(t / FOOT).toFixed(6))).toEqual([0, 0.2, 0.4, 0.6, 0.8])
    expect(roundTicks([1900, 2100], 5, 'density', 'imperial').map((t) => Math.round(t / 0.16018463) / 100)).toEqual([120, 122, 124, 126, 128, 130])
  })
  test('whatever the span: what stands at a tick in feet and inches is where it is drawn, to half a sixteenth', () =>
    fc.assert(
      fc.property(fc.integer({ min: -400, max: 400 }), fc.integer({ min: 1, max: 4000 }), (from, span) => {
        const ticks = roundTicks([from / 100, from / 100 + span / 1000], 5, 'length', 'imperial')
        for (const t of ticks) {
          const read = parseLength(formatLength(t, 'imperial', 2), 'ft')
          expect(Math.abs((read.ok ? read.value : Number.NaN) - t)).toBeLessThan(INCH / 32 + 1e-9)
        }
        expect(ticks.length).toBeLessThan(20)
      }),
    ))
})

test('stations in feet stand along the bottom, values up the side with their lines', () => {
  const [x, y] = [scaleLinear([0, 12.192], [0, 500]), scaleLinear([0, 0.02], [200, 0])]
  const { container } = render(
    <svg aria-label="drawing" role="img">
      <StationAxis x={x} y={180} units="imperial" />
      <ValueAxis y={y} x={40} units="imperial" of="small" say={(v) => formatSmall(v, 'imperial')} grid={[50, 500]} />
    </svg>,
  )
  expect(screen.getByText(`20'`, { exact: false })).toBeTruthy()
  expect(screen.getByText('1/4"')).toBeTruthy()
  expect([...container.querySelectorAll('line[stroke="var(--faint)"]')].every((l) => l.getAttribute('x2') === '500')).toBe(true)
})
