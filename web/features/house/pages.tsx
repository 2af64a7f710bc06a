'use client'

import dynamic from 'next/dynamic'
import { useSearchParams } from 'next/navigation'
import type { ComponentType } from 'react'
import type { Desk } from '@/device/db'
import type { PlaceId } from '@/features/wall/places'
import { useHere } from '@/features/wall/provider'

const Coming = () => <p role="status">Opening …</p>
const loading = Coming
const Board = dynamic(() => import('@/features/build/board/board').then((m) => m.Board), { loading })
const Ground = dynamic(() => import('@/features/build/ground').then((m) => m.GroundPage), { loading })
const Water = dynamic(() => import('@/features/build/water').then((m) => m.WaterPage), { loading })
const Layers = dynamic(() => import('@/features/build/layers').then((m) => m.LayersPage), { loading })
const Stock = dynamic(() => import('@/features/build/stock').then((m) => m.StockPage), { loading })
const Days = dynamic(() => import('@/features/build/days').then((m) => m.DaysPage), { loading })
const Saw = dynamic(() => import('@/features/build/saw/saw-page').then((m) => m.SawPage), { loading })
const Crew = dynamic(() => import('@/features/build/crew/crew-page').then((m) => m.CrewPage), { loading })
const Checks = dynamic(() => import('@/features/prove/checks').then((m) => m.ChecksPage), { loading })
const Record = dynamic(() => import('@/features/prove/record/record-page').then((m) => m.RecordPage), { loading })
const Readings = dynamic(() => import('@/features/prove/record/import-readings').then((m) => m.ImportReadings), { loading })
const Units = dynamic(() => import('@/features/plan/units').then((m) => m.UnitsPlace), { loading })
const Pole = dynamic(() => import('@/features/plan/pole/pole-page').then((m) => m.PolePage), { loading })
const Ahead = dynamic(() => import('@/features/build/ahead').then((m) => m.AheadPage), { loading })
const SetOut = dynamic(() => import('@/features/plan/set-out/set-out').then((m) => m.SetOut), { loading })
const Plan = dynamic(() => import('@/features/plan/plan/plan-form').then((m) => m.PlanForm), { loading })
const Rules = dynamic(() => import('@/features/plan/rules').then((m) => m.RuleBookPage), { loading })
export const Bench = dynamic(() => import('@/features/bench').then((m) => m.BenchPage), { loading })
const Print = dynamic(() => import('./kept-print').then((m) => m.KeptPrint), { loading })

/** The Board, at the step or the station its address says. @param seen - what is next by section, as the house saw it when it made the page */
export function BoardPlace({ seen, walk }: { seen?: Readonly<globalThis.Record<string, string>>; walk?: boolean }) {
  const query = useSearchParams()
  const step = query.get('step')
  const from = Number(query.get('station') ?? Number.NaN)
  // Another step asked for while one is here is another Board; the record behind it stays.
  return (
    <Board
      key={`${step} ${from}`}
      walk={walk ?? false}
      {...(seen ? { seen } : {})}
      {...(step ? { open: step } : {})}
      {...(Number.isFinite(from) ? { from } : {})}
    />
  )
}
/** Dig and pad, at the panel its address says. */
export function GroundPlace() {
  const query = useSearchParams()
  const [finding, tab, step] = [query.get('finding'), query.get('tab'), query.get('step')]
  return <Ground key={`${finding} ${tab} ${step}`} {...(finding ? { finding } : {})} {...(tab ? { tab } : {})} {...(step ? { step } : {})} />
}

/** Places that need nothing but the wall and its record. */
export const OWN: Readonly<Partial<globalThis.Record<PlaceId, ComponentType>>> = {
  '': BoardPlace,
  ground: GroundPlace,
  water: Water,
  layers: Layers,
  stock: Stock,
  days: Days,
  saw: Saw,
  crew: Crew,
  checks: Checks,
  record: Record,
  readings: Readings,
  units: Units,
  pole: Pole,
}

/** Places that show what the company knows besides; without a signal as it was when the house last answered. */
export const WITH_DESK: Readonly<Partial<globalThis.Record<PlaceId, ComponentType<{ desk: Desk }>>>> = {
  ahead: ({ desk }) => <Ahead scatter={desk.scatter} />,
  'set-out': ({ desk }) => <SetOut revisions={desk.revisions} />,
  plan: function PlanPlace({ desk }) {
    const { me, plans, wall, name } = useHere()
    const plan = plans[plans.length - 1]
    if (!plan) return null
    const levels = { company: desk.levels.company, sites: { [plan.site]: desk.levels.site } }
    return <Plan me={me} catalogue={desk.catalogue} levels={levels} wall={{ id: wall, name, revision: plans.length, plan }} />
  },
  rules: function RulesPlace({ desk }) {
    const { me, plans, wall, name } = useHere()
    const plan = plans[plans.length - 1]
    if (!plan) return null
    const of = { level: 'wall' as const, id: wall, name, plan, company: desk.levels.company, site: desk.levels.site }
    return <Rules me={me} of={of} revision={plans.length} sites={[]} history={[]} walls={[]} keepers={desk.keepers} />
  },
  print: () => <Print />,
}
