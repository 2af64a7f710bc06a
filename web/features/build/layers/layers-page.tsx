'use client'

import {
  formatLength,
  formatStation,
  type GeogridData,
  layerReport,
  layerSchedule,
  mayRecord,
  type PlacedLayer,
  parseAmount,
  progressOf,
  rollBook,
  rollCuttings,
  say,
} from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { type Me, useFeed, useHere, useRecord, useTypedForm, type WallFeed, WallPage } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Caution, Choice, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { useWidth } from '@/ui/drawing/use-width'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { ended } from '@/ui/sentence'
import { Table } from '@/ui/table'
import { RollBars } from './roll-bars'

const MARK: Readonly<Record<PlacedLayer['state'], string>> = {
  'to place': '○',
  'part placed': '◐',
  wrong: '▲',
  placed: '⬣',
  released: '✓',
  'plan changed': '◇',
}
const WHAT = [
  ['left', 'Still to place'],
  ['all', 'The whole wall'],
] as const

/** Layers of geogrid: what the plan asks for, what lies there, what to cut from which roll, and what is left. */
export function LayersPage() {
  const { wall, name, me } = useHere()
  const feed = useFeed()
  const { state } = feed
  const { layout } = state
  const { units } = usePreferences()
  const [what, setWhat] = useState<'left' | 'all'>('left')
  const [box, width] = useWidth<HTMLDivElement>(1180)
  const layers = useMemo(() => layerReport(state), [state])
  const rolls = useMemo(() => rollBook(state), [state])
  const cuttings = useMemo(() => {
    const wanted =
      what === 'all' ? layerSchedule(layout) : layers.filter((l) => l.state === 'to place' || l.state === 'part placed').map((l) => l.layer)
    return rollCuttings(layout, wanted)
  }, [layout, layers, what])
  const placed = (s: string, c: number) => layers.some((l) => l.layer.section === s && l.layer.course === c && l.state !== 'to place')
  const open = layers.filter((l) => l.state === 'wrong' || l.state === 'plan changed' || l.state === 'placed')
  return (
    <WallPage here="layers" title="Layers">
      {layers.length === 0 ? <p>The plan in force asks for no geogrid.</p> : null}
      <div ref={box}>
        <Elevation
          layout={layout}
          width={width}
          height={width < 600 ? 130 : 210}
          from={-0.4}
          to={layout.plan.length + 0.4}
          units={units}
          look={(s, c) => progressOf(state, s, c)}
          gridPlaced={placed}
          label={`Layers of ${name}: ${layers.filter((l) => l.state === 'released').length} of ${layers.length} placed and released`}
        />
      </div>
      {open.map((l) => (
        <Caution key={`open ${l.step.key}`}>
          {MARK[l.state]} Section {l.layer.section} course {l.layer.course}: {l.state}, {ended(say(l.words, units))}{' '}
          <Link href={`/walls/${wall}?step=${encodeURIComponent(l.step.key)}`} prefetch={false}>
            Open it
          </Link>
        </Caution>
      ))}
      {layers.length > 0 ? (
        <Table
          label="Layer schedule"
          rows={layers}
          id={(l) => l.step.key}
          columns={[
            { head: 'Section', cell: (l) => l.layer.section },
            { head: 'Course', is: 'n', cell: (l) => l.layer.course },
            { head: 'Elevation', is: 'n', cell: (l) => formatLength(l.layer.elevation, units, 2) },
            { head: 'Type', cell: (l) => l.layer.type },
            { head: 'Length', is: 'n', cell: (l) => formatLength(l.layer.length, units, 2) },
            {
              head: 'Stations',
              cell: (l) => (
                <>
                  {formatStation(l.layer.from, units)} to {formatStation(l.layer.to, units)}
                </>
              ),
            },
            { head: 'Strips', is: 'n', cell: (l) => l.layer.strips },
            {
              head: 'Stands',
              is: 'wrap',
              cell: (l) => (
                <>
                  {MARK[l.state]} {l.state}
                  {l.words ? `: ${say(l.words, units)}` : ''}
                  {l.layer.lies.map((x) => (
                    <span key={`${x.kind}${x.from}`} style={{ display: 'block', color: 'var(--soft)', fontSize: 14 }}>
                      {say(x.words, units)}
                    </span>
                  ))}
                </>
              ),
            },
            { head: 'Roll', cell: (l) => [...new Set(l.entries.flatMap((e) => (e.entry.data as GeogridData).roll ?? []))].join(', ') },
            {
              head: '',
              unseen: 'On the Board',
              cell: (l) => (
                <Link
                  href={`/walls/${wall}?step=${encodeURIComponent(l.step.key)}`}
                  aria-label={`Section ${l.layer.section} course ${l.layer.course} on the Board`}
                >
                  Board
                </Link>
              ),
            },
          ]}
        />
      ) : null}
      {layers.length > 0 ? (
        <Stack>
          <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
            <h2>Cut from rolls</h2>
            <Choice label="Cut for" hideLabel value={what} options={WHAT} onChange={setWhat} />
          </Row>
          {cuttings.length === 0 ? <p>Nothing is left to cut.</p> : null}
          {cuttings.map((c) => (
            <Stack key={c.roll.type} style={{ gap: 6 }}>
              <h2 className="minor">
                {c.roll.type}: {c.cutting.rolls.length} {c.cutting.rolls.length === 1 ? 'roll' : 'rolls'} of {formatLength(c.roll.length, units, 1)}{' '}
                by {formatLength(c.roll.width, units, 2)}
                {c.roll.assumed ? ' (a common size; the plan names none)' : ''}
              </h2>
              <p style={{ fontSize: 15, color: 'var(--soft)' }}>
                {c.strips.map((s) => `${s.count} strips of ${formatLength(s.length, units, 2)}`).join(', ')}.{' '}
                {c.cutting.rolls.length === c.cutting.lowerBound
                  ? 'No cutting can do with fewer rolls.'
                  : `At least ${c.cutting.lowerBound} are needed.`}{' '}
                {formatLength(c.cutting.waste, units, 1)} left over.
              </p>
              <RollBars cutting={c} width={width} units={units} />
            </Stack>
          ))}
        </Stack>
      ) : null}
      <Rolls feed={feed} me={me} types={[...new Set(layout.building.layers.map((g) => g.type))]} />
      {rolls.length > 0 ? (
        <Table
          label="Rolls on site"
          rows={rolls}
          id={(r) => r.roll}
          columns={[
            { head: 'Roll', cell: (r) => r.roll },
            { head: 'Lot', cell: (r) => r.lot ?? '' },
            { head: 'Type', cell: (r) => r.type },
            { head: 'Length', is: 'n', cell: (r) => formatLength(r.length, units, 1) },
            { head: 'Used', is: 'n', cell: (r) => formatLength(r.used, units, 1) },
            {
              head: 'Left',
              is: 'n',
              cell: (r) => (
                <>
                  {r.left < -0.01 ? '▲ ' : ''}
                  {formatLength(Math.abs(r.left), units, 1)}
                  {r.left < -0.01 ? ' too much used' : ''}
                </>
              ),
            },
            {
              head: '',
              unseen: 'What is wrong with it',
              is: 'wrap',
              cell: (r) => (
                <>
                  {r.unknown ? '▲ named with a layer, nobody recorded that it came' : ''}
                  {r.wrongType ? '▲ used for another type of layer' : ''}
                </>
              ),
            },
          ]}
        />
      ) : null}
    </WallPage>
  )
}

