import { randomUUID } from 'node:crypto'
import type { BrowserContext } from '@playwright/test'
import { smallPlan } from '../core/test/plans'

/** A wall with so many entries, by the record's own route. */
export async function wallOf(context: BrowserContext, base: string, entries: number): Promise<string> {
  const headers = { origin: base }
  const plan = { ...smallPlan, name: `${entries} entries` }
  const { id } = (await (await context.request.post('/api/walls', { headers, data: { plan } })).json()) as { id: string }
  for (let i = 0; i < entries; i += 200) {
    const list = Array.from({ length: Math.min(200, entries - i) }, (_, k) => ({
      id: randomUUID().replace(/^(.{14})./, '$17'),
      wall: id,
      revision: 1,
      at: new Date().toISOString(),
      kind: 'note',
      where: { section: k % 2 ? 'A' : 'B' },
      data: { text: `Note ${i + k}` },
    }))
    const answer = await context.request.post(`/api/walls/${id}/entries`, { headers, data: { entries: list } })
    if (!answer.ok()) throw new Error(`${answer.status()}`)
  }
  return id
}
