'use client'

import {
  admit,
  advance,
  advanceWaiting,
  branch,
  type Entry,
  emptyState,
  type Layout,
  type Problem,
  type RecordedEntry,
  type RevisionData,
  sharing,
  type WallState,
} from '@stone-tally/core'
import { houseNow } from './clock'
import type { Waiting } from './db'
import { toSend } from './deliver'

/** Who an entry of this device would be recorded by. */
export type By = Entry['by']

/** What waits and does not fit what is known by now. */
export interface Doubtful {
  readonly entry: Waiting
  readonly problems: readonly Problem[]
}

/**
 * A wall as it is worked with: its record, and on top of it what waits on this device, folded and judged like the rest. The record's
 * own state is never touched by what waits.
 */
export class Folded {
  /** The record alone. */
  private record: WallState
  private shown: WallState
  private waiting: readonly Waiting[] = []
  private taken = new Set<string>()
  /** Everything up to this number is here; a few may be here from beyond it, since an answer can overtake the line. */
  private upTo = 0
  private readonly beyond = new Set<number>()
  /** Twenty thousand entries of the same few people are kept on a phone. */
  private readonly share = sharing()
  /** When the last of them came in: those that came together say so with one text. */
  private came = ''
  doubtful: readonly Doubtful[] = []
  /** A revision that is not here: what comes after it is judged by it, so nothing more is taken. */
  behind: { readonly number: number; readonly by: string } | undefined

  constructor(
    private readonly layouts: readonly Layout[],
    private readonly by: (waiting: Waiting) => By,
  ) {
    this.record = emptyState(layouts)
    this.shown = this.record
  }

  get state(): WallState {
    return this.shown
  }
  /** Number up to which the record is here without a gap. */
  get seq(): number {
    return this.upTo
  }
  /** Takes entries of the record in; what is known already changes nothing. */
  take(list: readonly RecordedEntry[]) {
    if (this.behind) return
    const before = this.record
    let next = before
    for (const r of list) {
      const { seq, entry } = r
      if (entry.kind === 'revision' && (entry.data as RevisionData).number > this.layouts.length) {
        this.behind = { number: (entry.data as RevisionData).number, by: entry.by.id }
        break
      }
      if (r.receivedAt !== this.came) this.came = r.receivedAt
      // What else the line brought along (its link) is kept beside the record, not in it.
      next = advance(next, { seq, receivedAt: this.came, entry: this.share(entry) })
      if (r.seq > this.upTo) this.beyond.add(r.seq)
      while (this.beyond.delete(this.upTo + 1)) this.upTo++
    }
    if (next === before) return
    this.record = next
    this.again(houseNow())
  }

  /** Says what waits now, in order. */
  wait(list: readonly Waiting[], now: number) {
    const old = this.waiting
    this.waiting = list
    // Only more at the end: what is shown goes on from there.
    const goesOn = this.shown !== this.record && old.every((e, i) => list[i]?.id === e.id)
    if (goesOn) this.add(list.slice(old.length), now)
    else if (list.length > 0 || old.length > 0) this.again(now)
  }

  /** What is shown, from the record on. */
  private again(now: number) {
    this.shown = this.record
    this.taken = new Set()
    this.doubtful = []
    this.add(
      this.waiting.filter((e) => !this.record.byId.has(e.id)),
      now,
    )
  }
  private add(list: readonly Waiting[], now: number) {
    for (const waiting of list) {
      if (this.taken.has(waiting.id)) continue
      const entry = { ...toSend(waiting), by: this.by(waiting) } as Entry
      const judged = admit(this.shown, entry, now)
      if (!judged.ok) {
        this.doubtful = [...this.doubtful, { entry: waiting, problems: judged.problems }]
        continue
      }
      this.shown = advanceWaiting(this.shown === this.record ? branch(this.record) : this.shown, entry, now)
      this.taken.add(waiting.id)
    }
  }
}
