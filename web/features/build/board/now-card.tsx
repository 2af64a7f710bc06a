'use client'

import { type Step, titleOf } from '@stone-tally/core'
import { LooksCard, Meanwhile, Others, SectionChoice, StepCard, useHere, useLooks } from '@/features/wall'
import { Quiet, Row, Stack } from '@/ui/controls'
import { CourseSheetCard } from './course-sheet'
import type { BoardState } from './use-board'

/** While the record comes in: what is next, as the house sees it. */
function Coming({ step, lost }: { step: Step | undefined; lost: boolean }) {
  return (
    <Stack>
      {step ? <h2 className="step">{titleOf(step)}</h2> : null}
      <p role="status">
        {lost ? 'The record cannot be reached; trying again …' : 'Loading the record …'}
        {step ? ' This is how the house sees the wall; recording opens when the whole record is here.' : ''}
      </p>
    </Stack>
  )
}

/** What is to be done now, in the section that is chosen. */
export function NowCard({ of }: { of: BoardState }) {
  const { wall, me } = useHere()
  const { feed, state, layout, section, step, status } = of
  const looks = useLooks(state, feed.loaded && !of.elsewhere && status?.open.length === 0 ? step : undefined, me)
  const together = looks.length > 0
  return (
    <section className="now" id="work" aria-label="Now" ref={of.card} tabIndex={-1} onFocus={of.began} data-coming={feed.loaded ? undefined : true}>
      <Row style={{ marginBottom: 10, justifyContent: 'space-between', alignItems: 'center', gap: 6 }}>
        <SectionChoice sections={layout.plan.sections} value={section} onChange={of.chooseSection} />
        <Row style={{ gap: 6 }}>
          <Quiet onPress={() => of.move(-1)} aria-label="Step before">
            ‹
          </Quiet>
          <Quiet onPress={() => of.move(1)} aria-label="Step after">
            ›
          </Quiet>
        </Row>
      </Row>
      <Others section={section} step={step?.key} />
      {!feed.loaded ? (
        <Coming step={feed.glimpse ? step : of.coming} lost={feed.live === 'lost'} />
      ) : !step || !status ? (
        <Stack>
          <h2>Section {section} is complete.</h2>
          <p>Everything planned here is recorded and released.</p>
        </Stack>
      ) : (
        <Stack>
          {step.section && step.course && status.open.length === 0 && !of.elsewhere ? (
            <CourseSheetCard
              key={`${step.section} ${step.course}`}
              state={state}
              section={step.section}
              course={step.course}
              me={me}
              record={feed.record}
              typing={step.stage.work.type !== 'readings'}
            />
          ) : null}
          {together ? <LooksCard key={step.key} state={state} step={step} looks={looks} record={feed.record} /> : null}
          <StepCard
            state={state}
            step={step}
            me={me}
            record={feed.record}
            tag={of.elsewhere ? 'CHOSEN' : 'NOW'}
            aside={of.elsewhere ? <Quiet onPress={of.follow}>Back to now</Quiet> : null}
            station={of.station}
            onStation={of.setStation}
            onStep={of.goTo}
            onNext={of.follow}
            wall={wall}
            above={together}
          />
          {of.isNext ? <Meanwhile section={section} /> : null}
        </Stack>
      )}
    </section>
  )
}
