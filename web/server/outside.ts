import { createHash, randomBytes } from 'node:crypto'
import {
  answerOf,
  choice,
  type Entry,
  exposedHeight,
  fail,
  failAll,
  formatLength,
  LOOKS_AS,
  lineOf,
  live,
  ok,
  openFindings,
  outsideId,
  photo,
  pointOf,
  type RecordedEntry,
  type RequestData,
  type Result,
  read,
  record,
  releaseNeeds,
  request as requestKind,
  type Step,
  say,
  settled,
  statusOf,
  stepKey,
  text,
  titleOf,
  type UnitSystem,
  type WallState,
} from '@stone-tally/core'
import { database } from './database'
import { uuid7 } from './ids'
import { log } from './log'
import { isSecure, networkOf } from './network'
import { ownAddress } from './people'
import { photoOf } from './photos'
import { NotPosted, post } from './post'
import { type Outcome, recordEntries, stateOf } from './record-store'
import { logged } from './security-log'
import { asked, endedSession, type Person, placeOf } from './sessions'
import { tried } from './throttle'
import type { WallRow } from './wall-row'
import { wallFor } from './walls'

/** How long a link to somebody outside can be used, days. */
export const OUTSIDE_DAYS = 14
const fingerprint = (token: string) => createHash('sha256').update(token).digest('hex')
const shape = /^[\w-]{43}$/

/**
 * The address this installation is reached at, as the request names it: only one that the operator named too, so that nobody makes the house send
 * its links to a server of their own.
 */
function originOf(request: Request): string | undefined {
  const host = (request.headers.get('host') ?? '').toLowerCase()
  const served = (process.env.SERVED_AS ?? '').toLowerCase().split(/[\s,]+/)
  const name = host.replace(/:\d+$/, '')
  return host !== '' && (served.includes(host) || served.includes(name)) ? `${isSecure(request.headers) ? 'https' : 'http'}://${host}` : undefined
}

/** The request an id names, where it is in the record and nobody took it back. */
function requestIn(state: WallState, id: string): { asked: RecordedEntry & { entry: Entry<'request', RequestData> }; step: Step } | undefined {
  const found = state.byId.get(id)
  if (!found || !requestKind.is(found.entry) || !live(state, id)) return undefined
  const step = state.byKey.get(stepKey(found.entry.where))
  return step && { asked: found as RecordedEntry & { entry: Entry<'request', RequestData> }, step }
}

/**
 * Sends the link of a request that is in the record to the address that stands in it. One sent before opens nothing any more.
 *
 * @returns until when it can be used; refused where the request is none, was answered, or the letter was not taken
 */
