'use client'

import type { CatalogueUnit, Entry, Plan, Problem, Role, Rules, Scatter, Where } from '@stone-tally/core'
import Dexie, { type EntityTable, type Table } from 'dexie'

/** What a device keeps of a wall besides its record, as `/api/walls/:id/desk` says it. */
export interface Desk {
  readonly id: string
  readonly name: string
  readonly site: string
  readonly revisions: readonly { readonly number: number; readonly issuedAt: string; readonly issuedBy: string; readonly plan: Plan }[]
  readonly levels: { readonly company: Rules; readonly site: Rules }
  readonly catalogue: readonly CatalogueUnit[]
  readonly scatter: Scatter
  readonly keepers: readonly Role[]
  /** What was found wrong with its record, and who has looked at it. */
  readonly fault?: { readonly message: string; readonly looked?: string | undefined } | undefined
}

/** A wall kept on this device: what a place of it needs when nobody answers. */
export interface KeptWall {
  readonly id: string
  readonly desk: Desk
  /** By what the house tells whether anything of it changed. */
  readonly mark: string
  /** People of this device who may open it: those who opened it while they were signed in. */
  readonly people: readonly string[]
  /** When this device last spoke with the house about it; ms since 1970 by the device. */
  readonly contact: number
  /** Somebody asked for it to stay here. */
  readonly keep: boolean
}

/** How far the record of a wall is kept here: the number of its last entry, and that entry's link of the chain where it is known. */
export interface KeptHead {
  readonly wall: string
  readonly seq: number
  readonly hash?: string | undefined
}

/** A piece of a record: entries `from` to `to` as lines of JSON, which are read faster than objects. */
export interface RecordPage {
  readonly wall: string
  readonly from: number
  readonly to: number
  readonly text: string
}

/** An entry that is not in the record yet, with who recorded it: a shared tablet may have another person signed in when it is sent. */
export interface Waiting extends Omit<Entry, 'by'> {
  /** Undefined on what an earlier version kept. */
  readonly owner?: string | undefined
  readonly ownerName?: string | undefined
  /** How often the house failed on it. */
  readonly tries?: number | undefined
  /** Number of the last entry the person had seen. */
  readonly knew?: number | undefined
}
/** Put in order by the device. */
export type Boxed = Waiting & { readonly n: number }

/** An entry the record did not take, and why. */
export interface Refused {
  readonly entry: Omit<Entry, 'by'>
  readonly problems: readonly Problem[]
  readonly owner?: string | undefined
  readonly ownerName?: string | undefined
}
export type BoxedRefusal = Refused & { readonly id: string; readonly wall: string; readonly aside: 0 | 1 }

/** A photo that is not in the house yet. */
export interface KeptPhoto {
  readonly key: string
  readonly wall: string
  readonly blob: Blob
  readonly name: string
  readonly strip: boolean
  readonly where: Where
  readonly caption?: string | undefined
  readonly of?: string | undefined
  /** Who took it: it is recorded as theirs. */
  readonly owner?: string | undefined
  /** Why it was not taken; it stays here until a person puts it aside. */
  readonly refused?: readonly Problem[] | undefined
  /** Why it goes later, as the house said. */
  readonly waits?: string | undefined
}

/** What was recorded apart from others and has to be looked at by a person. */
export interface Apart {
  readonly id: string
  readonly wall: string
  readonly owner: string
  /** Numbers between which the others' entries lie that its author had not seen. */
  readonly knew: number
  readonly seq: number
}

class Device extends Dexie {
  walls!: EntityTable<KeptWall, 'id'>
  heads!: EntityTable<KeptHead, 'wall'>
  pages!: Table<RecordPage, [string, number]>
  outbox!: Table<Boxed, number, Waiting & { n?: number }>
  refused!: EntityTable<BoxedRefusal, 'id'>
  photos!: EntityTable<KeptPhoto, 'key'>
  apart!: EntityTable<Apart, 'id'>
  notes!: Table<{ key: string; value: unknown }, string>
  constructor() {
    super('stone-tally')
    this.version(1).stores({
      walls: 'id',
      heads: 'wall',
      pages: '[wall+from], wall',
      outbox: '++n, &id, wall, owner',
      refused: 'id, wall',
      photos: 'key, wall',
      apart: 'id, wall',
      notes: 'key',
    })
    // Another tab brings a newer shape: this one lets go, so that neither waits for the other.
    this.on('versionchange', () => this.close())
  }
}

let only: Device | undefined
/** What this device keeps, one for all tabs. @example await device().walls.get(id) */
export function device(): Device {
  only ??= new Device()
  return only
}

/** The device keeps nothing more: said before anything is taken for recorded. */
export class DeviceFull extends Error {}

/** Turns what a full or closed store throws into words. */
export function keeping(error: unknown): DeviceFull {
  const name = (error as { name?: string; inner?: { name?: string } } | null)?.inner?.name ?? (error as { name?: string } | null)?.name ?? ''
  return new DeviceFull(
    /Quota/.test(name)
      ? 'this device has no room left; nothing was recorded. Free some, or record it on another device'
      : 'this device could not keep it; nothing was recorded. Load the page anew, or record it on another device',
  )
}

/** A small thing kept under a name; undefined where there is none, or nothing can be kept. */
export async function noted<T>(key: string): Promise<T | undefined> {
  try {
    return (await device().notes.get(key))?.value as T | undefined
  } catch {
    return undefined
  }
}
/** Keeps a small thing under a name; undefined takes it out. */
export async function note(key: string, value: unknown): Promise<void> {
  if (value === undefined) await device().notes.delete(key)
  else await device().notes.put({ key, value })
}
