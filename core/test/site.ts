import { admit, advance, type Entry, emptyState, say, stepKey, tableOf, type WallState } from '@stone-tally/core'
import { good, morningLook } from './build'
import { type AnyPlan, entry, layoutOf, NOW, SIGNED } from './plans'

/** Records entries one after another, each through the gates; fails with the reason when one is refused. */
export class Site {
  state: WallState
  readonly entries: Entry[] = []
  constructor(plan?: AnyPlan) {
    this.state = emptyState([layoutOf(plan)])
    if (plan && tableOf(plan) > 1) this.put(morningLook())
  }
  put(...entries: Entry[]): this {
    for (const e of entries) {
      const judged = admit(this.state, e, NOW)
      if (!judged.ok) throw new Error(judged.problems.map((p) => `${p.field}: ${p.message}`).join('; '))
      this.state = advance(this.state, { seq: this.entries.length + 1, receivedAt: '', entry: e })
      this.entries.push(e)
    }
    return this
  }
  /** @param now - by the house; when the entry says it is, where that is later */
  refusal(e: Entry, now = Math.max(NOW, Date.parse(e.at))): string {
    const judged = admit(this.state, e, now)
    return judged.ok ? '' : say(judged.problems.map((p) => `${p.field}: ${p.message}`).join('; '), 'metric')
  }
  step(stage: string, section?: string, course?: number) {
    const step = this.state.byKey.get(stepKey({ stage, section, course }))
    if (!step) throw new Error(`no step ${stage} ${section} ${course}`)
    return step
  }
  /** Everything a step wants, in tolerance. */
  work(stage: string, section?: string, course?: number): this {
    return this.put(...good(this.step(stage, section, course), this.state.layout))
  }
  release(stage: string, section?: string, course?: number): this {
    return this.put(
      entry(
        'release',
        { stage, section, course },
        { decision: 'released', reason: 'seen', signature: SIGNED },
        { role: stage === 'set-out' ? 'foreman' : 'inspector' },
      ),
    )
  }
  toFirstCourse(section = 'B'): this {
    this.work('services').work('set-out').release('set-out')
    for (const s of ['dig', 'subgrade'] as const) this.work(s, section)
    this.release('subgrade', section).work('pad', section).work('pad-level', section).release('pad-level', section)
    return this.work('units', section, 1).work('bedding', section, 1).work('level', section, 1).work('line', section, 1)
  }
  /** @param placed - the backfill of the first course as well */
  toBackfill(section = 'B', placed = true): this {
    this.toFirstCourse(section).release('line', section, 1)
    // Since rule table 2 the pipe lies before the stone beside it.
    const before = tableOf(this.state.layout.plan) > 1
    if (!before) this.work('fill', section, 1)
    this.work('invert', section, 1).work('drain', section, 1).release('drain', section, 1).work('cover', section, 1)
    if (before) this.work('fill', section, 1)
    return placed ? this.work('backfill', section, 1) : this
  }
}
