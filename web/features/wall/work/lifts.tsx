'use client'

import { formatSmall, type LiftData, PLANT_NAMES, SQUEEZE, type Squeeze, say } from '@stone-tally/core'
import { TakeReading } from '@/features/instruments'
import { AmountField } from '@/ui/amount-field'
import { Caution, Choice, Field, NowButton, Problems, Quiet, RecordRow, Row, Small, WorkStack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { fromWords } from '@/ui/known-words'
import { usePreferences } from '@/ui/preferences'
import { Judged } from './judged'
import type { WorkProps } from './types'
import { useLifts } from './use-lifts'

const PLANT = Object.entries(PLANT_NAMES) as [LiftData['plant'], string][]
const FILL: readonly (readonly [NonNullable<LiftData['fill']>, string])[] = [
  ['granular', 'Stone, gravel or sand'],
  ['fine', 'Silt or clay in it'],
]
const UNFIT: readonly (readonly [NonNullable<LiftData['fill']>, string])[] = [
  ['swelling', 'Clay that swells'],
  ['organic', 'Organic soil'],
  ['frozen', 'Frozen soil'],
  ['made', 'Made ground'],
]
const HAND: readonly (readonly [Squeeze, string])[] = SQUEEZE.map((s) => [s.id, s.name] as const)

/** A lift placed and compacted; moisture by hand or meter, stretch and fabric where they matter. */
export function LiftsWork(props: WorkProps) {
  const { units } = usePreferences()
  const { recheck } = props
  const lift = useLifts(props)
  return (
    <WorkStack>
      <Hero value={`${lift.next}`} unit={lift.found ? `of ${lift.plan.count} lifts, again` : `of ${lift.plan.count} lifts`} />
      <Targets
        list={[
          ...(lift.cement
            ? ([['Thickness', formatSmall(lift.plan.compacted, units)]] as const)
            : ([
                ['Compacted', formatSmall(lift.compacted, units)],
                ['Place loose', formatSmall(Math.min(lift.loose, lift.reach), units)],
                ['Passes', `${lift.asked} with the ${PLANT_NAMES[lift.plant]}`],
              ] as const)),
        ]}
      />
      <Row>
        <div style={{ flex: 1, minWidth: 100 }}>
          <AmountField label="Thickness" of="small" value={lift.thickness} onChange={lift.setThickness} />
        </div>
        {lift.held ? (
          <>
            <Caution>The fill lay open: {say(lift.held, units)}. Take off what is frozen or soaked, or let it drain, before the next lift.</Caution>
            <Field label="Who looked at it, what was done" value={lift.looked} onChange={lift.setLooked} />
          </>
        ) : null}
        {lift.cement ? null : (
          <>
            <div style={{ flex: 1, minWidth: 80 }}>
              <Field label="Passes" value={lift.passes} onChange={lift.setPasses} inputMode="numeric" />
            </div>
            <div style={{ flex: 1, minWidth: 100 }}>
              <Field label="Density %, if tested" value={lift.density} onChange={lift.setDensity} inputMode="decimal" />
            </div>
          </>
        )}
      </Row>
      {lift.cement ? (
        <p>Poured or tamped in one go: no passes, no density. It sets before anything stands on it, as the drawing or the maker says.</p>
      ) : (
        <>
          <Choice label="Compacted with" value={lift.plant} options={PLANT} onChange={lift.setPlant} />
          {lift.byRule ? (
            <Choice
              label="What is placed"
              value={lift.fill ?? ('' as NonNullable<LiftData['fill']>)}
              options={lift.pad ? FILL : [...FILL, ...UNFIT]}
              onChange={lift.setFill}
            />
          ) : null}
          {lift.last && lift.last.value.plant === lift.plant && lift.last.value.fill === lift.fill ? (
            <Small>Plant and material {fromWords(lift.last)}.</Small>
          ) : null}
        </>
      )}
      {lift.heavy ? <AmountField label="Nearest to the face" of="length" value={lift.near} onChange={lift.setNear} hint={lift.standoff} /> : null}
      {lift.tooThick && !lift.cement ? (
        <Caution>
          {formatSmall(lift.loose, units)} loose is more than a {PLANT_NAMES[lift.plant]} reaches through ({formatSmall(lift.reach, units)}): thinner
          lifts, or heavier plant.
        </Caution>
      ) : null}
      {lift.cement ? null : (
        <Choice label="Squeezed in the fist, it" value={lift.squeeze ?? ('' as Squeeze)} options={HAND} onChange={lift.setSqueeze} />
      )}
      {lift.more ? (
        <>
          <Row>
            <Field label="Moisture by meter, %" value={lift.moisture} onChange={lift.typeMoisture} inputMode="decimal" />
            <AmountField
              label="From"
              of="length"
              value={lift.from}
              onChange={lift.setFrom}
              hint={lift.section ? `the whole of ${lift.section.id} when empty` : undefined}
            />
            <Field label="To" value={lift.to} onChange={lift.setTo} inputMode="decimal" />
            <AmountField label="Placed loose" of="small" value={lift.placed} onChange={lift.setPlaced} />
            <Field label="Soil placed" value={lift.soil} onChange={lift.setSoil} />
            {lift.pad ? <AmountField label="Fabric lap below" of="small" value={lift.lap} onChange={lift.setLap} /> : null}
          </Row>
          <TakeReading kind="moisture-probe" scene={{}} onTaken={(values, instrument) => lift.probed(values.moisture ?? 0, instrument)} />
        </>
      ) : (
        <Row>
          <Quiet onPress={() => lift.setMore(true)}>Moisture by meter, stretch, fabric</Quiet>
        </Row>
      )}
      <Judged verdict={lift.verdict} otherwise={lift.wrong ?? 'It is judged as you type.'} />
      <RecordRow>
        <NowButton style={{ flex: 1 }} isDisabled={lift.busy} onPress={lift.put}>
          {recheck ? `Record re-check of lift ${lift.next}` : `Record lift ${lift.next}`}
        </NowButton>
      </RecordRow>
      <Problems list={lift.problems} />
    </WorkStack>
  )
}
