'use client'

import { admit, type Entry, type Glimpse, glimpsed, type Layout, type RecordedEntry, type WallState, whileAway } from '@stone-tally/core'
import { noteApart } from './apart'
import { houseNow } from './clock'
import { DeviceFull, device, note, noted, type Waiting } from './db'
import { toSend } from './deliver'
import { type By, Folded } from './folded'
import { giveBack } from './give-back'
import { followWall } from './line'
import { readLog } from './log'
import { outbox } from './outbox'
import { entriesOf, type Fact, type Me } from './recording'
import { Sender } from './sender'
import { hear } from './tabs'
import type { Events, RecordResult, WallView } from './wall-view'

/** An answer that comes within this time is shown as recorded at once; what takes longer is shown as waiting meanwhile, ms. */
const PROMPT = 700
/** So long what this device has waits for what the house has more, ms; then it is shown for what it is. */
const PATIENCE = 2500

/** Under what it is noted that a wall's record was asked for anew. */
const anewKey = (wall: string) => `anew ${wall}`

/**
 * A wall on this device: its record as far as it is kept here, what is new, what waits, what others record; and where facts go in. It
 * knows no markup.
 */
export class WallStore {
  private readonly folded: Folded
  private readonly box
  private readonly sender: Sender
  private readonly listeners = new Set<() => void>()
  /** A form looks on: it says itself what is wrong with these. */
  private readonly watched = new Set<string>()
  private view: WallView
  private mine: readonly Waiting[] = []
  /** On their way, and answered before anybody notices; they are not shown as waiting yet. */
  private readonly prompt = new Set<string>()
  private hash: { seq: number; hash?: string | undefined } = { seq: 0 }
  private stop: (() => void) | undefined
  private readLocal: Promise<void> | undefined
  private told = false

  constructor(
    readonly wall: string,
    private readonly layouts: readonly Layout[],
    private readonly me: Me,
    public events: Events,
  ) {
    const by = (w: Waiting): By => ({ id: me.id, name: w.ownerName ?? me.name, role: me.role })
    this.folded = new Folded(layouts, by)
    this.revision = layouts.length
    this.box = outbox(wall)
    this.sender = new Sender(wall, me.id, {
      recorded: async (list) => {
        const apart = await noteApart(wall, me.id, list)
        this.take(list.map(({ waiting, seq, receivedAt }) => ({ seq, receivedAt, entry: { ...toSend(waiting), by: by(waiting) } as Entry })))
        if (apart) await this.compare()
      },
    })
    this.view = {
      state: this.folded.state,
      glimpse: undefined,
      asOf: undefined,
      loaded: false,
      live: 'connecting',
      waiting: 0,
      doubtful: [],
      away: [],
      others: [],
      refused: [],
      anew: false,
    }
  }
  private readonly revision: number

