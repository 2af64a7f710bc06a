'use client'

import {
  fabricArea,
  fabricLap,
  formatArea,
  formatLength,
  formatMass,
  formatSmall,
  liftPlans,
  PAD_MATERIALS,
  PAD_NAMES,
  type PadMaterial,
  padAdvice,
  padChoiceOf,
  padFacts,
  SOILS,
  soilsOf,
} from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import { type Fact, Foretold, foreseen, useRecord, useTyped } from '@/features/wall'
import { Caution, Choice, Field, NowButton, Problems, Stack } from '@/ui/controls'
import { Targets } from '@/ui/figure'
import { Said } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { Halves } from './dig-panel'
import { GroundStep } from './ground-step'
import { type GroundProps, padStep } from './types'

const Option = styled.div`
  border-top: 2px solid var(--ink); padding: 8px 0; display: grid; gap: 4px;
  ul { margin: 0; padding-left: 18px; font-size: 15px; } .drain { color: var(--soft); font-size: 15px; }
`

/** Which pad for this place and why, in which lifts with which tool, and the log of the lifts. */
export function LiftsPanel(props: GroundProps) {
  const { state, section, units, me } = props
  const { plan, building } = state.layout
  const { foundation } = building
  const facts = padFacts(state)
  const options = padAdvice(facts)
  const choice = padChoiceOf(state)
  const step = padStep(state, section)
  const own = plan.sections.find((s) => s.id === section)
  const length = own ? own.to - own.from : plan.length
  const fine = SOILS[facts.subgrade].drainage === 'slow'
  const plans = foundation.lifts
    ? liftPlans({ thickness: foundation.thickness, maxLift: foundation.lifts.max, looseFactor: foundation.lifts.loose, fine: false })
    : []
  const soft = soilsOf(state, section).some((s) => !s.finding.suitable)
  const lap = fabricLap(soft)
  return (
    <Halves>
      <Stack>
        <h2>Which pad</h2>
        <Targets
          list={[
            ['Bottom of pad', formatLength(facts.padBottom, units)],
            [
              'Lowest outlet',
              !Number.isFinite(facts.outlet)
                ? 'none: the wall has no pipe'
                : `${formatLength(facts.outlet, units)}${facts.outlet <= facts.padBottom + 0.02 ? ', below the pad' : ', above its bottom'}`,
            ],
            [
              'Soil below',
              soilsOf(state).length > 0 ? SOILS[facts.subgrade].name : `not judged yet; taken as ${SOILS[facts.subgrade].name.toLowerCase()}`,
            ],
            ['Unit', formatMass(facts.unitMass, units)],
            ['Frost expected', facts.frost ? 'yes' : 'no'],
            ['Rain expected', facts.rain ? 'yes' : 'no'],
          ]}
        />
        <div>
          {options.map((o, i) => (
            <Option key={o.material}>
              <strong>
                {i === 0 ? '▶ ' : ''}
                {PAD_NAMES[o.material]}
                {i === 0 ? ': recommended' : o.ruledOut ? ': not here without an engineer' : ''}
                {o.material === foundation.kind ? ' · in the plan' : ''}
                {choice?.material === o.material ? ' · chosen' : ''}
              </strong>
              <ul>
                {o.reasonsFor.map((r) => (
                  <li key={r}>
                    + <Said>{r}</Said>
                  </li>
                ))}
                {o.against.map((r) => (
                  <li key={r}>
                    − <Said>{r}</Said>
                  </li>
                ))}
              </ul>
              <span className="drain">
                Toe drain: <Said>{o.drain}</Said>
              </span>
            </Option>
          ))}
        </div>
        {choice ? (
          <Caution>
            {choice.by} chose {PAD_NAMES[choice.material].toLowerCase()}: {choice.reason}
            {choice.material === foundation.kind ? '' : ` The plan says ${foundation.name.toLowerCase()}: issue a revision before the pad is placed.`}
          </Caution>
        ) : null}
        {me.role === 'foreman' && step ? <ChoiceForm {...props} recommended={options[0]?.material ?? 'dense-graded'} stage={step.stage.id} /> : null}
      </Stack>
      <Stack>
        <h2>Lifts by tool</h2>
        <Table
          label="Lifts by tool"
          rows={plans}
          id={(p) => p.tool.plant}
          columns={[
            { head: 'Tool', cell: (p) => p.tool.name },
            { head: 'Lifts', is: 'n', cell: (p) => p.count },
            { head: 'Place loose', is: 'n', cell: (p) => formatSmall(p.loose, units) },
            { head: 'Compacted', is: 'n', cell: (p) => formatSmall(p.compacted, units) },
            { head: 'Passes', is: 'n', cell: (p) => p.passes },
          ]}
        />
        <p style={{ fontSize: 15, color: 'var(--soft)' }}>
          {formatSmall(foundation.thickness, units)} of {foundation.name.toLowerCase()}.{' '}
          {fine || soft
            ? `Separation fabric below: ${formatArea(fabricArea(length, foundation.width + 2 * foundation.thickness, 50, lap), units)} with laps of ${formatSmall(lap, units)}, flat and tight.`
            : 'Fabric below only where the plan asks for it.'}
        </p>
        <GroundStep {...props} step={step} tag="PAD" />
      </Stack>
    </Halves>
  )
}

function ChoiceForm({ state, section, me, record, recommended, stage }: GroundProps & { recommended: PadMaterial; stage: string }) {
  const [material, setMaterial] = useState<PadMaterial>(PAD_MATERIALS.find((m) => m === state.layout.building.foundation.kind) ?? recommended)
  const [reason, setReason, noReason] = useTyped(`pad-choice ${section}`, 'reason')
  const { busy, problems, go } = useRecord(record)
  const now: Fact = { kind: 'pad-choice', where: { stage, section }, data: { material, recommended, reason: reason.trim() } }
  return (
    <Stack>
      <Choice label="Chosen" value={material} options={Object.entries(PAD_NAMES) as [PadMaterial, string][]} onChange={setMaterial} />
      <Field label="Reason" value={reason} onChange={setReason} />
      <Foretold
        of={reason.trim().length < 3 ? undefined : foreseen(state, me, now)}
        otherwise="Say why: what was recommended, or what is otherwise here."
      />
      <NowButton isDisabled={busy || reason.trim().length < 3} onPress={() => go([now]).then((done) => done && noReason())}>
        Keep the choice
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
