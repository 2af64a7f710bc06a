'use client'

import { capHeight, topAt } from '@stone-tally/core'
import type { Sheet } from './sheet'

/** Caps one by one where they can be told apart, else the top of each step; those of a kind are one outline. */
export function Caps({ of: { layout, perMetre, plain, x, y, rect, inView } }: { of: Sheet }) {
  const { plan, building, caps, tops } = layout
  const tall = capHeight(building)
  const following = plan.top?.style === 'cap-following'
  const apart = caps.length > 0 && (following || ((building.cap?.length ?? 0) * perMetre > 9 && caps.length < 400))
  const under = (c: { elevation: number }, s: number) => (following ? topAt(plan, s) - tall : c.elevation)
  const capPath = (c: { start: number; to: number; elevation: number }) => {
    const [a, b] = [under(c, c.start), under(c, c.to)]
    return `M${x(c.start)} ${y(a)}L${x(c.to)} ${y(b)}V${y(b + tall)}L${x(c.start)} ${y(a + tall)}Z`
  }
  const isEnd = (c: { kind: string }) => c.kind === 'end' || c.kind === 'corner'
  const seen = caps.filter((c) => inView(c.start, c.to))
  const outlines: readonly (readonly [string, string])[] = apart
    ? [
        [
          'var(--panel)',
          seen
            .filter((c) => !isEnd(c))
            .map(capPath)
            .join(''),
        ],
        ['var(--faint)', seen.filter(isEnd).map(capPath).join('')],
      ]
    : [
        [
          'var(--panel)',
          tops
            .filter((s) => tall > 0 && inView(s.start, s.end))
            .map((s) => rect(s.start, s.end, s.elevation, s.elevation + tall))
            .join(''),
        ],
      ]
  return outlines.map(([fill, d]) => (d ? <path key={fill} d={d} fill={fill} stroke="var(--ink)" strokeWidth={plain ? 0.8 : 1.2} /> : null))
}
