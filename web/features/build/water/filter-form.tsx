'use client'

import { mayRecord, type Problem } from '@stone-tally/core'
import { useState } from 'react'
import { type Fact, type Me, type RecordResult, useRecord, useTypedForm } from '@/features/wall'
import { Choice, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'

const OF = [
  ['soil', 'Soil behind'],
  ['stone', 'Drainage stone'],
] as const

/**
 * A sieve curve as it is typed or pasted: a size in mm and what passes in per cent, one pair a line, comma or point.
 *
 * @example readSieves('0,063 12\n2 80') // points 0.063/12 and 2/80
 */
export function readSieves(text: string): { points: { size: number; passing: number }[]; problems: Problem[] } {
  const problems: Problem[] = []
  const points = text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
    .flatMap((line, i) => {
      const parts = line.split(/[\s;\t]+/).map((p) => Number(p.replace(',', '.').replace('%', '')))
      const [size, passing] = parts
      if (parts.length !== 2 || size === undefined || passing === undefined || !Number.isFinite(size) || !Number.isFinite(passing)) {
        problems.push({ field: `line ${i + 1}`, message: `"${line}" is not a size in mm and what passes in per cent` })
        return []
      }
      return [{ size, passing }]
    })
  return { points, problems }
}

/** Sieve curves of soil and stone, from the laboratory's sheet. */
export function FilterForm({ record, me }: { record(facts: readonly Fact[]): Promise<RecordResult>; me: Me }) {
  const [open, setOpen] = useState(false)
  const [of, setOf] = useState<'soil' | 'stone'>('soil')
  const { v, set, letGo, begun } = useTypedForm('sieve', { source: '', text: '' })
  const { source, text } = v
  const { busy, problems, setProblems, go } = useRecord(record)
  if (!mayRecord(me.role, 'gradation')) return null
  const put = async () => {
    const read = readSieves(text)
    if (read.problems.length > 0) return setProblems(read.problems)
    if (await go([{ kind: 'gradation', where: {}, data: { of, source: source.trim(), points: read.points } }])) letGo()
  }
  if (!open && !begun) {
    return (
      <Row>
        <Quiet onPress={() => setOpen(true)}>Enter a sieve curve</Quiet>
      </Row>
    )
  }
  return (
    <Stack>
      <Choice label="Of" value={of} options={OF} onChange={setOf} />
      <Field label="From" value={source} onChange={(source) => set({ source })} hint="laboratory and sheet" />
      <Field long label="Size in mm and per cent that passes, one pair a line" value={text} onChange={(text) => set({ text })} />
      <NowButton isDisabled={busy || !text.trim() || !source.trim()} onPress={put}>
        Record this curve
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
