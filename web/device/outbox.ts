'use client'

import { canonical } from '@stone-tally/core'
import { type Boxed, type BoxedRefusal, device, keeping, type Refused, type Waiting } from './db'
import { takeOver } from './earlier'
import { tell } from './tabs'

const fact = ({ kind, where, data, supersedes, recheckOf, owner }: Waiting) => canonical({ kind, where, data, supersedes, recheckOf, owner })
const bare = ({ n: _n, ...entry }: Boxed): Waiting => entry

/**
 * What waits on this device for a wall, and what was refused. Tabs share it: every change is made to what is there at that moment, all
 * of it or nothing.
 *
 * @example const put = await outbox(wall).put([entry])
 */
export const outbox = (wall: string) => {
  const changed = () => tell({ is: 'box', wall })
  const all = async (): Promise<Waiting[]> => {
    await takeOver(wall)
    return (await device().outbox.where('wall').equals(wall).sortBy('n')).map(bare)
  }
  return {
    /** Everything that waits, of anybody, in the order in which it was recorded. */
    all,
    /**
     * Puts entries in; the same fact of the same person that waits already is not put in twice.
     *
     * @returns the ids that were put in
     * @throws DeviceFull
     */
    async put(entries: readonly Waiting[]): Promise<string[]> {
      try {
        await takeOver(wall)
        const db = device()
        const put = await db.transaction('rw', db.outbox, async () => {
          const there = new Set((await db.outbox.where('wall').equals(wall).toArray()).map(fact))
          const fresh = entries.filter((e) => !there.has(fact(e)))
          await db.outbox.bulkAdd(fresh)
          return fresh.map((e) => e.id)
        })
        changed()
        return put
      } catch (error) {
        throw keeping(error)
      }
    },
    /** Takes entries out that the record has, or has refused; those are kept as refused in the same step. */
    async settle(out: ReadonlySet<string>, refused: readonly Refused[] = []): Promise<void> {
      const db = device()
      await db.transaction('rw', db.outbox, db.refused, async () => {
        await db.refused.bulkPut(refused.map((r): BoxedRefusal => ({ ...r, id: r.entry.id, wall, aside: 0 })))
        await db.outbox
          .where('id')
          .anyOf([...out])
          .delete()
      })
      changed()
    },
    /** One more try that the house failed on. */
    async tried(id: string): Promise<void> {
      await device()
        .outbox.where('id')
        .equals(id)
        .modify((e: { tries?: number | undefined }) => {
          e.tries = (e.tries ?? 0) + 1
        })
    },
    /** What was refused and nobody has decided about. */
    refused: async (): Promise<BoxedRefusal[]> => (await device().refused.where('wall').equals(wall).toArray()).filter((r) => r.aside === 0),
    /** Put aside by a person: it stays in the record of the device. */
    async aside(id: string): Promise<void> {
      await device().refused.update(id, { aside: 1 })
      changed()
    },
    /** Its form has said what is wrong and still holds what was typed: nothing of it is left to be decided. */
    async said(ids: ReadonlySet<string>): Promise<void> {
      await device().refused.bulkDelete([...ids])
      changed()
    },
    /** Sends a refused one once more, as this person's. */
    async again(id: string, as: Pick<Waiting, 'owner' | 'ownerName' | 'knew'>): Promise<void> {
      const db = device()
      await db.transaction('rw', db.outbox, db.refused, async () => {
        const found = await db.refused.get(id)
        if (!found) return
        await db.outbox.put({ ...found.entry, ...as })
        await db.refused.delete(id)
      })
      changed()
    },
  }
}