export async function sendLink(
  person: Person,
  wall: { id: string; name: string; site: string },
  id: unknown,
  request: Request,
): Promise<Result<{ endsAt: string }>> {
  if (person.role !== 'foreman' && person.role !== 'office') return fail('role', 'somebody from outside is asked by the foreman or the office')
  const state = await stateOf(wall.id)
  const found = typeof id === 'string' ? requestIn(state, id) : undefined
  if (!found) return fail('request', 'is not, or no longer, a request in the record of this wall')
  const { asked, step } = found
  if (answerOf(state, step, asked.entry.id)) return fail('request', 'was answered already')
  const { address, name } = asked.entry.data
  const own = await ownAddress(wall.id, address)
  if (own) return failAll([{ ...own, field: 'address' }])
  const origin = originOf(request)
  if (!origin)
    return fail('address', 'cannot be written to: this installation has not been told the name it is reached by (SERVED_AS); its operator sets it')
  const allowed = await tried('letter', `${person.companyId} ${person.id}`, 'request')
  if (!allowed.ok) return allowed
  const token = randomBytes(32).toString('base64url')
  const ends_at = new Date(Date.now() + OUTSIDE_DAYS * 86_400_000)
  const { db } = database()
  const company = await db.selectFrom('company').select('name').where('id', '=', person.companyId).executeTakeFirstOrThrow()
  await db.transaction().execute(async (tx) => {
    await tx.deleteFrom('outside_link').where('wall_id', '=', wall.id).where('request', '=', asked.entry.id).execute()
    await tx
      .insertInto('outside_link')
      .values({ token_hash: fingerprint(token), wall_id: wall.id, request: asked.entry.id, decision: uuid7(), made_by: person.name, ends_at })
      .execute()
  })
  const what = titleOf(step)
  try {
    await post({
      to: address,
      subject: `${wall.name}, ${wall.site}: please look at ${what}`.replace(/\s+/g, ' '),
      text: `${name},

${person.name} of ${company.name} asks you to look at ${what} of the wall “${wall.name}”, ${wall.site}, and to say whether the work may go on.

What was recorded and the place for your decision:
${origin}/outside#${token}

The link can be used once, by you alone, until ${ends_at.toISOString().slice(0, 10)}. It does not open on a device of ${company.name}. Nobody checks who
you are; your name, what you look as and your licence number stand in the record of the wall with what you decide.
If you know nothing of this, do nothing.
`,
    })
  } catch (error) {
    if (!(error instanceof NotPosted)) throw error
    log.error({ err: error.cause }, 'a letter could not be handed over')
    await db.deleteFrom('outside_link').where('token_hash', '=', fingerprint(token)).execute()
    return fail('address', error.message)
  }
  await logged('outside link sent', request, person, `${what} to ${address}`)
  return ok({ endsAt: ends_at.toISOString() })
}

/** Links of a wall that are out, by the request they are for. */
export async function linksOf(wall: string): Promise<{ request: string; sentAt: string; endsAt: string; by: string }[]> {
  const rows = await database()
    .db.selectFrom('outside_link')
    .select(['request', 'made_at', 'ends_at', 'made_by'])
    .where('wall_id', '=', wall)
    .execute()
  return rows.map((r) => ({ request: r.request, sentAt: r.made_at.toISOString(), endsAt: r.ends_at.toISOString(), by: r.made_by }))
}

/** Sends the links of requests that were just recorded, each once; one that cannot be sent now is sent from its card. */
export async function sendLinks(
  request: Request,
  person: Person,
  wall: WallRow,
  entries: readonly unknown[],
  outcomes: readonly Outcome[],
): Promise<void> {
  const taken = outcomes.filter((o, i) => o.ok && (entries[i] as { kind?: unknown } | null)?.kind === 'request')
  if (taken.length === 0) return
  const out = new Set((await linksOf(wall.id)).map((l) => l.request))
  for (const o of taken) {
    if (out.has(o.id)) continue
    try {
      const sent = await sendLink(person, wall, o.id, request)
      if (!sent.ok) log.warn({ problems: sent.problems }, 'a link to somebody outside was not sent')
    } catch (error) {
      log.error({ err: error }, 'a link to somebody outside was not sent')
    }
  }
}

const OVER = 'this link was used, withdrawn or sent anew, or its time is over; ask for another'

/** Whose device this is, where somebody of the company is or was signed in on it: it decides nothing from outside. */
async function insider(headers: Headers, companyId: string): Promise<boolean> {
  const [who, ended] = [await asked(headers), await endedSession(headers)]
  if (who?.person.companyId === companyId || ended?.companyId === companyId) return true
  const place = placeOf(headers)
  if (place === undefined) return false
  const row = await database()
    .db.selectFrom('known_place')
    .innerJoin('user', 'user.id', 'known_place.person')
    .select('known_place.person')
    .where('known_place.place', '=', place)
    .where('user.companyId', '=', companyId)
    .executeTakeFirst()
  return row !== undefined
}

interface Opened {
  readonly wall: { readonly id: string; readonly name: string; readonly site: string }
  readonly company: string
  readonly decision: string
  readonly state: WallState
  readonly asked: RecordedEntry & { entry: Entry<'request', RequestData> }
  readonly step: Step
}

