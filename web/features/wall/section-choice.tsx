'use client'

import type { Plan } from '@stone-tally/core'
import styled from 'styled-components'
import { Choice } from '@/ui/controls'

/** As many as stand side by side on a phone, in two rows. */
const SIDE_BY_SIDE = 8
const Pick = styled.select`
  min-height: 48px; padding: 0 12px; border: 2px solid var(--ink); border-radius: 4px; background: var(--panel); color: var(--ink); font: 600 17px/1.2 'Archivo Variable', sans-serif;
`

/** Names are short: none is broken in two. */
const Side = styled.div`white-space: nowrap;`

/** The sections of a wall: side by side while there are few, a list where there are many. */
export function SectionChoice({ sections, value, onChange }: { sections: Plan['sections']; value: string; onChange(section: string): void }) {
  if (sections.length <= SIDE_BY_SIDE) {
    return (
      <Side>
        <Choice label="Section" hideLabel value={value} options={sections.map((s) => [s.id, `Section ${s.id}`] as const)} onChange={onChange} />
      </Side>
    )
  }
  return (
    <Pick aria-label="Section" value={value} onChange={(e) => onChange(e.target.value)}>
      {sections.map((s) => (
        <option key={s.id} value={s.id}>
          Section {s.id}
        </option>
      ))}
    </Pick>
  )
}
