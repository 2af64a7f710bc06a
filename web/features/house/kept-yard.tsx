'use client'

import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { type Held, plansOf, wallsHere } from '@/device/kept'
import type { DeviceSession } from '@/device/session'
import { Kept, KeptLine } from '@/features/device'
import { Ago } from '@/ui/ago'
import { Bar } from '@/ui/bar'
import { LinkButton, Page, Row } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { useWidth } from '@/ui/drawing/use-width'
import { laidFor } from '@/ui/laid'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'

const Wall = styled.article`
  border-top: 3px solid var(--ink); padding: 12px 0 4px; display: grid; gap: 10px; grid-template-columns: minmax(0, 1fr);
  h2 a { text-decoration: none; display: inline-flex; align-items: center; min-height: 48px; min-width: 48px; } .drawing { overflow: hidden; min-width: 0; }
`

/** The Yard without a signal: the walls this device keeps for the person at it. */
export function KeptYard({ session }: { session: DeviceSession }) {
  const [walls, setWalls] = useState<readonly Held[]>()
  useEffect(() => {
    wallsHere(session.me.id)
      .then(setWalls)
      .catch(() => setWalls([]))
  }, [session.me.id])
  return (
    <>
      <Bar person={session.me} />
      <Page>
        <Row style={{ justifyContent: 'space-between' }}>
          <h1>Yard</h1>
          <Row>
            <LinkButton href="/bench/rod">Bench</LinkButton>
            <LinkButton href="/device">This device</LinkButton>
          </Row>
        </Row>
        <KeptLine>
          No connection: these are the walls this device keeps. {session.me.name} may go on here; the house last knew of it <Ago at={session.at} />.
        </KeptLine>
        {walls?.length === 0 ? <p>No wall was opened on this device yet. Open one where there is a signal, and it stays.</p> : null}
        {walls?.map((held) => (
          <KeptWallRow key={held.wall.id} held={held} />
        ))}
      </Page>
    </>
  )
}

function KeptWallRow({ held }: { held: Held }) {
  const { units } = usePreferences()
  const [box, width] = useWidth<HTMLDivElement>(820)
  const { wall } = held
  const plan = plansOf(wall)[wall.desk.revisions.length - 1]
  const laid = plan && laidFor(plan)
  return (
    <Wall aria-label={wall.desk.name}>
      <h2>
        <Link href={`/walls/${wall.id}`}>{wall.desk.name}</Link>
      </h2>
      <Kept held={held} />
      <div className="drawing" ref={box}>
        {laid?.ok ? (
          <Elevation
            layout={laid.value}
            units={units}
            from={-0.5}
            to={laid.value.plan.length + 0.5}
            width={Math.max(200, width)}
            height={80}
            plain
            label={`${wall.desk.name}, whole wall`}
          />
        ) : null}
      </div>
    </Wall>
  )
}
