'use client'

import { browserSupportsWebAuthn, startAuthentication, startRegistration } from '@simplewebauthn/browser'
import { fail, type Result } from '@stone-tally/core'
import { send } from '@/device/send'

/** Can this browser make and use passkeys at all? Not without a secure line. */
export const hasPasskeys = () => typeof window !== 'undefined' && browserSupportsWebAuthn()

const GIVEN_UP = fail('', 'nothing was chosen; try again, or use your password')

/** Makes a passkey on this device and keeps what the house needs to know it by. @param name - what its owner calls the device; @param current - their password */
export async function addPasskey(name: string, current: string): Promise<Result<true>> {
  const options = await send<Parameters<typeof startRegistration>[0]['optionsJSON']>('PUT', '/api/me/passkeys', { current })
  if (!options.ok) return options
  const response = await startRegistration({ optionsJSON: options.value }).catch(() => undefined)
  if (!response) return GIVEN_UP
  const kept = await send('POST', '/api/me/passkeys', { name, response })
  return kept.ok ? { ok: true, value: true } : kept
}

/** Signs in with a passkey of this device. */
export async function enterByPasskey(): Promise<Result<true>> {
  const options = await send<Parameters<typeof startAuthentication>[0]['optionsJSON']>('PUT', '/api/sign-in/passkey')
  if (!options.ok) return options
  const response = await startAuthentication({ optionsJSON: options.value }).catch(() => undefined)
  if (!response) return GIVEN_UP
  const into = await send('POST', '/api/sign-in/passkey', response)
  return into.ok ? { ok: true, value: true } : into
}