/** What a link opens, for whoever may open it. */
async function open(token: unknown, headers: Headers): Promise<Result<Opened>> {
  const allowed = await tried('link', networkOf(headers), 'token')
  if (!allowed.ok) return allowed
  if (typeof token !== 'string' || !shape.test(token)) return fail('token', OVER)
  const row = await database()
    .db.selectFrom('outside_link as l')
    .innerJoin('wall as w', 'w.id', 'l.wall_id')
    .innerJoin('company as c', 'c.id', 'w.company_id')
    .select(['l.wall_id', 'l.request', 'l.decision', 'w.name', 'w.site', 'c.name as company', 'c.id as company_id'])
    .where('l.token_hash', '=', fingerprint(token))
    .where('l.ends_at', '>', new Date())
    .executeTakeFirst()
  if (!row) return fail('token', OVER)
  if (await insider(headers, row.company_id)) {
    await logged('outside link refused', headers, { companyId: row.company_id }, 'on a device of the company')
    return fail('device', `${row.company} is or was signed in on this device. Open the link on a device of your own`)
  }
  // A wall that was thrown away is none.
  if (!(await wallFor({ companyId: row.company_id }, row.wall_id))) return fail('token', OVER)
  const state = await stateOf(row.wall_id)
  const found = requestIn(state, row.request)
  if (!found || answerOf(state, found.step, row.request)) return fail('token', OVER)
  return ok({ ...found, state, wall: { id: row.wall_id, name: row.name, site: row.site }, company: row.company, decision: row.decision })
}

/** What somebody from outside is shown: what is asked, and what was recorded of it. */
export interface OutsideShown {
  readonly wall: string
  readonly site: string
  readonly company: string
  readonly by: string
  readonly name: string
  readonly as: string
  readonly step: string
  readonly point: string
  readonly reason: string
  /** Why it cannot be released yet. */
  readonly missing: readonly string[]
  readonly revision: number
  readonly system: string
  readonly lines: readonly { readonly seq: number; readonly at: string; readonly by: string; readonly text: string; readonly out: boolean }[]
  /** What is out of its limits here and not closed. */
  readonly open: readonly string[]
  readonly facts: readonly string[]
  readonly photos: readonly { readonly file: string; readonly caption: string; readonly seq: number }[]
}
/** As many lines of what was recorded are shown, the newest. */
const MOST_LINES = 300

/**
 * What somebody looks at before they decide: all that was recorded of the place since it was last released there, the soil and the cut below it
 * included, not only the work of the one step.
 */
function lookedAt(state: WallState, step: Step): RecordedEntry[] {
  const own = state.logs.get(step.key)
  const first = Math.min(...(own?.work ?? []).map((e) => e.seq), Number.POSITIVE_INFINITY)
  const of = state.entries.filter(
    (e) =>
      live(state, e.entry.id) &&
      e.entry.kind !== 'request' &&
      (step.section === undefined || [undefined, step.section].includes(e.entry.where.section)),
  )
  const before = of.filter((e) => e.seq < first && e.entry.kind === 'release').pop()?.seq ?? 0
  return of.filter((e) => e.seq > before)
}

/** The wall in a few lines: how high it shows, whose plan, what holds it. */
function factsFor({ layout }: WallState, units: UnitSystem): string[] {
  const { plan } = layout
  const of = [plan.engineerBy, plan.engineerLicence, plan.engineer, plan.engineerOn].filter(Boolean)
  return [
    `Shows up to ${formatLength(exposedHeight(plan), units, 2)}, ${formatLength(plan.length, units, 2)} long.`,
    of.length > 0 ? `Engineer: ${of.join(', ')}.` : 'No engineer’s plan is named.',
  ]
}

