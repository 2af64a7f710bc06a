import { choice, type InferType, record, text } from '../../base/schema'
import { defineKind } from './kind'

/** As what somebody from outside looks at a wall. */
export const LOOKS_AS = { inspector: 'Inspector', engineer: 'Engineer', authority: 'Authority', competent: 'Competent person' } as const

/** Somebody from outside is asked to decide on a hold point: who, as what, and the address the link goes to. */
export const requestData = record({
  name: text(120),
  as: choice(Object.keys(LOOKS_AS) as (keyof typeof LOOKS_AS)[]),
  /** A link that can be used once is sent there and nowhere else. */
  address: text(200).email('must be an e-mail address, such as name@office.example'),
})
export type RequestData = InferType<typeof requestData>

/** Before the request's id, the id of who answers it: no account has such a one, so nobody who is signed in can be taken for them. */
const OUTSIDE = 'outside '
/** The id under which somebody from outside answers a request. @example outsideId(request.id).startsWith('outside ') // true */
export const outsideId = (request: string): string => `${OUTSIDE}${request}`
/** Was it recorded by somebody from outside? @example isOutside({ id: 'outside 0191…' }) // true */
export const isOutside = (by: { readonly id: string }): boolean => by.id.startsWith(OUTSIDE)

export const request = defineKind({
  kind: 'request',
  effect: { is: 'asks' },
  roles: ['foreman', 'office'],
  schema: requestData,
  line: ({ data: d }) => `${d.name}, ${LOOKS_AS[d.as].toLowerCase()}, is asked to look: a link goes to ${d.address}`,
})
