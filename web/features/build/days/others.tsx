'use client'

import { allTasksOf, type Programme, rowsOfCsv, type TaskData, type TasksIn, tasksIn, type WallState } from '@stone-tally/core'
import { useState } from 'react'
import { useHere, useRecord, useTypedForm, type WallFeed } from '@/features/wall'
import { Caution, Check, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { FileButton } from '@/ui/file-button'
import { Table } from '@/ui/table'
import { rowsOfFile } from '@/ui/workbook'

/** Work that is in no stage of the wall: a hedge to move, a fence to set; typed, or taken from a table. */
export function Others({ state, programme, record }: { state: WallState; programme: Programme; record: WallFeed['record'] }) {
  const { me } = useHere()
  const may = me.role === 'foreman' || me.role === 'office'
  const list = allTasksOf(state).filter((t) => t.state !== 'dropped')
  const at = new Map(programme.tasks.map((t) => [t.id, t]))
  const { busy, problems, go } = useRecord(record)
  const turn = (t: TaskData, to: TaskData['state']) => go([{ kind: 'task', where: {}, data: { ...t, state: to } }])
  return (
    <Stack>
      <p>
        What the system’s own stages do not know and the days must: moving a hedge, a neighbour’s gate, a fence on top. The gates of the wall go
        before every link given here.
      </p>
      {list.length > 0 ? (
        <Table
          label="Other work"
          rows={list}
          id={(t) => t.task}
          columns={[
            { head: 'What', is: 'wrap', cell: (t) => `${t.title}${t.crew ? '' : ', by others'}` },
            { head: 'Hours', is: 'n', cell: (t) => t.hours },
            { head: 'From', cell: (t) => (t.state === 'done' ? 'done' : dayWords(at.get(t.task)?.from ?? '')) },
            { head: 'To', cell: (t) => (t.state === 'done' ? '' : dayWords(at.get(t.task)?.to ?? '')) },
            { head: 'After', is: 'wrap', cell: (t) => t.after.map((a) => at.get(a)?.title ?? a).join('; ') },
            { head: 'Before', is: 'wrap', cell: (t) => t.before.map((a) => at.get(a)?.title ?? a).join('; ') },
            {
              head: 'What to do',
              cell: (t) =>
                may && t.state === 'open' ? (
                  <Row>
                    <Quiet isDisabled={busy} aria-label={`${t.title} is done`} onPress={() => turn(t, 'done')}>
                      Done
                    </Quiet>
                    <Quiet isDisabled={busy} aria-label={`${t.title} is not to be done`} onPress={() => turn(t, 'dropped')}>
                      Drop
                    </Quiet>
                  </Row>
                ) : null,
            },
          ]}
        />
      ) : null}
      <Problems list={problems} />
      {may ? (
        <>
          <TaskForm programme={programme} record={record} taken={list} />
          <TableIn state={state} programme={programme} record={record} />
        </>
      ) : (
        <p>The foreman or the office adds to these.</p>
      )}
    </Stack>
  )
}

/** A short name of a title that no other task has. */
function nameOf(title: string, taken: readonly TaskData[]): string {
  const base =
    title
      .toLowerCase()
      .replace(/[;\s]+/g, '-')
      .slice(0, 50) || 'task'
  let name = base
  for (let i = 2; taken.some((t) => t.task === name); i++) name = `${base}-${i}`
  return name
}

function TaskForm({ programme, record, taken }: { programme: Programme; record: WallFeed['record']; taken: readonly TaskData[] }) {
  const { v, set, letGo } = useTypedForm('task', { title: '', hours: '', before: '', after: '', crew: 'yes' })
  const { busy, problems, setProblems, go } = useRecord(record)
  const work = programme.tasks.filter((t) => t.kind === 'work')
  const hours = v.hours.trim() === '' ? Number.NaN : Number(v.hours.replace(',', '.'))
  const send = async () => {
    if (!Number.isFinite(hours) || hours < 0) return setProblems([{ field: 'Hours', message: `must be a number, not "${v.hours}"` }])
    const data: TaskData = {
      task: nameOf(v.title, taken),
      title: v.title.trim(),
      hours,
      after: v.after ? [v.after] : [],
      before: v.before ? [v.before] : [],
      crew: v.crew === 'yes',
      state: 'open',
    }
    if (await go([{ kind: 'task', where: {}, data }])) letGo()
  }
  return (
    <Stack role="group" aria-label="More work">
      <h2>More work</h2>
      <Row>
        <div style={{ flex: '2 1 220px' }}>
          <Field label="What is to be done" value={v.title} onChange={(title) => set({ title })} />
        </div>
        <div style={{ width: 110 }}>
          <Field label="Hours" inputMode="decimal" value={v.hours} onChange={(h) => set({ hours: h })} />
        </div>
        <Pick label="Comes after" value={v.after} work={work} onChange={(after) => set({ after })} />
        <Pick label="Must be done before" value={v.before} work={work} onChange={(before) => set({ before })} />
      </Row>
      <Row style={{ alignItems: 'center' }}>
        <Check checked={v.crew === 'yes'} onChange={(yes) => set({ crew: yes ? 'yes' : 'no' })}>
          Takes a crew of this wall
        </Check>
        <NowButton isDisabled={busy || v.title.trim().length < 3} onPress={send}>
          Add it
        </NowButton>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
const Pick = ({ label, value, work, onChange }: { label: string; value: string; work: Programme['tasks']; onChange(v: string): void }) => (
  <label style={{ flex: '1 1 200px', display: 'grid', gap: 4, fontSize: 15, color: 'var(--soft)' }}>
    {label}
    <select value={value} onChange={(e) => onChange(e.target.value)} style={{ minHeight: 48, font: 'inherit', fontSize: 16, maxWidth: '100%' }}>
      <option value="">nothing</option>
      {work.map((t) => (
        <option key={t.id} value={t.id}>
          {t.title}
        </option>
      ))}
    </select>
  </label>
)

/** A table of tasks from a file: what it would change is shown before anything is recorded. */
function TableIn({ state, programme, record }: { state: WallState; programme: Programme; record: WallFeed['record'] }) {
  const [found, setFound] = useState<{ name: string; read: TasksIn } | { name: string; wrong: string }>()
  const { busy, problems, go } = useRecord(record)
  const read = found && 'read' in found ? found.read : undefined
  const count = (read?.tasks.length ?? 0) + (read?.fixed.length ?? 0)
  const put = async () => {
    if (!read) return
    const facts = [
      ...read.tasks.map((data) => ({ kind: 'task', where: {}, data })),
      ...read.fixed.map((data) => ({ kind: 'fixed', where: {}, data })),
    ]
    // A file that was chosen meanwhile stays.
    if (await go(facts)) setFound((now) => (now === found ? undefined : now))
  }
  return (
    <Stack role="group" aria-label="Tasks from a file">
      <h2>From a table</h2>
      <p>
        CSV or XLSX; the first line names the columns: id, title, hours, section, after, before, crew, plant, not_before. “Tasks as CSV” writes one
        that can be changed and read back.
      </p>
      <Row>
        <FileButton
          label="Tasks file"
          accept=".csv,.xlsx,text/csv"
          onFile={async (f) => {
            const rows = await rowsOfFile(f, rowsOfCsv)
            setFound('wrong' in rows ? { name: f.name, wrong: rows.wrong } : { name: f.name, read: tasksIn(state, programme, rows) })
          }}
        >
          Choose file
        </FileButton>
      </Row>
      {found && 'wrong' in found ? (
        <Caution>
          ▲ {found.name} {found.wrong}.
        </Caution>
      ) : null}
      {read ? (
        <>
          <p>
            {found?.name}: {read.tasks.length} {read.tasks.length === 1 ? 'task' : 'tasks'} new or changed, {read.fixed.length} put on a day,{' '}
            {read.same} as they are.
            {read.left.length > 0 ? ` Left out: ${read.left.slice(0, 4).join('; ')}.` : ''}
          </p>
          {read.bad.slice(0, 12).map((b) => (
            <Caution key={`${b.line} ${b.message}`}>
              ▲ Line {b.line}: {b.message}.
            </Caution>
          ))}
          {read.bad.length > 12 ? <p>and {read.bad.length - 12} more lines that are wrong.</p> : null}
          {count > 0 ? (
            <NowButton isDisabled={busy} onPress={put}>
              {read.bad.length > 0 ? `Record the ${count} that are right` : `Record ${count}`}
            </NowButton>
          ) : null}
          <Problems list={problems} />
        </>
      ) : null}
    </Stack>
  )
}
