'use client'

import {
  type Otherwise,
  oddsInput,
  type Programme,
  plantDays,
  plantSheet,
  programmeIcs,
  promised,
  RATES,
  type RateName,
  say,
  sheetCsv,
  slips,
  taskSheet,
  threats,
  type UnitSystem,
  type WallState,
  weatherAt,
  winBack,
} from '@stone-tally/core'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { RainDay, useFeed, useHere, useNow, useRecord, useToday, type WallFeed, WallPage } from '@/features/wall'
import { hrefOf } from '@/features/wall/places'
import { amountWords } from '@/ui/amounts'
import { Button, Caution, Choice, Condensed, LinkButton, Problems, Row, Stack } from '@/ui/controls'
import { dayWords, fullDay } from '@/ui/day-words'
import { useWidth } from '@/ui/drawing/use-width'
import { usePreferences } from '@/ui/preferences'
import { save } from '@/ui/save'
import { Table } from '@/ui/table'
import { saveWorkbook } from '@/ui/workbook'
import { Bars } from './bars'
import { DistanceChart, KEY_LINES } from './distance-chart'
import { Month } from './month'
import { Others } from './others'
import { Plant } from './plant'
import { PromiseForm } from './promise-form'
import { WorkdaysForm } from './settings'
import { useOdds } from './use-odds'
import { useProgramme } from './use-programme'

const Hero = styled.div`
  display: grid; grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr); gap: 20px; align-items: start; border-top: 3px solid var(--ink); padding-top: 12px;
  strong.day { display: block; font-size: 34px; line-height: 1.1; } @media (max-width: 800px) { grid-template-columns: minmax(0, 1fr); }
  @media (max-width: 360px) { strong.day { font-size: 26px; } }
`
/** One line, two on the narrowest screens, whatever is said on it. */
const Odds = styled.p`min-height: 1lh; @media (max-width: 360px) { min-height: 2lh; }`
const Key = styled.p`display: flex; flex-wrap: wrap; gap: 2px 16px; font: 500 15px/1.3 'Barlow Condensed', sans-serif; color: var(--soft); svg { vertical-align: 3px; margin-right: 6px; }`

/** Days: when the wall will be done and with what odds, what is on the longest way, what would win days back, and where on the wall it all happens. */
export function DaysPage() {
  const { name, me, wall } = useHere()
  const feed = useFeed()
  const { state } = feed
  const { units } = usePreferences()
  const today = useToday(state)
  const { programme, basis } = useProgramme(wall, state, today)
  const [view, setView] = useState<'wall' | 'bars' | 'calendar' | 'plant' | 'other' | 'pace'>('wall')
  const [box, width] = useWidth<HTMLDivElement>(1180)
  return (
    <WallPage here="days" title="Days">
      {programme.tasks.length === 0 ? (
        <p>Everything of this wall is done and released. Nothing is left to plan.</p>
      ) : (
        <>
          <Threats state={state} programme={programme} />
          {programme.conflicts.map((c) => (
            <Caution key={c}>▲ {say(c, units)}</Caution>
          ))}
          <Outlook state={state} programme={programme} basis={basis} today={today} record={feed.record} />
          <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
            <Choice
              label="View"
              hideLabel
              value={view}
              options={[
                ['wall', 'Along the wall'],
                ['bars', 'As bars'],
                ['calendar', 'Calendar'],
                ['plant', 'Plant'],
                ['other', 'Other work'],
                ['pace', 'Pace and days'],
              ]}
              onChange={setView}
            />
            <Row>
              <Button onPress={() => save(`${name} tasks.csv`, 'text/csv', sheetCsv(taskSheet(state, programme)))}>Tasks as CSV</Button>
              <Button
                onPress={() => saveWorkbook(`${name} days.xlsx`, [taskSheet(state, programme), plantSheet(plantDays(state, programme, today))])}
              >
                Workbook
              </Button>
              <Button onPress={() => save(`${name}.ics`, 'text/calendar', programmeIcs(state, programme, name))}>Calendar file</Button>
              <LinkButton href={hrefOf(wall, 'crew')}>Sheet for tomorrow</LinkButton>
            </Row>
          </Row>
          <div ref={box}>
            {view === 'wall' ? (
              <>
                <DistanceChart
                  programme={programme}
                  state={state}
                  today={today}
                  width={Math.max(300, width)}
                  units={units}
                  label={`${name}: stations across, days down`}
                />
                <Key aria-hidden>
                  {KEY_LINES.map((k) => (
                    <span key={k.name}>
                      <svg width="30" height="8">
                        <line
                          x1="0"
                          x2="30"
                          y1="4"
                          y2="4"
                          stroke="var(--ink)"
                          strokeWidth={k.width}
                          {...(k.dash ? { strokeDasharray: k.dash } : {})}
                        />
                      </svg>
                      {k.name}
                    </span>
                  ))}
                  <span>◆ release</span>
                  <span style={{ color: 'var(--now)' }}>nothing to spare</span>
                </Key>
              </>
            ) : view === 'bars' ? (
              <Bars programme={programme} state={state} today={today} width={width} basis={basis} record={feed.record} />
            ) : view === 'calendar' ? (
              <Month state={state} programme={programme} today={today} />
            ) : view === 'plant' ? (
              <Plant state={state} programme={programme} today={today} record={feed.record} />
            ) : view === 'other' ? (
              <Others state={state} programme={programme} record={feed.record} />
            ) : (
              <Paces programme={programme} me={me} record={feed.record} today={today} />
            )}
          </div>
        </>
      )}
    </WallPage>
  )
}

