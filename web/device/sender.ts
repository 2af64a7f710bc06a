'use client'

import type { Problem, Verdict } from '@stone-tally/core'
import type { Refused, Waiting } from './db'
import { deliver, TRIES, toSend } from './deliver'
import { outbox } from './outbox'
import { askToKeep } from './room'
import { send } from './send'
import { alone } from './tabs'

/** What became of an entry that was sent. */
export type Outcome =
  | {
      readonly id: string
      readonly ok: true
      readonly seq: number
      readonly receivedAt: string
      readonly verdict?: Verdict
      readonly uncompared?: true
    }
  | { readonly id: string; readonly ok: false; readonly problems: readonly Problem[] }

const FIRST = 1000
const LONGEST = 30_000
const FAILED: readonly Problem[] = [
  { field: '', message: 'the server failed on it several times; keep it, and tell whoever looks after the installation' },
]

/** Only an answer of the house counts: a page that answers everything says nothing of our entries. */
function outcomesOf(value: unknown, sent: readonly Waiting[]): Outcome[] | undefined {
  const list = (value as { outcomes?: unknown } | null)?.outcomes
  if (!Array.isArray(list)) return undefined
  const ids = new Set(sent.map((e) => e.id))
  return (list as Outcome[]).filter((o) => ids.has(o?.id))
}

/**
 * Sends what waits for a wall: one tab at a time on a device, in order, again after a pause that doubles and is never the same on two
 * devices.
 */
export class Sender {
  private turn: Promise<Outcome[] | undefined> = Promise.resolve(undefined)
  private failures = 0
  private next: ReturnType<typeof setTimeout> | undefined
  private over = false

  constructor(
    private readonly wall: string,
    private readonly person: string,
    private readonly told: {
      /** Entries the record has now, in order. */
      recorded(entries: readonly { readonly waiting: Waiting; readonly seq: number; readonly receivedAt: string }[]): Promise<void>
    },
  ) {}

  /** Sends what waits now. @returns outcomes; undefined where nobody answered */
  now(): Promise<Outcome[] | undefined> {
    clearTimeout(this.next)
    const run = () => alone(`outbox ${this.wall}`, () => this.sendAll())
    this.turn = this.turn.then(run, run).catch((error) => {
      console.error(error)
      return undefined
    })
    return this.turn.then((outcomes) => {
      this.plan(outcomes !== undefined)
      return outcomes
    })
  }

  /** What is left waiting is tried again later. */
  private async plan(answered: boolean) {
    if (this.over) return
    this.failures = answered ? 0 : this.failures + 1
    const left = await this.mine().catch(() => [])
    if (left.length === 0 || this.over) return
    if (!answered) askToKeep()
    const wait = Math.min(LONGEST, FIRST * 2 ** this.failures) * (0.5 + Math.random())
    clearTimeout(this.next)
    this.next = setTimeout(() => this.now(), wait)
  }

  /** What was kept before there were owners is theirs who is signed in, as it always was. */
  private mine = async () => (await outbox(this.wall).all()).filter((e) => e.owner === undefined || e.owner === this.person)

  private async sendAll(): Promise<Outcome[] | undefined> {
    const box = outbox(this.wall)
    const entries = await this.mine()
    if (entries.length === 0) return []
    const sent = await deliver<Outcome>(
      entries,
      async (list) => {
        const answer = await send<unknown>('POST', `/api/walls/${this.wall}/entries`, { person: this.person, entries: list.map(toSend) })
        if (!answer.ok) return { status: answer.status, outcomes: undefined, problems: answer.problems }
        const outcomes = outcomesOf(answer.value, list)
        return { status: outcomes ? 200 : 0, outcomes, problems: [] }
      },
      async () => (await fetch('/api/health').catch(() => undefined))?.ok ?? false,
    )
    const find = (id: string) => entries.find((e) => e.id === id)
    const lost: Refused[] = [...sent.refused]
    const outcomes: Outcome[] = [...sent.outcomes, ...sent.refused.map((r) => ({ id: r.entry.id, ok: false as const, problems: [...r.problems] }))]
    const refusal = (w: Waiting, problems: readonly Problem[]) =>
      lost.push({ entry: toSend(w), problems, owner: w.owner ?? this.person, ownerName: w.ownerName })
    for (const o of sent.outcomes) {
      const w = find(o.id)
      if (!o.ok && w) refusal(w, o.problems)
    }
    for (const id of sent.failed) {
      const w = find(id)
      if (!w) continue
      if ((w.tries ?? 0) + 1 < TRIES) await box.tried(id)
      else {
        refusal(w, FAILED)
        outcomes.push({ id, ok: false, problems: FAILED })
      }
    }
    await this.told.recorded(
      sent.outcomes.flatMap((o) => {
        const waiting = find(o.id)
        if (!o.ok || !waiting) return []
        const { clock, ...without } = waiting
        return [{ waiting: o.uncompared ? without : waiting, seq: o.seq, receivedAt: o.receivedAt }]
      }),
    )
    // Kept as refused in the step in which it leaves the box: at no moment is it nowhere.
    await box.settle(new Set(outcomes.map((o) => o.id)), lost)
    return sent.stopped && outcomes.length === 0 ? undefined : outcomes
  }

  begin() {
    this.over = false
  }
  end() {
    this.over = true
    clearTimeout(this.next)
  }
}
