'use client'

import { type MixOrder, materialsOf, mixesOf, mixOrders, type StockBook, type WallState } from '@stone-tally/core'
import { useHere, useRecord, useTypedForm, type WallFeed } from '@/features/wall'
import { Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'

/** Shapes of a pattern that are bought by the pallet: how many pallets bring what is still wanted, and what they bring besides. */
export function Mixes({ state, book, record }: { state: WallState; book: StockBook; record: WallFeed['record'] }) {
  const { me } = useHere()
  const shapes = materialsOf(book.layout).filter((m) => m.placed === 'pieces' && m.id.startsWith('shape-'))
  const mixes = mixesOf(state)
  const orders = mixOrders(book, mixes)
  const may = me.role === 'foreman' || me.role === 'office'
  const { busy, go } = useRecord(record)
  if (shapes.length < 2) return null
  return (
    <Stack role="group" aria-label="Mixed pallets">
      <h2>Mixed pallets</h2>
      {orders.map((o) => (
        <Order key={o.mix} o={o} />
      ))}
      {mixes.length > 0 && orders.length === 0 ? <p>What is here and expected is enough: no pallet of a mix is wanted.</p> : null}
      {may
        ? mixes.map((m) => (
            <div key={m.mix}>
              <Quiet isDisabled={busy} onPress={() => go([{ kind: 'mix', where: {}, data: { ...m, state: 'gone' } }])}>
                Pallet {m.mix} is sold no longer
              </Quiet>
            </div>
          ))
        : null}
      {may ? <MixForm shapes={shapes} record={record} /> : null}
    </Stack>
  )
}

const Order = ({ o }: { o: MixOrder }) => (
  <div>
    <p>
      <strong>
        {o.pallets} × pallet {o.mix}
      </strong>
      {o.supplier ? ` of ${o.supplier}` : ''}: {o.shapes.map((s) => `${s.wanted} ${s.name.replace(/^Shape: /, '')}`).join(', ')} wanted; over{' '}
      {o.shapes
        .filter((s) => s.over > 0)
        .map((s) => `${s.over} ${s.name.replace(/^Shape: /, '')}`)
        .join(', ') || 'nothing'}
      .
    </p>
    {o.by ? (
      <p>
        ▲ {o.by.name.replace(/^Shape: /, '')} alone asks for the last {o.by.saves === 1 ? 'pallet' : `${o.by.saves} pallets`}: {o.by.pieces} of it by
        themselves would do instead.
      </p>
    ) : null}
  </div>
)

function MixForm({ shapes, record }: { shapes: readonly { readonly id: string; readonly name: string }[]; record: WallFeed['record'] }) {
  const { v, set, letGo } = useTypedForm('mix', { mix: '', supplier: '', ...Object.fromEntries(shapes.map((s) => [s.id, ''])) } as Record<
    string,
    string
  >)
  const { busy, problems, setProblems, go } = useRecord(record)
  const holds = shapes.flatMap((s) => ((v[s.id] ?? '').trim() === '' ? [] : [{ item: s.id, name: s.name, count: Number(v[s.id]) }]))
  const send = async () => {
    const odd = holds.find((h) => !Number.isInteger(h.count) || h.count < 1)
    if (odd) return setProblems([{ field: odd.name, message: `must be a whole number, not "${v[odd.item]}"` }])
    const data = { mix: (v.mix ?? '').trim(), holds, state: 'sold', ...((v.supplier ?? '').trim() ? { supplier: (v.supplier ?? '').trim() } : {}) }
    if (await go([{ kind: 'mix', where: {}, data }])) letGo()
  }
  return (
    <>
      <Row>
        <div style={{ width: 150 }}>
          <Field label="Pallet is called" value={v.mix ?? ''} onChange={(mix) => set({ mix })} />
        </div>
        {shapes.map((s) => (
          <div key={s.id} style={{ width: 100 }}>
            <Field label={s.name.replace(/^Shape: /, '')} inputMode="numeric" value={v[s.id] ?? ''} onChange={(n) => set({ [s.id]: n })} />
          </div>
        ))}
        <div style={{ width: 190 }}>
          <Field label="From whom" value={v.supplier ?? ''} onChange={(supplier) => set({ supplier })} />
        </div>
        <NowButton isDisabled={busy || (v.mix ?? '').trim() === '' || holds.length === 0} onPress={send}>
          Sold so
        </NowButton>
      </Row>
      <Problems list={problems} />
    </>
  )
}
