'use client'

import { device, type Waiting } from './db'

/** Entries that went into the record behind others' their author had not seen are kept in mind until a person, or the record itself, settles them. */
export async function noteApart(wall: string, owner: string, list: readonly { readonly waiting: Waiting; readonly seq: number }[]): Promise<boolean> {
  const apart = list.flatMap(({ waiting, seq }) =>
    waiting.knew !== undefined && seq > waiting.knew + 1 ? [{ id: waiting.id, wall, owner, knew: waiting.knew, seq }] : [],
  )
  if (apart.length > 0) await device().apart.bulkPut(apart)
  return apart.length > 0
}