  get = (): WallView => this.view
  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }
  private show(change: Partial<WallView> = {}) {
    const loaded = change.loaded ?? this.view.loaded
    if (loaded) this.glimpse = undefined
    const next = { ...this.view, ...change, state: this.folded.state, glimpse: this.glimpse, doubtful: this.folded.doubtful }
    if ((Object.keys(next) as (keyof WallView)[]).every((k) => Object.is(next[k], this.view[k]))) return
    this.view = next
    for (const listener of this.listeners) listener()
  }

  /**
   * Begins to follow; it may end and begin again, and then asks for nothing but what is new.
   *
   * @param head - as far as the house said with the page that the record goes: what is older is not shown as how things stand, while it answers
   */
  start(head = 0) {
    if (this.stop) return
    if (this.view.loaded && this.folded.seq < head) this.show({ loaded: false })
    this.sender.begin()
    this.show({ live: 'connecting' })
    const { me } = this
    let over = false
    const unhear = hear((word) => {
      if (word.is === 'gone') this.events.signedOut()
      else if (word.is === 'box' && word.wall === this.wall) this.count()
    })
    let unfollow = () => {}
    const online = () => this.sender.now()
    window.addEventListener('online', online)
    this.readLocal ??= readLog(this.wall, 0, (entries) => this.fill(entries))
      .then((head) => {
        this.hash = head
      })
      .catch((error) => console.error(error))
    this.readLocal.then(async () => {
      if (over) return
      await this.count()
      const kept = await device()
        .walls.get(this.wall)
        .catch(() => undefined)
      if (kept && this.view.asOf === undefined) this.show({ asOf: kept.contact })
      if ((await noted(anewKey(this.wall))) !== undefined) this.show({ anew: true })
      // What this device has is shown before anybody answers; where it has nothing, how the house sees it until the record is here.
      const had = this.folded.seq > 0
      if (!had) this.peek()
      else if (this.folded.seq >= head) this.show({ loaded: true })
      // The page shows what is next by the house: nobody records into a step of before while the rest is on its way.
      else setTimeout(() => !over && this.show({ loaded: true }), PATIENCE)
      unfollow = followWall(this.wall, {
        from: () => ({ seq: this.folded.seq, hash: this.hash.seq === this.folded.seq ? this.hash.hash : undefined }),
        take: (entries) => this.take(entries),
        caughtUp: () => {
          this.show({ loaded: true })
          // The house answered: what waits goes now.
          this.count().then(() => {
            if (this.mine.length > 0) this.sender.now()
          })
          this.compare()
        },
        line: (live) => {
          const back = live === 'live' && this.view.live !== 'live'
          if (live === 'lost' && had) this.show({ loaded: true })
          this.show(live === 'live' ? { live, asOf: Date.now() } : { live })
          if (back) this.sender.now()
        },
        restart: async () => {
          await note(anewKey(this.wall), Date.now()).catch(() => undefined)
          window.location.reload()
        },
        signedOut: async (ended) => {
          if (ended) await giveBack(me.id).catch((error) => console.error(error))
          this.events.signedOut()
        },
      })
    })
    this.stop = () => {
      over = true
      unhear()
      unfollow()
      window.removeEventListener('online', online)
    }
  }
  end() {
    this.stop?.()
    this.stop = undefined
    this.sender.end()
  }

  /** Asks how the wall looks, while its record is still on its way. */
  private async peek() {
    const response = await fetch(`/api/walls/${this.wall}/glimpse`).catch(() => undefined)
    const glimpse =
      response?.ok && response.headers?.get('x-glimpse') ? ((await response.json().catch(() => undefined)) as Glimpse | undefined) : undefined
    if (!glimpse || this.view.loaded) return
    this.glimpse = glimpsed(glimpse, this.layouts)
    this.show()
  }
  private glimpse: WallState | undefined

  /** What the device keeps comes in before anything is drawn of it. */
  private async fill(entries: readonly RecordedEntry[]) {
    this.folded.take(entries)
    await new Promise((done) => setTimeout(done, 0))
  }
  private take(entries: readonly RecordedEntry[]) {
    this.folded.take(entries)
    const { behind } = this.folded
    if (behind && !this.told) {
      this.told = true
      this.events.revised(behind.number, behind.by === this.me.id)
    }
    this.show()
    // An answer can overtake the line: what others recorded before it is looked at when it is here.
    if (this.unsettled) this.compare()
  }
  /** Is something of this device held against others' entries that may not all be here? */
  private unsettled = false

  /** Looks at what was recorded on both sides. What adds up needs nobody. */
  private async compare() {
    try {
      const apart = await device().apart.where('wall').equals(this.wall).toArray()
      const mine = apart.filter((a) => a.owner === this.me.id)
      this.unsettled = mine.length > 0
      if (mine.length === 0 && this.view.away.length === 0) return
      const away = whileAway(this.folded.state, mine)
      // Once everything up to it is here and nothing speaks against it, it is settled by itself.
      const open = new Set(away.map((a) => a.id))
      const settled = mine.filter((a) => a.seq <= this.folded.seq && !open.has(a.id)).map((a) => a.id)
      if (settled.length > 0) await device().apart.bulkDelete(settled)
      this.unsettled = mine.length > settled.length
      this.show({ away })
    } catch (error) {
      console.error(error)
    }
  }
  /** A person has looked at it and lets it stand. */
  decide = async (id: string): Promise<void> => {
    await device().apart.delete(id)
    await this.compare()
  }

  /** Looks at what waits on the device now; one look after the other, so that an older one never stands for a newer. */
  private count(): Promise<void> {
    this.counting = this.counting.then(() => this.look())
    return this.counting
  }
  private counting: Promise<void> = Promise.resolve()
  private async look() {
    try {
      const all = await this.box.all()
      const mine = all.filter((e) => e.owner === undefined || e.owner === this.me.id)
      this.mine = mine
      const others = [...new Set(all.filter((e) => !mine.includes(e)).map((e) => e.ownerName ?? 'somebody else'))]
      const refused = (await this.box.refused()).filter((r) => !this.watched.has(r.id))
      this.folded.wait(
        mine.filter((e) => !this.prompt.has(e.id)),
        houseNow(),
      )
      this.show({
        waiting: mine.length,
        ...(others.join() === this.view.others.join() ? {} : { others }),
        ...(refused.length === 0 && this.view.refused.length === 0 ? {} : { refused }),
      })
    } catch (error) {
      console.error(error)
    }
  }

  /**
   * Records facts: kept on this device first, then sent. What is not answered at once is shown as recorded all the same, and marked.
   *
   * @returns refused where the core refuses it, or the device cannot keep it: then nothing was recorded
   */
  record = async (facts: readonly Fact[]): Promise<RecordResult> => {
    const now = Date.now()
    const { me } = this
    // Nothing can be judged by half a record.
    if (!this.view.loaded)
      return { ok: false, problems: [{ field: '', message: 'the record of this wall is still on its way; try again in a moment' }] }
    // A photo whose entry is in the record already, though the device was stopped before it knew.
    if (facts.length > 0 && facts.every((f) => f.id !== undefined && this.folded.state.byId.has(f.id))) return { ok: true, verdict: undefined }
    const entries = entriesOf(facts, { wall: this.wall, revision: this.revision, me, knew: this.folded.seq, now })
    const [first] = entries
    // The same judgement as in the house, so that a refusal needs no signal. Only the first can be judged as things stand.
    const judged = first && admit(this.folded.state, { ...toSend(first), by: { id: me.id, name: me.name, role: me.role } } as Entry, houseNow(now))
    if (judged && !judged.ok) return judged
    const verdict = judged?.value
    const prompt = this.view.live !== 'lost' && this.mine.length === 0
    if (prompt) for (const e of entries) this.prompt.add(e.id)
    let ids: Set<string>
    try {
      ids = new Set(await this.box.put(entries))
    } catch (error) {
      for (const e of entries) this.prompt.delete(e.id)
      return {
        ok: false,
        problems: [{ field: '', message: error instanceof DeviceFull ? error.message : 'this device could not keep it; nothing was recorded' }],
      }
    }
    // Pressed again while it waits: it waits once.
    if (ids.size === 0) {
      this.sender.now()
      return { ok: true, waiting: true, verdict }
    }
    for (const id of ids) this.watched.add(id)
    const sent = this.sender.now()
    const late = new Promise<'late'>((done) => setTimeout(() => done('late'), prompt ? PROMPT : 0))
    const outcomes = prompt ? await Promise.race([sent, late]) : undefined
    for (const id of ids) this.prompt.delete(id)
    const own = Array.isArray(outcomes) ? outcomes.filter((o) => ids.has(o.id)) : []
    const refused = own.flatMap((o) => (o.ok ? [] : [o]))
    if (refused.length > 0) await this.box.said(new Set(refused.map((o) => o.id)))
    for (const id of ids) this.watched.delete(id)
    await this.count()
    if (own.length === 0) return { ok: true, waiting: true, verdict }
    if (refused.length > 0) return { ok: false, problems: refused.flatMap((o) => o.problems) }
    const last = own[own.length - 1]
    return { ok: true, verdict: last?.ok ? last.verdict : undefined }
  }

  /** Somebody has read that the record was asked for anew. */
  seenAnew = async (): Promise<void> => {
    await note(anewKey(this.wall), undefined).catch(() => undefined)
    this.show({ anew: false })
  }
  /** Sends a refused entry once more. */
  again = async (id: string): Promise<void> => {
    await this.box.again(id, { owner: this.me.id, ownerName: this.me.name, knew: this.folded.seq })
    await this.sender.now()
  }
  /** Puts a refused entry aside, in the record of the device. */
  aside = (id: string): Promise<void> => this.box.aside(id)
}
