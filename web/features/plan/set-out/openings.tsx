'use client'

import { buildingOf, type Plan, type UnitSystem } from '@stone-tally/core'
import { Field, Quiet, Row, Stack } from '@/ui/controls'
import { lengthOf, Pair, Typed } from './typed'
import type { Draft } from './use-draft'

type Opening = NonNullable<Plan['openings']>[number]

/** Pipes and culverts through the wall: its courses stop at them and go on over them. */
export function Openings({ draft, units, readOnly }: { draft: Pick<Draft, 'plan' | 'layout' | 'edit'>; units: UnitSystem; readOnly: boolean }) {
  const l = lengthOf(units)
  const list = draft.plan.openings ?? []
  const put = (openings: readonly Opening[], key?: string) => draft.edit((p) => ({ ...p, openings: [...openings] }), key)
  const change = (i: number, to: Partial<Opening>) =>
    put(
      list.map((o, k) => (k === i ? { ...o, ...to } : o)),
      `opening ${i} ${Object.keys(to)[0]}`,
    )
  const add = () => {
    const middle = Math.round(draft.plan.length * 50) / 100
    const toe = draft.layout.steps.find((s) => middle < s.end)?.elevation ?? draft.plan.benchmark.elevation
    put([
      ...list,
      { name: `pipe ${list.length + 1}`, station: middle, width: 0.4, bottom: toe + buildingOf(draft.plan).course(1).height, height: 0.4 },
    ])
  }
  return (
    <>
      <h2>Pipes through the wall</h2>
      {list.map((o, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: names may repeat
        <Stack key={i} style={{ gap: 8 }}>
          <Row style={{ justifyContent: 'space-between', alignItems: 'end' }}>
            <Field label="Name" value={o.name} onChange={(name) => !readOnly && change(i, { name })} />
            {readOnly ? null : (
              <Quiet onPress={() => put(list.filter((_, k) => k !== i))} aria-label={`Take out ${o.name}`}>
                ✕
              </Quiet>
            )}
          </Row>
          <Pair>
            <Typed label="Station of its middle" value={o.station} {...l} onTake={(station) => change(i, { station })} disabled={readOnly} />
            <Typed label="Underside, elevation" value={o.bottom} {...l} onTake={(bottom) => change(i, { bottom })} disabled={readOnly} />
            <Typed label="Width" value={o.width} {...l} onTake={(width) => change(i, { width })} disabled={readOnly} />
            <Typed label="Height" value={o.height} {...l} onTake={(height) => change(i, { height })} disabled={readOnly} />
          </Pair>
        </Stack>
      ))}
      {readOnly ? null : (
        <div>
          <Quiet onPress={add}>Add a pipe or culvert</Quiet>
        </div>
      )}
    </>
  )
}
