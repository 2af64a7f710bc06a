'use client'

import { formatAmount, type Plan, type Result, say, type Way } from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { Button, Caution, Quiet, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { useHydrated } from '@/ui/use-hydrated'
import type { SubjectId } from './subjects'
import type { PlanForm } from './use-plan-form'
import { useWays } from './use-search'
import { keeping, variantsOf, whyNot } from './variants'

const MOST = 3
const ROWS: readonly (readonly [keyof Way, string, 'm³' | ''])[] = [
  ['courses', 'Courses', ''],
  ['units', 'Units to set', ''],
  ['cuts', 'Cuts', ''],
  ['padSteps', 'Pad steps', ''],
  ['dig', 'Dig', 'm³'],
  ['pad', 'Pad', 'm³'],
  ['stone', 'Drainage stone', 'm³'],
  ['backfill', 'Backfill', 'm³'],
  ['layers', 'Layers of geogrid', ''],
  ['days', 'Working days, one crew', ''],
  ['loads', 'Lorries of 18 t', ''],
]

interface Compared {
  readonly id: string
  readonly title: string
  readonly key: string
  readonly plan: Result<Plan>
}

/** Two or three ways of the same wall side by side: what each takes; one is kept, the others stay as sketches. */
export function CompareWays({ of, subject }: { of: PlanForm; subject: SubjectId | undefined }) {
  const { units } = usePreferences()
  const [chosen, setChosen] = useState<readonly string[]>([])
  const here = useHydrated()
  const { draft, plan, form } = of
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is offered follows from the plan that is typed
  const variants = useMemo(() => (plan ? variantsOf(draft, of.system, of.units, of.offered, of.withUnit, plan) : []), [plan])
  const offered = variants.filter((v) => subject === undefined || v.subject === subject)
  const today = useMemo(() => new Date().toISOString().slice(0, 10), [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: one plan is compared with what is chosen
  const compared = useMemo((): Compared[] => {
    const made = (id: string, title: string, p: Result<Plan>): Compared => ({ id, title, plan: p, key: p.ok ? JSON.stringify(p.value) : '' })
    const list = chosen.flatMap((id) => variants.filter((v) => v.id === id))
    return list.length === 0 || !plan
      ? []
      : [made('', 'As planned', of.planOf(draft)), ...list.map((v) => made(v.id, `${v.group}: ${v.title}`, of.planOf(v.draft())))]
  }, [chosen, variants])
  const asked = useMemo(
    () =>
      compared.flatMap((c) => {
        const { plan } = c
        return plan.ok
          ? [{ id: c.id, key: c.key, ask: async (api: { way(p: Plan, d: string): Promise<Result<Way>> }) => await api.way(plan.value, today) }]
          : []
      }),
    [compared, today],
  )
  const wayOf = useWays<Result<Way>>(asked as never)
  if (!here || !plan) return null
  const ways = compared.flatMap((c) => {
    const way = c.plan.ok ? wayOf(c.key) : undefined
    return way && way !== 'failed' && way.ok ? [{ ...c, way: way.value }] : []
  })
  const whys = compared.flatMap((c) => {
    const way = c.plan.ok ? wayOf(c.key) : undefined
    const why = !c.plan.ok
      ? whyNot(c.plan.problems)
      : way === 'failed'
        ? 'could not be worked out on this device'
        : way && !way.ok
          ? whyNot(way.problems)
          : undefined
    return why ? [{ ...c, why }] : []
  })
  const number = (v: number, unit: string) => (unit === 'm³' ? formatAmount({ value: v, unit: 'm³' }, units) : `${Math.round(v * 10) / 10}`)
  const keep = (c: Compared) => {
    const v = variants.find((x) => x.id === c.id)
    if (!v) return
    const now = form.getValues()
    of.put(keeping(now, v.draft(), `Before “${c.title}”`))
    setChosen([])
  }
  const groups = [...new Set(offered.map((v) => v.group))]
  return (
    <Stack role="group" aria-label="Ways compared">
      <Row style={{ gap: 10, alignItems: 'end' }}>
        <label style={{ display: 'grid', gap: 4, flex: '1 1 260px', maxWidth: 420 }}>
          Compare with another way
          <select
            style={{ minHeight: 48, font: 'inherit', minWidth: 0 }}
            value=""
            disabled={chosen.length >= MOST - 1 || offered.length === 0}
            onChange={(e) => setChosen([...chosen, e.target.value])}
          >
            <option value="">{offered.length === 0 ? 'no other way of this' : 'choose one'}</option>
            {groups.map((g) => (
              <optgroup key={g} label={g}>
                {offered
                  .filter((v) => v.group === g && !chosen.includes(v.id))
                  .map((v) => (
                    <option key={v.id} value={v.id}>
                      {v.title}
                    </option>
                  ))}
              </optgroup>
            ))}
          </select>
        </label>
        {chosen.length > 0 ? <Quiet onPress={() => setChosen([])}>Compare no more</Quiet> : null}
      </Row>
      {whys.map((c) => (
        <Caution key={c.id}>
          ▲ {c.title}: {say(c.why, units)}.
        </Caution>
      ))}
      {compared.length > ways.length + whys.length ? <p role="status">Working out …</p> : null}
      {ways.length > 1 ? (
        <Table
          label="What each way takes"
          rows={ROWS.map(([id, title, unit]) => {
            const least = Math.min(...ways.map((w) => w.way[id]))
            return { id, title, unit, least, differ: ways.some((o) => o.way[id] > least + 1e-9) }
          })}
          id={(r) => r.id}
          columns={[
            { head: 'It takes', cell: (r) => r.title },
            ...ways.map((w) => ({
              head: w.title,
              is: 'n wrap' as const,
              cell: (r: { id: (typeof ROWS)[number][0]; unit: string; least: number; differ: boolean }) =>
                r.differ && w.way[r.id] <= r.least + 1e-9 ? <strong>{number(w.way[r.id], r.unit)}</strong> : number(w.way[r.id], r.unit),
            })),
          ]}
          foot={[
            'The least of each stands in bold',
            ...ways.map((w) =>
              w.id ? (
                <Button key={w.id} onPress={() => keep(w)} aria-label={`Keep ${w.title}`}>
                  Keep
                </Button>
              ) : null,
            ),
          ]}
        />
      ) : null}
      <Sketches of={of} />
    </Stack>
  )
}

/** Ways that were not kept: taken up again, or thrown away. */
function Sketches({ of }: { of: PlanForm }) {
  const list = of.draft.sketches
  if (list.length === 0) return null
  const without = (i: number) => list.filter((_, k) => k !== i)
  return (
    <ul aria-label="Sketches" style={{ listStyle: 'none', margin: 0, padding: 0, display: 'grid', gap: 6 }}>
      {list.map((s, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: titles may repeat
        <li key={i} style={{ display: 'flex', gap: 10, alignItems: 'center', flexWrap: 'wrap' }}>
          <span style={{ flex: '1 1 160px' }}>Sketch: {s.title}</span>
          <Quiet
            onPress={() => {
              const { sketches: _, ...now } = of.form.getValues()
              of.put({ ...s.draft, sketches: [{ title: `Before “${s.title}”`, draft: now }, ...without(i)] })
            }}
          >
            Take it up
          </Quiet>
          <Quiet onPress={() => of.put({ ...of.form.getValues(), sketches: without(i) })} aria-label={`Throw the sketch away: ${s.title}`}>
            ✕
          </Quiet>
        </li>
      ))}
    </ul>
  )
}