/** @param units - what the reader reads lengths in */
export async function outsideShown(token: unknown, units: UnitSystem, headers: Headers): Promise<Result<OutsideShown>> {
  const opened = await open(token, headers)
  if (!opened.ok) return opened
  const { state, asked, step, wall, company } = opened.value
  const { plan, system } = state.layout
  const point = pointOf(plan, step.stage.hold ?? '')
  const status = statusOf(state, step)
  const here = lookedAt(state, step)
  return ok({
    wall: wall.name,
    site: wall.site,
    company,
    by: asked.entry.by.name,
    name: asked.entry.data.name,
    as: LOOKS_AS[asked.entry.data.as],
    step: titleOf(step),
    point: point?.title ?? step.stage.title,
    reason: say(point?.reason ?? '', units),
    missing: (settled(status) ? releaseNeeds(state, step).map((o) => o.message) : status.missing).map((m) => say(m, units)),
    revision: state.layouts.length,
    system: system.name,
    lines: here.slice(-MOST_LINES).map((e) => ({
      seq: e.seq,
      at: e.entry.at,
      by: e.entry.by.name,
      text: lineOf(state, e.entry, { units }),
      out: state.outs.has(e.entry.id),
    })),
    open: openFindings(state)
      .filter(({ entry: { where } }) => where.section === undefined || where.section === step.section)
      .map((f) => say(state.outs.get(f.entry.id)?.text ?? '', units)),
    facts: factsFor(state, units),
    photos: photo.among(here).map((e) => ({ file: e.entry.data.file, caption: e.entry.data.caption ?? '', seq: e.seq })),
  })
}

/** A photo of what is asked about, and no other of the wall. */
export async function outsidePhoto(token: unknown, file: unknown, headers: Headers) {
  const opened = await open(token, headers)
  if (!opened.ok) return undefined
  const { state, step, wall } = opened.value
  const shown = photo.among(lookedAt(state, step)).find((e) => e.entry.data.file === file)
  return shown && photoOf(wall.id, shown.entry.data.file, false)
}

const decisionSchema = record({
  token: text(60),
  name: text(120),
  licence: text(80),
  decision: choice(['released', 'rejected'] as const),
  reason: text(400),
})

/** Records the decision. The answer's id was made with the link, so a link that is used twice, or at once from two places, decides once. */
export async function decideOutside(value: unknown, headers: Headers): Promise<Result<{ seq: number; decision: string }>> {
  const input = read(decisionSchema, value)
  if (!input.ok) return input
  const { token, name, licence, decision, reason } = input.value
  const opened = await open(token, headers)
  if (!opened.ok) return opened
  const { wall, asked, decision: id, state } = opened.value
  const { stage, section, course } = asked.entry.where
  const now = Date.now()
  const entry = {
    id,
    wall: wall.id,
    revision: state.layouts.length,
    at: new Date(now).toISOString(),
    kind: 'release',
    where: { ...(stage ? { stage } : {}), ...(section ? { section } : {}), ...(course ? { course } : {}) },
    data: {
      decision,
      reason: reason.trim(),
      signature: { typed: name.trim() },
      outside: { request: asked.entry.id, as: LOOKS_AS[asked.entry.data.as].toLowerCase(), licence: licence.trim() },
    },
  }
  const who = { id: outsideId(asked.entry.id), name: name.trim(), role: 'inspector' as const }
  const [outcome] = await recordEntries(wall.id, who, [entry], now)
  if (!outcome) return fail('', 'this could not be recorded; try again')
  if (!outcome.ok) return { ok: false, problems: outcome.problems.map((p) => ({ ...p, field: FIELDS[p.field] ?? p.field })) }
  await logged('outside decision', headers, undefined, `${decision}: ${name.trim()}`)
  return ok({ seq: outcome.seq, decision })
}
/** Fields of the entry as whoever fills the form knows them. */
const FIELDS: Readonly<Record<string, string>> = {
  'by.name': 'name',
  'data.outside.licence': 'licence',
  'data.reason': 'reason',
  'data.signature': 'name',
}
