import { UNIT_SYSTEMS } from '@stone-tally/core'
import { cookies, headers } from 'next/headers'
import { notFound, redirect } from 'next/navigation'
import { cache } from 'react'
import { hasPeople } from './accounts'
import { type Asked, asked, type Person } from './sessions'
import { wallFor } from './walls'

/** The person of this page's request. */
export const currentPerson = cache(async (): Promise<Person | undefined> => (await currentAsked())?.person)
/** The same with their session. */
export const currentAsked = cache(async (): Promise<Asked | undefined> => asked(await headers()))

/** The signed-in person, or off to sign in (or to make the first company). */
export async function requirePerson(): Promise<Person> {
  const person = await currentPerson()
  if (person) return person
  redirect((await hasPeople()) ? '/sign-in' : '/welcome')
}

/** The wall of this page, if it is this company's. */
export const requireWall = cache(async (id: string) => {
  const person = await requirePerson()
  const wall = await wallFor(person, id)
  if (!wall) notFound()
  return { person, wall }
})

/** Units and theme of the device. */
export async function preferences() {
  const jar = await cookies()
  return {
    units: UNIT_SYSTEMS.find((u) => u === jar.get('units')?.value) ?? ('metric' as const),
    theme: jar.get('theme')?.value === 'night' ? ('night' as const) : ('day' as const),
  }
}
