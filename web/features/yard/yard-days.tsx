'use client'

import { useRouter } from 'next/navigation'
import styled from 'styled-components'
import type { Me } from '@/features/wall'
import type { WallDays } from '@/server/programmes'
import { Bar } from '@/ui/bar'
import { Caution, Choice, LinkButton, Page, Row } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { useWidth } from '@/ui/drawing/use-width'
import { Link } from '@/ui/link'
import { Table } from '@/ui/table'
import { DAYS_KEY, DaysChart } from './days-chart'

const Key = styled.p`display: flex; flex-wrap: wrap; gap: 2px 16px; font: 500 15px/1.3 'Barlow Condensed', sans-serif; color: var(--soft); margin: 0;`
const CREWS = ['1', '2', '3', '4', '5', '6'] as const

/** Days of all walls that are being built: when each is done with the crews they share, against alone, and what comes soon. */
export function YardDays({
  me,
  walls,
  crews,
  bound,
  hours,
  today,
}: {
  me: Me
  walls: readonly WallDays[]
  crews: number
  bound: number
  hours: number
  /** As 2026-05-31. */
  today: string
}) {
  const router = useRouter()
  const [box, width] = useWidth<HTMLDivElement>(1180)
  const late = walls.filter((w) => w.promised !== undefined && w.finish > w.promised)
  return (
    <>
      <Bar person={me} />
      <Page>
        <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
          <h1>Days</h1>
          <LinkButton href="/">Yard</LinkButton>
        </Row>
        {walls.length === 0 ? (
          <p>No wall is being built. Once something of a wall is recorded, its days stand here.</p>
        ) : (
          <>
            <Row style={{ alignItems: 'center' }}>
              <Choice
                label="Crews for all walls"
                value={`${crews}` as (typeof CREWS)[number]}
                options={CREWS.map((c) => [c, c] as const)}
                onChange={(c) => router.push(`/days?crews=${c}`)}
              />
            </Row>
            {late.map((w) => (
              <Caution key={w.id}>
                ▲ {w.name} was promised for {dayWords(w.promised ?? '')}; with {crews} {crews === 1 ? 'crew' : 'crews'} for all walls it is done on{' '}
                {dayWords(w.finish)} at the soonest.
              </Caution>
            ))}
            <div ref={box}>
              <DaysChart walls={walls} today={today} width={Math.max(300, width)} />
            </div>
            <Key aria-hidden>
              {DAYS_KEY.map(([mark, words]) => (
                <span key={words}>
                  {mark} {words}
                </span>
              ))}
            </Key>
            <Table
              label="Walls and their days"
              rows={walls}
              id={(w) => w.id}
              columns={[
                { head: 'Wall', cell: (w) => <Link href={`/walls/${w.id}/days`}>{w.name}</Link> },
                { head: 'Work left', is: 'n', cell: (w) => <>{Math.round(w.hours)} h</> },
                { head: 'Done by itself', cell: (w) => dayWords(w.alone) },
                { head: 'Done among all', cell: (w) => <strong>{dayWords(w.finish)}</strong> },
                { head: 'Promised', cell: (w) => (w.promised ? dayWords(w.promised) : '–') },
                {
                  head: 'Soon',
                  is: 'wrap',
                  cell: (w) =>
                    w.next.map((n) => (
                      <div key={`${n.day} ${n.text}`}>
                        {dayWords(n.day)}: {n.text}
                      </div>
                    )),
                },
              ]}
            />
            <p>
              All of it takes {Math.round(hours)} working hours with {crews} {crews === 1 ? 'crew' : 'crews'}; no order of the work takes less than{' '}
              {Math.round(bound)}. The order is a rule of thumb: whoever is free goes on with the wall that was promised soonest, or else that is
              nearest to done. Nothing is lost to weather in it; each wall’s own page has the odds.
            </p>
          </>
        )}
      </Page>
    </>
  )
}