/** What the weather expected speaks against, tomorrow and tonight. */
function Threats({ state, programme }: { state: WallState; programme: Programme }) {
  const { units } = usePreferences()
  const now = useNow(state)
  const list = now === undefined ? [] : threats(state, programme, now)
  const { cautions } = now === undefined ? { cautions: [] } : weatherAt(state, now)
  const tonight = cautions.find((c) => c.id === 'cover')
  if (list.length === 0 && !tonight) return null
  return (
    <Caution>
      <strong>▲ The weather expected</strong>
      {tonight ? <div>Tonight: {say(tonight.text, units)}</div> : null}
      {list.slice(0, 4).map((t) => (
        <div key={t.task.id}>
          {dayWords(t.day)}: {say(t.text, units)}
        </div>
      ))}
      {list.length > 4 ? <div>and {list.length - 4} more of the days it speaks of.</div> : null}
    </Caution>
  )
}

const dayCount = (n: number) => `${n} ${n === 1 ? 'day' : 'days'}`

/** When it will be done, with odds; what was promised, what holds it up, what would win days back. */
function Outlook({
  state,
  programme,
  basis,
  today,
  record,
}: {
  state: WallState
  programme: Programme
  basis: Otherwise
  today: string
  record: WallFeed['record']
}) {
  const { me } = useHere()
  const { units } = usePreferences()
  const input = useMemo(() => oddsInput(programme, today), [programme, today])
  const { odds, done, cancel } = useOdds(input)
  const won = useMemo(() => winBack(state, programme, today, basis), [state, programme, today, basis])
  const late = useMemo(() => slips(state, programme, today, basis), [state, programme, today, basis])
  const said = promised(state)
  const { busy, problems, go } = useRecord(record)
  const may = me.role === 'foreman' || me.role === 'office'
  const [even, nine] = odds ? [odds.at(50), odds.at(90)] : ['', '']
  const chance = said && odds ? Math.round((odds.days.filter((d) => d <= said.data.finish).length / odds.days.length) * 100) : undefined
  return (
    <Hero>
      <Stack>
        {/* As tall before as after: nobody's press below is to miss because a number came in. */}
        <div>
          <strong className="day">{odds ? fullDay(nine) : 'Reckoning …'}</strong>
          {odds ? (
            <Odds>in nine of ten; as likely as not by {dayWords(even)}.</Odds>
          ) : (
            <Odds role="status">
              Reckoning the odds … {done} of {input.runs} runs.
            </Odds>
          )}
          <p>If nothing scatters and no day is lost: {dayWords(programme.finish)}.</p>
        </div>
        <Condensed style={{ color: 'var(--soft)' }}>
          {Math.round(programme.hours)} working hours left with {programme.calendar.data.crews}{' '}
          {programme.calendar.data.crews === 1 ? 'crew' : 'crews'}; no order of the work takes less than {Math.round(programme.bound)}. The order is a
          rule of thumb. A delivery that fails or a machine that breaks is not in it.
          {programme.lost.length > 0 ? ` Without ${programme.lost.map((l) => dayWords(l.day)).join(', ')}, which the weather expected takes.` : ''}
        </Condensed>
        {said ? (
          chance !== undefined && chance < 50 ? (
            <Caution>
              ▲ Promised for {fullDay(said.data.finish)}: by now that is {chance} % likely. Say so before the day does.
            </Caution>
          ) : (
            <p>
              Promised for {fullDay(said.data.finish)}
              {said.data.to ? ` to ${said.data.to}` : ''}; that is {chance ?? '…'} % likely.
            </p>
          )
        ) : null}
        <div style={{ minHeight: 48 }}>
          {!odds ? (
            <Button onPress={cancel}>Stop</Button>
          ) : may && (chance === undefined || chance < 75 || nine < (said?.data.finish ?? '')) ? (
            <PromiseForm day={nine} before={said?.data} busy={busy} go={go} />
          ) : null}
        </div>
        <Problems list={problems} />
        <RainDay />
      </Stack>
      <Stack>
        {late.length > 0 ? (
          <div>
            <h2 className="minor">What holds it up</h2>
            <ul style={{ margin: '4px 0', paddingLeft: 18 }}>
              {late.slice(0, 6).map((s) => (
                <li key={`${s.title} ${s.why}`}>
                  {s.days > 0 ? <strong>{dayCount(s.days)} </strong> : null}
                  {s.title}: {say(s.why, units)}
                </li>
              ))}
            </ul>
          </div>
        ) : null}
        <div>
          <h2 className="minor">What would win days back</h2>
          {won.length === 0 ? (
            <p>Neither another crew nor an earlier inspector: it is the work itself.</p>
          ) : (
            <ul style={{ margin: '4px 0', paddingLeft: 18 }}>
              {won.map((w) => (
                <li key={w.id}>
                  <strong>{dayCount(w.days)}</strong> {w.title}: done {dayWords(w.finish)}
                </li>
              ))}
            </ul>
          )}
        </div>
      </Stack>
    </Hero>
  )
}

