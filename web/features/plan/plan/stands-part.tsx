'use client'

import {
  builtHeight,
  cutReach,
  exposedHeight,
  HOLDS,
  type Holds,
  holdsAlready,
  type Meaning,
  meaningsOf,
  type Plan,
  STAND_HOWS,
  STAND_NAMES,
  STAND_SIZES,
  STANDS,
  type StandKind,
  say,
  takeIn,
} from '@stone-tally/core'
import type { ReactNode } from 'react'
import type { FieldPath } from 'react-hook-form'
import styled from 'styled-components'
import { Button, Check, Choice, Quiet, Row, Small, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { newStand } from './around'
import type { Draft } from './draft-fields'
import type { PlanForm } from './use-plan-form'

const NONE = 'none'
/** What plans of before say of their surroundings, and the plain word for it. */
const SAID: Readonly<Partial<Record<Holds, StandKind>>> = { slope: 'slope', load: 'drive', water: 'water', structure: 'building', tier: 'wall' }
const OF_KIND = (kind: StandKind): Holds | undefined => HOLDS.find((h) => SAID[h] === kind)

/** A small picture of each, as it stands to a wall. */
const SKETCHES: Readonly<Record<StandKind, string>> = {
  slope: 'M4 34H18V14L56 4',
  drive: 'M4 34H18V16H56M28 16V12H50V16M31 16a3 3 0 1 0 .1 0M47 16a3 3 0 1 0 .1 0',
  pool: 'M4 34H18V16H28V26H52V16H58M28 20H52',
  building: 'M4 34H18V18H58M32 18V6H54V18M30 7L43 1L56 7',
  fence: 'M4 34H18V18H58M26 18V4M36 18V4M46 18V4M24 8H48M24 14H48',
  water: 'M18 34V14H58M2 30q4 -4 8 0t8 0M2 36q4 -4 8 0t8 0',
  wall: 'M4 36H14V24H34V10H58M14 30H10M34 17H28',
  barrier: 'M4 34H18V18H58M28 18V8M42 18V8M24 8H46M24 12H46',
  boundary: 'M4 34H18V18H58M38 34V2M34 6H42M34 12H42M34 24H42M34 30H42',
}
const List = styled.ul`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 10px;
  > li { display: grid; gap: 8px; } .on { border-left: 4px solid var(--ink); padding: 2px 0 6px 12px; display: grid; gap: 8px; }
  svg { width: 60px; height: 38px; flex: none; } .kind { display: flex; align-items: center; gap: 12px; } .means { margin: 0; padding: 0; list-style: none; display: grid; gap: 6px; }
`
type Text = (name: FieldPath<Draft>, label: string, hint?: string) => ReactNode

/** What stands above, beside and at the wall, asked in plain words; what it means by the rules stands with each, and what the plan can take in for it. */
export function StandsPart({
  of,
  text,
  under,
  keptBy,
}: {
  of: PlanForm
  text: Text
  under: Plan | undefined
  /** Who keeps the rule book, where the one who plans does not: points of inspection are theirs. */
  keptBy: string | undefined
}) {
  const { draft, form, u } = of
  const said = draft.holds === '' || draft.holds === NONE ? [] : (draft.holds.split(',') as Holds[])
  const put = (stands: Draft['stands'], holds: readonly Holds[]) => {
    form.setValue('stands', stands, { shouldDirty: true })
    form.setValue('holds', holds.join(','), { shouldDirty: true })
  }
  const turn = (kind: StandKind, on: boolean) => {
    const old = OF_KIND(kind)
    const holds = said.filter((h) => h !== old)
    const stands = form.getValues('stands')
    put(on ? [...stands, newStand(kind)] : stands.filter((s) => s.kind !== kind), holds)
  }
  return (
    <fieldset style={{ border: 0, padding: 0, margin: 0, minWidth: 0 }}>
      <legend style={{ font: 'inherit', padding: '0 0 8px' }}>Above, beside and at it: what is there?</legend>
      <List>
        {STANDS.map((kind) => {
          const own = draft.stands.flatMap((s, i) => (s.kind === kind ? [i] : []))
          const old = OF_KIND(kind)
          const before = old !== undefined && said.includes(old)
          const on = own.length > 0 || before
          return (
            <li key={kind}>
              <div className="kind">
                <svg viewBox="0 0 60 38" aria-hidden>
                  <path d={SKETCHES[kind]} fill="none" stroke="var(--ink)" strokeWidth="2" />
                </svg>
                <Check checked={on} onChange={(v) => turn(kind, v)}>
                  {STAND_NAMES[kind]}
                </Check>
              </div>
              {before && own.length === 0 ? (
                <Row className="on">
                  <span>Nobody has said how far off: it is taken to stand at the wall.</span>
                  <Quiet onPress={() => turn(kind, true)}>Say how far</Quiet>
                </Row>
              ) : null}
              {own.map((i) => (
                <div className="on" key={i}>
                  <Row style={{ alignItems: 'start' }}>
                    {kind === 'water' ? null : (
                      <div style={{ width: 170 }}>{text(`stands.${i}.cells.away`, `Behind the face, ${u}`, 'empty: at the wall')}</div>
                    )}
                    {STAND_SIZES[kind] ? (
                      <div style={{ width: 170 }}>
                        {text(
                          `stands.${i}.cells.size`,
                          `${STAND_SIZES[kind]?.label}${STAND_SIZES[kind]?.of === 'length' ? `, ${u}` : ''}`,
                          STAND_SIZES[kind]?.of === 'fall' ? '1:3, 20 % and 15° are read too' : undefined,
                        )}
                      </div>
                    ) : null}
                    <div style={{ width: 200 }}>{text(`stands.${i}.cells.note`, 'Note')}</div>
                    {STAND_HOWS[kind] ? (
                      <Choice<string>
                        label={STAND_HOWS[kind]?.label ?? ''}
                        value={draft.stands[i]?.cells.how ?? ''}
                        options={[['', 'Not said: the worse'], ...(STAND_HOWS[kind]?.options ?? [])]}
                        onChange={(how) => form.setValue(`stands.${i}.cells.how`, how, { shouldDirty: true })}
                      />
                    ) : null}
                  </Row>
                  <Means of={of} under={under} index={i} keptBy={keptBy} />
                </div>
              ))}
            </li>
          )
        })}
      </List>
      <Row style={{ gap: '4px 24px', marginTop: 10 }}>
        <Check
          checked={said.includes('seismic')}
          onChange={(v) => put(form.getValues('stands'), v ? [...said, 'seismic'] : said.filter((h) => h !== 'seismic'))}
        >
          Earthquakes
        </Check>
        <Check
          checked={draft.holds === NONE && draft.stands.length === 0}
          onChange={(v) => {
            form.setValue('stands', v ? [] : form.getValues('stands'), { shouldDirty: true })
            form.setValue('holds', v ? NONE : '', { shouldDirty: true })
          }}
        >
          Nothing of these
        </Check>
      </Row>
    </fieldset>
  )
}

/** What one thing means for the wall, each with its reason, and what the plan can take in. */
function Means({ of, under, index, keptBy }: { of: PlanForm; under: Plan | undefined; index: number; keptBy: string | undefined }) {
  const { units } = usePreferences()
  const stand = of.plan?.stands?.[index]
  const { layout, plan, edits } = of
  if (!stand || !under || !layout || !plan) return <Small>What it means stands here as soon as the wall can be drawn.</Small>
  const at = {
    height: builtHeight(under, layout.steps, layout.tops).height,
    showing: exposedHeight(under),
    cut: cutReach(under, layout.steps),
    length: plan.length,
    stages: layout.system.stages.map((s) => s.id),
  }
  return (
    <ul className="means" aria-label={`What it means: ${STAND_NAMES[stand.kind].toLowerCase()}`}>
      {meaningsOf(stand, under, at).map((m) => (
        <li key={m.id}>
          <MeaningLine
            meaning={m}
            taken={holdsAlready(plan, m)}
            say={(t) => say(t, units)}
            onTake={() => edits?.edit((p) => takeIn(p, m) as Plan)}
            keptBy={m.takes?.point ? keptBy : undefined}
          />
        </li>
      ))}
    </ul>
  )
}

const MARK: Readonly<Record<Meaning['of'], string>> = {
  engineer: '▲',
  ask: '?',
  load: '↓',
  slope: '∠',
  drain: '≋',
  sleeves: '┃',
  protection: '▒',
  clear: '✂',
  point: '⬣',
  caution: '!',
}
function MeaningLine({
  meaning: m,
  taken,
  keptBy,
  say: sayIt,
  onTake,
}: {
  meaning: Meaning
  taken: boolean
  keptBy: string | undefined
  say(t: string): string
  onTake(): void
}) {
  return (
    <Stack style={{ gap: 2 }}>
      <Row style={{ alignItems: 'center', gap: 10 }}>
        <span style={{ flex: '1 1 220px' }}>
          <span aria-hidden>{MARK[m.of]} </span>
          {m.of === 'engineer' || m.of === 'ask' ? <strong>{sayIt(m.says)}</strong> : sayIt(m.says)}
        </span>
        {!m.takes ? null : taken ? (
          <span>✓ in the plan</span>
        ) : keptBy ? (
          <span>the {keptBy} puts it in</span>
        ) : (
          <Button onPress={onTake}>Take it in</Button>
        )}
      </Row>
      <Small>{sayIt(m.why)}</Small>
    </Stack>
  )
}
