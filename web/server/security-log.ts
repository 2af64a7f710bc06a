import { database } from './database'
import { log } from './log'
import { networkOf } from './network'

/** What is written into the log of what concerns security. */
export type Concern =
  | 'sign-in'
  | 'sign-in refused'
  | 'sign-out'
  | 'sessions ended'
  | 'company made'
  | 'person added'
  | 'invitation made'
  | 'invitation withdrawn'
  | 'invitation used'
  | 'reset link made'
  | 'outside link sent'
  | 'outside link refused'
  | 'outside decision'
  | 'password changed'
  | 'role changed'
  | 'person removed'
  | 'passkey added'
  | 'passkey removed'
  | 'session rule'
  | 'export'
  | 'record does not verify'
  | 'wall missing'
  | 'fault looked at'

/** Who it is about, as far as it is known. */
export interface Concerned {
  readonly id?: string | undefined
  readonly name?: string | undefined
  readonly companyId?: string | undefined
}

/**
 * Writes a line of the security log: into its table, where nobody changes it, and into the log of the process. A line that cannot be kept
 * never keeps anybody from what they were doing.
 *
 * @param detail - of what, in a few words; never a password or a token
 */
export async function logged(what: Concern, request: Request | Headers | undefined, who: Concerned | undefined, detail = ''): Promise<void> {
  const network = request === undefined ? '' : networkOf(request instanceof Headers ? request : request.headers)
  log.info({ security: what, person: who?.id, company: who?.companyId, network, detail }, what)
  await database()
    .db.insertInto('security_log')
    .values({
      company_id: who?.companyId ?? null,
      what,
      person: who?.id ?? null,
      name: who?.name?.slice(0, 120) ?? null,
      network,
      detail: detail.slice(0, 200),
    })
    .execute()
    .catch((error) => log.error({ err: error }, 'a line of the security log could not be kept'))
}

/** Was this said before? What is found every night is one line. */
export async function isLogged(what: Concern, company: string, detail: string): Promise<boolean> {
  const row = await database()
    .db.selectFrom('security_log')
    .select('number')
    .where('what', '=', what)
    .where('company_id', company === '' ? 'is' : '=', company === '' ? null : company)
    .where('detail', '=', detail.slice(0, 200))
    .limit(1)
    .executeTakeFirst()
  return row !== undefined
}

/** The newest lines about a company. */
export async function securityLogOf(companyId: string, most = 200) {
  const rows = await database()
    .db.selectFrom('security_log')
    .select(['number', 'at', 'what', 'name', 'network', 'detail'])
    .where('company_id', '=', companyId)
    .orderBy('number', 'desc')
    .limit(most)
    .execute()
  return rows.map((r) => ({ ...r, number: Number(r.number), at: r.at.toISOString() }))
}