/** A roll as it comes to site. */
function Rolls({ feed, me, types }: { feed: WallFeed; me: Me; types: readonly string[] }) {
  const { units } = usePreferences()
  const [open, setOpen] = useState(false)
  const { v, set, letGo, begun } = useTypedForm(`roll ${units}`, { roll: '', lot: '', width: '', length: '' })
  const { roll, lot, width, length } = v
  const [type, setType] = useState(types[0] ?? '')
  const { busy, problems, setProblems, go } = useRecord(feed.record)
  if (!mayRecord(me.role, 'roll') || types.length === 0) return null
  const put = async () => {
    const [w, l] = [parseAmount(width, 'length', units), parseAmount(length, 'length', units)]
    if (!w.ok) return setProblems(w.problems.map((p) => ({ ...p, field: 'Width' })))
    if (!l.ok) return setProblems(l.problems.map((p) => ({ ...p, field: 'Length' })))
    const data = { roll: roll.trim(), type, width: w.value, length: l.value, ...(lot.trim() ? { lot: lot.trim() } : {}) }
    if (await go([{ kind: 'roll', where: {}, data }])) letGo()
  }
  return (
    <Stack>
      <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
        <h2>Rolls on site</h2>
        {open || begun ? null : <Quiet onPress={() => setOpen(true)}>A roll came</Quiet>}
      </Row>
      {open || begun ? (
        <>
          <Choice label="Type on its label" value={type} options={types.map((t) => [t, t] as const)} onChange={setType} />
          <Row>
            <Field label="Roll" value={roll} onChange={(roll) => set({ roll })} />
            <Field label="Lot" value={lot} onChange={(lot) => set({ lot })} />
            <AmountField label="Width" of="length" value={width} onChange={(width) => set({ width })} />
            <AmountField label="Length" of="length" value={length} onChange={(length) => set({ length })} />
            <NowButton isDisabled={busy || !roll.trim() || !width.trim() || !length.trim()} onPress={put}>
              Record this roll
            </NowButton>
          </Row>
          <Problems list={problems} />
        </>
      ) : null}
    </Stack>
  )
}
