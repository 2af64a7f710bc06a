'use client'

import { type Problem, ROLES, type Role } from '@stone-tally/core'
import { useState } from 'react'
import { type Answer, send } from '@/device/send'
import type { Me } from '@/features/wall'
import type { Given } from './link-given'

export interface Member {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly role: string
  readonly devices: string
}

/** An invitation nobody has used yet. */
export interface Invitation {
  readonly id: string
  readonly name: string
  readonly role: string
  readonly by: string
  readonly endsAt: string
}

/** What can be done with the people of a company, and what became of it. */
export function usePeople(me: Me, people: readonly Member[]) {
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [given, setGiven] = useState<Given>()
  const office = people.some((p) => p.role === 'office')
  // A foreman looks after the people of the site, and the office too while there is none.
  const adds = ROLES.filter((r) => me.role === 'office' || (me.role === 'foreman' && (r !== 'office' || !office)))
  const looksAfter = me.role === 'office' || (me.role === 'foreman' && !office)
  const taken = <T>(answer: Answer<T>, then: (value: T) => void) => {
    setProblems(answer.ok ? [] : answer.problems)
    if (answer.ok) then(answer.value)
  }
  const again = () => window.location.reload()
  return {
    ...{ problems, given, adds, looksAfter, setGiven },
    invite: async (name: string, role: Role) =>
      taken(await send<Omit<Given, 'what'>>('POST', '/api/people/invite', { role, ...(name.trim() ? { name: name.trim() } : {}) }), (link) =>
        setGiven({ ...link, what: `Invitation${name.trim() ? ` for ${name.trim()}` : ''}` }),
      ),
    withdraw: async (i: Invitation) => taken(await send('DELETE', `/api/people/invite?id=${encodeURIComponent(i.id)}`), again),
    reset: async (p: Member) =>
      taken(await send<Omit<Given, 'what'>>('POST', '/api/people/link', { id: p.id }), (link) =>
        setGiven({ ...link, what: `${p.name} sets a new password by this link` }),
      ),
    role: async (p: Member, role: Role) => taken(await send('POST', '/api/people/role', { id: p.id, role }), again),
    remove: async (p: Member) => taken(await send('DELETE', `/api/people/role?id=${encodeURIComponent(p.id)}`), again),
    end: async (p: Member) => taken(await send('DELETE', `/api/people?id=${encodeURIComponent(p.id)}`), again),
    rule: async (idle: number, most: number) => taken(await send('POST', '/api/people/sessions', { idle, most }), again),
  }
}
