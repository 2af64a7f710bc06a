'use client'

import { type Problem, SYSTEMS, systemOf, UNIT_PROFILES, type Unit } from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import type { Listed } from '@/server/catalogue'
import { Ask, Button, Choice, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { LENGTHS, NUMBERS, readUnit, typedUnit } from './unit-typed'

const Grid = styled.div`display: grid; gap: 12px 14px; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); align-items: start;`

/** What holds a unit on the one below, in words. */
export const PROFILE_WORDS: Record<(typeof UNIT_PROFILES)[number], string> = {
  lug: 'A lug on top, stone in its cores',
  'rear-lip': 'A lip over the course below',
  'tongue-groove': 'A tongue in a groove',
  pattern: 'Its weight, set back by bands',
  landscape: 'Its own weight, glued or lipped',
  basket: 'The stone in a laced basket',
  'big-block': 'Its own weight, set by machine',
  'wire-mat': 'Its wires in the fill',
  masonry: 'Mortar, bars and grout',
}

/** A unit of the catalogue as a form. */
export function UnitForm({
  start,
  onClose,
  onPut,
}: {
  start: Listed
  onClose(): void
  onPut(u: { system: string; unit: Unit }): Promise<readonly Problem[]>
}) {
  const { units } = usePreferences()
  const [typed, setTyped] = useState(() => typedUnit(start, units))
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const u = units === 'metric' ? 'm' : 'ft-in'
  const save = async () => {
    const read = readUnit(typed, start, units)
    setProblems(read.ok ? await onPut(read.value) : read.problems)
  }
  const field = (k: string, label: string) => (
    <Field key={k} label={label} name={k} value={typed.texts[k] ?? ''} onChange={(x) => setTyped((t) => ({ ...t, texts: { ...t.texts, [k]: x } }))} />
  )
  return (
    <Ask title={start.unit.id ? `Change ${start.unit.name}` : 'Add a unit'} open onClose={onClose}>
      <Stack>
        <Grid>
          {field('id', 'Short name (letters, digits)')}
          {field('name', 'Name')}
        </Grid>
        <Choice
          label="System"
          value={typed.system}
          options={SYSTEMS.map((s) => [s.id, s.noun.many] as const)}
          onChange={(system) => setTyped((t) => ({ ...t, system }))}
        />
        <Choice
          label="Holds by"
          value={typed.profile}
          options={UNIT_PROFILES.map((p) => [p, PROFILE_WORDS[p]] as const)}
          onChange={(profile) => setTyped((t) => ({ ...t, profile }))}
        />
        <Choice
          label={`Half ${systemOf(typed.system)?.noun.many ?? 'units'} are made`}
          value={typed.half}
          options={[
            ['yes', 'Yes'],
            ['no', 'No, sawn'],
          ]}
          onChange={(half) => setTyped((t) => ({ ...t, half }))}
        />
        <Grid>
          {LENGTHS.map(([k, name]) => field(k, `${name}, ${u}`))}
          {NUMBERS.map(([k, name]) => field(k, name))}
        </Grid>
        <Problems list={problems} />
        <Row>
          <NowButton onPress={save}>Put into the catalogue</NowButton>
          <Button onPress={onClose}>Close</Button>
        </Row>
      </Stack>
    </Ask>
  )
}
