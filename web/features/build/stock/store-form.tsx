'use client'

import { type Material, packsFor, questionable, type StockBook, type StockRow, say } from '@stone-tally/core'
import { useState } from 'react'
import { type Me, useRecord, useTypedForm, type WallFeed } from '@/features/wall'
import { amountWords, readAmount, typedIn, typedOut } from '@/ui/amounts'
import { Caution, Check, Choice, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'

/** What is recorded of a material, and the fields each asks for. */
const WHAT = [
  ['delivery', 'Came'],
  ['ordered', 'Ordered'],
  ['counted', 'Counted'],
  ['damaged', 'Broken'],
  ['moved-out', 'Taken away'],
  ['moved-in', 'Brought'],
  ['supply', 'How it is bought'],
] as const
type What = (typeof WHAT)[number][0]
const NO_DELIVERY: readonly What[] = ['counted', 'damaged', 'moved-out', 'moved-in']
const EMPTY = {
  amount: '',
  counted: '',
  refused: '',
  why: '',
  docket: '',
  supplier: '',
  lot: '',
  pallets: '',
  put: '',
  expected: '',
  reference: '',
  other: '',
  lead: '',
  pack: '',
  packName: '',
  reserve: '',
  price: '',
  mass: '',
  load: '',
  access: '',
}
type Fields = typeof EMPTY

/** Records what came, was ordered, counted, broken or moved of one material. */
export function StoreForm({
  row,
  book,
  me,
  record,
  today,
  onDone,
}: {
  row: StockRow
  book: StockBook
  me: Me
  record: WallFeed['record']
  today: string
  onDone(): void
}) {
  const { units } = usePreferences()
  const may = WHAT.filter(([id]) =>
    id === 'supply' ? me.role === 'foreman' || me.role === 'office' : me.role === 'office' ? !NO_DELIVERY.includes(id) : me.role !== 'inspector',
  )
  const [what, setWhat] = useState<What>('delivery')
  const { v, set, letGo } = useTypedForm(`stock ${row.id} ${what} ${units}`, { ...EMPTY, ...known(row, book, what, units) })
  const [sure, setSure] = useState(false)
  const { busy, problems, setProblems, go } = useRecord(record)
  const unit = typedIn(row.unit, units)
  const amount = readAmount(v.amount, row.unit, units)
  const asked = (what === 'delivery' || what === 'ordered') && 'value' in amount ? questionable(book, row.id, amount.value) : undefined
  const counted = readAmount(v.counted, row.unit, units)
  const came = 'value' in counted && v.counted.trim() !== '' ? counted.value : 'value' in amount ? amount.value : undefined
  const against = what === 'delivery' && came !== undefined && v.amount.trim() !== '' ? againstOrder(row, came, units) : undefined
  const put = async () => {
    const made = dataOf(what, row, v, units, today)
    if ('problems' in made) return setProblems(made.problems)
    if (await go([{ kind: made.kind, where: {}, data: made.data }])) {
      letGo()
      setSure(false)
      onDone()
    }
  }
  if (may.length === 0) return null
  return (
    <Stack role="group" aria-label={`Record ${say(row.name, units)}`}>
      <Choice label="What is recorded" hideLabel value={what} options={may} onChange={setWhat} />
      {what === 'supply' && row.material ? (
        <Row style={{ gap: 6 }} role="group" aria-label="Commonly sold as">
          {packsFor(book.layout, row.material).map((p) => (
            <Quiet
              key={p.name}
              onPress={() =>
                set({
                  pack: typedOut(p.holds, row.unit, units),
                  packName: p.name,
                  ...(p.load === undefined ? {} : { load: `${p.load}` }),
                  ...(p.access === undefined ? {} : { access: `${p.access}` }),
                })
              }
            >
              {p.name}
            </Quiet>
          ))}
        </Row>
      ) : null}
      <Row style={{ alignItems: 'end' }}>
        {fieldsOf(what).map(([name, label, kind]) => (
          <div key={name} style={{ flex: '1 1 150px', minWidth: 130, maxWidth: 260 }}>
            <Field
              label={kind === 'amount' ? `${label}, ${unit}` : label}
              type={kind === 'day' ? 'date' : 'text'}
              {...(kind === 'amount' || kind === 'number' ? { inputMode: 'decimal' as const } : {})}
              value={v[name]}
              onChange={(text) => set({ [name]: text } as Partial<Fields>)}
            />
          </div>
        ))}
        <NowButton isDisabled={busy || (asked !== undefined && !sure)} onPress={put}>
          Record
        </NowButton>
      </Row>
      {against ? <Caution>▲ {against}</Caution> : null}
      {asked ? (
        <>
          <Caution>▲ {asked}</Caution>
          <Check checked={sure} onChange={setSure}>
            It is meant as typed
          </Check>
        </>
      ) : null}
      <Problems list={problems} />
    </Stack>
  )
}

/** What is known of how it is bought, and how much was ordered and did not come yet, stands there already. */
function known(row: StockRow, book: StockBook, what: What, units: Parameters<typeof typedOut>[2]): Partial<Fields> {
  const s = book.supplies.get(row.id)
  return {
    ...(s ? { supplier: s.supplier ?? '', lead: `${s.lead}` } : {}),
    ...(what === 'delivery' && row.expected > 0 ? { amount: typedOut(row.expected, row.unit, units) } : {}),
  }
}

/** A delivery against what was ordered, in words; undefined where it is as ordered, or nothing was. */
function againstOrder(row: StockRow, came: number, units: Parameters<typeof typedOut>[2]): string | undefined {
  const by = came - row.expected
  if (row.expected <= 0 || Math.abs(by) < 1e-9) return undefined
  const amount = amountWords(Math.abs(by), row.unit, units)
  return by < 0
    ? `${amount} short of the ${amountWords(row.expected, row.unit, units)} ordered; the rest stays expected.`
    : `${amount} more than ordered.`
}

type FieldKind = 'amount' | 'text' | 'day' | 'number'
const fieldsOf = (what: What): readonly (readonly [keyof Fields, string, FieldKind])[] => {
  const amount = ['amount', what === 'counted' ? 'Left now' : 'Amount', 'amount'] as const
  if (what === 'delivery')
    return [
      ['amount', 'On the docket', 'amount'],
      ['docket', 'Docket', 'text'],
      ['counted', 'Counted', 'amount'],
      ['refused', 'Sent back', 'amount'],
      ['why', 'Why sent back', 'text'],
      ['supplier', 'Supplier', 'text'],
      ['lot', 'Lot', 'text'],
      ['pallets', 'Pallets', 'number'],
      ['put', 'Put down where', 'text'],
    ]
  if (what === 'ordered') return [amount, ['expected', 'Expected on', 'day'], ['supplier', 'Supplier', 'text'], ['reference', 'Reference', 'text']]
  if (what === 'supply')
    return [
      ['supplier', 'Supplier', 'text'],
      ['lead', 'Days from order to site', 'number'],
      ['pack', 'Sold in packs of', 'amount'],
      ['packName', 'Called (pallet, roll, lorry …)', 'text'],
      ['reserve', 'Reserve, never less', 'amount'],
      ['price', 'Price of one (may stay empty)', 'number'],
      ['mass', 'One weighs, kg (may stay empty)', 'number'],
      ['load', 'A lorry brings, kg (may stay empty)', 'number'],
      ['access', 'It needs a way of, m (may stay empty)', 'number'],
    ]
  if (what === 'moved-out' || what === 'moved-in')
    return [amount, ['other', what === 'moved-out' ? 'To which wall' : 'From which wall', 'text'], ['why', 'Why', 'text']]
  return [amount, ['why', what === 'damaged' ? 'What happened' : 'Note', 'text']]
}

type Made = { kind: string; data: object } | { problems: { field: string; message: string }[] }
/** What the form says as an entry's data; empty fields are left out. */
function dataOf(
  what: What,
  row: Pick<StockRow, 'id' | 'name' | 'unit'> & { material?: Material | undefined },
  v: Fields,
  units: Parameters<typeof readAmount>[2],
  today: string,
): Made {
  const item = { item: row.id, name: say(row.name, 'metric'), unit: row.unit }
  const problems: { field: string; message: string }[] = []
  const read = (name: keyof Fields, field: string) => {
    const r = readAmount(v[name], row.unit, units)
    if ('problem' in r) problems.push({ ...r.problem, field })
    return 'value' in r ? r.value : 0
  }
  const maybe = (name: keyof Fields, field: string) => (v[name].trim() === '' ? {} : { [name]: read(name, field) })
  const texts = (...names: (keyof Fields)[]) => Object.fromEntries(names.flatMap((n) => (v[n].trim() === '' ? [] : [[n, v[n].trim()]])))
  const number = (name: keyof Fields, field: string) => {
    const n = Number(v[name].replace(',', '.'))
    if (!Number.isFinite(n)) problems.push({ field, message: `must be a number, not "${v[name]}"` })
    return n
  }
  const some = (name: keyof Fields, field: string) => (v[name].trim() === '' ? {} : { [name]: number(name, field) })
  const price = v.price.trim() === '' ? {} : { price: number('price', 'Price') }
  const data =
    what === 'delivery'
      ? {
          ...item,
          amount: read('amount', 'On the docket'),
          docket: v.docket.trim(),
          ...maybe('counted', 'Counted'),
          ...maybe('refused', 'Sent back'),
          ...texts('why', 'supplier', 'lot', 'put'),
          ...some('pallets', 'Pallets'),
        }
      : what === 'ordered'
        ? { ...item, amount: read('amount', 'Amount'), expected: v.expected || today, ...texts('supplier', 'reference') }
        : what === 'supply'
          ? {
              ...item,
              lead: v.lead.trim() === '' ? 7 : number('lead', 'Days from order to site'),
              pack: read('pack', 'Sold in packs of'),
              reserve: v.reserve.trim() === '' ? 0 : read('reserve', 'Reserve'),
              ...texts('supplier', 'packName'),
              ...price,
              ...some('mass', 'One weighs'),
              ...some('load', 'A lorry brings'),
              ...some('access', 'Way'),
            }
          : { ...item, amount: read('amount', 'Amount'), what, ...texts('why', 'other') }
  if (problems.length > 0) return { problems }
  return { kind: what === 'delivery' || what === 'ordered' || what === 'supply' ? what : 'stock', data }
}
