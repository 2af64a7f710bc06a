'use client'

import { formatSmall, type LiftData, PLANT_NAMES, SQUEEZE, type Squeeze, say } from '@stone-tally/core'
import { TakeReading } from '@/features/instruments'
import { AmountField } from '@/ui/amount-field'
import { Caution, Choice, Field, NowButton, Problems, Quiet, RecordRow, Row, WorkStack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { Judged } from './judged'
import type { WorkProps } from './types'
import { useLifts } from './use-lifts'

const PLANT = Object.entries(PLANT_NAMES) as [LiftData['plant'], string][]
const FILL: readonly (readonly [NonNullable<LiftData['fill']>, string])[] = [
  ['granular', 'Stone, gravel or sand'],
  ['fine', 'Silt or clay in it'],
]
const HAND: readonly (readonly [Squeeze, string])[] = SQUEEZE.map((s) => [s.id, s.name] as const)

/** A lift placed and compacted; moisture by hand or meter, stretch and fabric where they matter. */
export function LiftsWork(props: WorkProps) {
  const { units } = usePreferences()
  const { recheck } = props
  const {
    plan,
    found,
    next,
    plant,
    setPlant,
    fill,
    setFill,
    pad,
    compacted,
    asked,
    cement,
    byRule,
    heavy,
    standoff,
    thickness,
    setThickness,
    passes,
    setPasses,
    density,
    setDensity,
    squeeze,
    setSqueeze,
    moisture,
    typeMoisture,
    probed,
    more,
    setMore,
    from,
    setFrom,
    to,
    setTo,
    lap,
    setLap,
    near,
    setNear,
    soil,
    setSoil,
    placed,
    setPlaced,
    looked,
    setLooked,
    held,
    busy,
    problems,
    loose,
    reach,
    tooThick,
    section,
    verdict,
    wrong,
    put,
  } = useLifts(props)
  return (
    <WorkStack>
      <Hero value={`${next}`} unit={found ? `of ${plan.count} lifts, again` : `of ${plan.count} lifts`} />
      <Targets
        list={[
          ...(cement
            ? ([['Thickness', formatSmall(plan.compacted, units)]] as const)
            : ([
                ['Compacted', formatSmall(compacted, units)],
                ['Place loose', formatSmall(Math.min(loose, reach), units)],
                ['Passes', `${asked} with the ${PLANT_NAMES[plant]}`],
              ] as const)),
        ]}
      />
      <Row>
        <div style={{ flex: 1, minWidth: 100 }}>
          <AmountField label="Thickness" of="small" value={thickness} onChange={setThickness} />
        </div>
        {held ? (
          <>
            <Caution>The fill lay open: {say(held, units)}. Take off what is frozen or soaked, or let it drain, before the next lift.</Caution>
            <Field label="Who looked at it, what was done" value={looked} onChange={setLooked} />
          </>
        ) : null}
        {cement ? null : (
          <>
            <div style={{ flex: 1, minWidth: 80 }}>
              <Field label="Passes" value={passes} onChange={setPasses} inputMode="numeric" />
            </div>
            <div style={{ flex: 1, minWidth: 100 }}>
              <Field label="Density %, if tested" value={density} onChange={setDensity} inputMode="decimal" />
            </div>
          </>
        )}
      </Row>
      {cement ? (
        <p>Poured or tamped in one go: no passes, no density. It sets before anything stands on it, as the drawing or the maker says.</p>
      ) : (
        <>
          <Choice label="Compacted with" value={plant} options={PLANT} onChange={setPlant} />
          {byRule ? <Choice label="What is placed" value={fill ?? ('' as NonNullable<LiftData['fill']>)} options={FILL} onChange={setFill} /> : null}
        </>
      )}
      {heavy ? <AmountField label="Nearest to the face" of="length" value={near} onChange={setNear} hint={standoff} /> : null}
      {tooThick && !cement ? (
        <Caution>
          {formatSmall(loose, units)} loose is more than a {PLANT_NAMES[plant]} reaches through ({formatSmall(reach, units)}): thinner lifts, or
          heavier plant.
        </Caution>
      ) : null}
      {cement ? null : <Choice label="Squeezed in the fist, it" value={squeeze ?? ('' as Squeeze)} options={HAND} onChange={setSqueeze} />}
      {more ? (
        <>
          <Row>
            <Field label="Moisture by meter, %" value={moisture} onChange={typeMoisture} inputMode="decimal" />
            <AmountField
              label="From"
              of="length"
              value={from}
              onChange={setFrom}
              hint={section ? `the whole of ${section.id} when empty` : undefined}
            />
            <Field label="To" value={to} onChange={setTo} inputMode="decimal" />
            <AmountField label="Placed loose" of="small" value={placed} onChange={setPlaced} />
            <Field label="Soil placed" value={soil} onChange={setSoil} />
            {pad ? <AmountField label="Fabric lap below" of="small" value={lap} onChange={setLap} /> : null}
          </Row>
          <TakeReading kind="moisture-probe" scene={{}} onTaken={(values, instrument) => probed(values.moisture ?? 0, instrument)} />
        </>
      ) : (
        <Row>
          <Quiet onPress={() => setMore(true)}>Moisture by meter, stretch, fabric</Quiet>
        </Row>
      )}
      <Judged verdict={verdict} otherwise={wrong ?? 'It is judged as you type.'} />
      <RecordRow>
        <NowButton style={{ flex: 1 }} isDisabled={busy} onPress={put}>
          {recheck ? `Record re-check of lift ${next}` : `Record lift ${next}`}
        </NowButton>
      </RecordRow>
      <Problems list={problems} />
    </WorkStack>
  )
}
