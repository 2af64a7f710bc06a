'use client'

import { type CatalogueUnit, formatLength, formatMass, SYSTEMS, type UnitSystem } from '@stone-tally/core'
import { useState } from 'react'
import { Radio, RadioGroup } from 'react-aria-components'
import styled from 'styled-components'
import { UnitFace } from '@/features/catalogue/unit-face'
import { Caption, Condensed } from '@/ui/controls'

const Pictures = styled.div`
  display: grid; gap: 8px; grid-template-columns: repeat(auto-fill, minmax(158px, 1fr)); max-height: 560px; overflow-y: auto; padding: 2px;
  .one { border: 1.5px solid var(--line); border-radius: 4px; padding: 8px 10px; display: grid; gap: 4px; align-content: end; cursor: pointer; min-height: 118px; background: var(--panel); }
  .one[data-selected] { outline: 3px solid var(--now); border-color: var(--ink); }
  .one[data-focus-visible] { outline: 3px solid var(--ink); outline-offset: 2px; }
  .face { height: 62px; display: grid; align-content: end; overflow: hidden; } strong { font-size: 15px; line-height: 1.15; }
`
const System = styled.div`
  display: flex; flex-wrap: wrap; gap: 6px; margin-bottom: 8px;
  button { min-height: 48px; padding: 0 12px; background: none; border: 1.5px solid var(--line); border-radius: 4px; font: inherit; color: var(--ink); cursor: pointer; }
  button[aria-pressed='true'] { background: var(--ink); color: var(--ground); border-color: var(--ink); }
`

/** Systems, and the units of one of them as they look from the front; every unit by its picture, size and mass. */
export function UnitPictures({
  value,
  offered,
  units,
  onChange,
}: {
  value: string
  offered: readonly CatalogueUnit[]
  units: UnitSystem
  onChange(id: string): void
}) {
  const own = offered.find((c) => c.unit.id === value)?.system
  const system = own ?? SYSTEMS[0]?.id
  // A system that is pressed is chosen: with the unit it was left with, at first with its first one.
  const [left, leave] = useState<Readonly<Record<string, string>>>({})
  const choose = (id: string) => {
    if (id === own) return
    const to = offered.find((c) => c.system === id && c.unit.id === left[id]) ?? offered.find((c) => c.system === id)
    if (own) leave({ ...left, [own]: value })
    if (to) onChange(to.unit.id)
  }
  const list = offered.filter((c) => c.system === system)
  const l = (m: number) => formatLength(m, units, 2)
  return (
    <RadioGroup value={value} onChange={onChange} aria-label="Unit">
      <Caption>System</Caption>
      <System>
        {SYSTEMS.filter((s) => offered.some((c) => c.system === s.id)).map((s) => (
          <button key={s.id} type="button" aria-pressed={s.id === system} onClick={() => choose(s.id)}>
            {s.name}
          </button>
        ))}
      </System>
      <Pictures>
        {list.map(({ unit }) => (
          <Radio key={unit.id} value={unit.id} className="one">
            <span className="face">
              <UnitFace unit={unit} system={system ?? ''} />
            </span>
            <strong>{unit.name}</strong>
            <Condensed style={{ color: 'var(--soft)' }}>
              {l(unit.height)} high, {l(unit.length)} long, {formatMass(unit.mass, units)}
            </Condensed>
          </Radio>
        ))}
      </Pictures>
    </RadioGroup>
  )
}