/** What is done in an hour, in the reader's units. */
function rateWords(value: number, rate: RateName, units: UnitSystem): string {
  const { of } = RATES[rate]
  return of === 'm' || of === 'm²' || of === 'm³' ? amountWords(value, of, units) : `${Math.round(value * 10) / 10} ${of}`
}

/** What a pace rests on, in words. */
function restsOn({ days, elsewhere }: { readonly days: number; readonly elsewhere: number }): string {
  if (elsewhere === 0) return `${dayCount(days)} of this record`
  return elsewhere === days
    ? `${dayCount(days)} of the company’s other walls`
    : `${dayCount(days - elsewhere)} here, ${elsewhere} of the company’s other walls`
}

/** How fast each kind of work goes, what that rests on, and the days that are worked. */
function Paces({
  programme,
  me,
  record,
  today,
}: {
  programme: Programme
  me: ReturnType<typeof useHere>['me']
  record: WallFeed['record']
  today: string
}) {
  const { units } = usePreferences()
  const used = new Set(programme.tasks.map((t) => t.rate))
  const round = (v: number) => Math.round(v * 10) / 10
  return (
    <Stack>
      <Table
        label="Pace"
        rows={Object.values(programme.paces).filter((p) => used.has(p.rate))}
        id={(p) => p.rate}
        columns={[
          { head: 'Work', cell: (p) => RATES[p.rate].title },
          { head: 'In an hour', is: 'n', cell: (p) => <strong>{rateWords(p.value, p.rate, units)}</strong> },
          { head: 'As it ships', is: 'n', cell: (p) => rateWords(RATES[p.rate].value, p.rate, units) },
          { head: 'Seen here', is: 'n', cell: (p) => (p.seen ? rateWords(p.seen.median, p.rate, units) : '–') },
          {
            head: 'Rests on',
            is: 'wrap',
            cell: (p) => (
              <>
                {p.seen ? restsOn(p.seen) : RATES[p.rate].reason}
                {p.seen && p.seen.crews.length > 1 ? (
                  <div style={{ color: 'var(--soft)' }}>
                    {p.seen.crews
                      .slice(0, 4)
                      .map((c) => `${c.crew} ${rateWords(c.median, p.rate, units)} on ${dayCount(c.days)}`)
                      .join('; ')}
                  </div>
                ) : null}
              </>
            ),
          },
          { head: 'Scatters by', is: 'n', cell: (p) => <>× {round(p.spread)}</> },
        ]}
      />
      <h2>Working days</h2>
      <WorkdaysForm set={programme.calendar.data} me={me} record={record} today={today} />
    </Stack>
  )
}
