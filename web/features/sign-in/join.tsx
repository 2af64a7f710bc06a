'use client'

import { ROLE_NAMES, type Role } from '@stone-tally/core'
import { Bar } from '@/ui/bar'
import { Choice, Field, NowButton, Problems, Stack } from '@/ui/controls'
import { momentWords } from '@/ui/day-words'
import { Link } from '@/ui/link'
import { Narrow } from './sign-in'
import { useJoin } from './use-join'

/** Where a one-time link leads: an account for who was invited, a new password for who lost theirs. */
export function Join() {
  const { link, invited, over, typed: v, set, wrong, elsewhere, busy, passkeys, setPasskeys, undecided, go } = useJoin()
  return (
    <>
      <Bar />
      <Narrow>
        <h1>{link === undefined ? 'Link' : invited ? `Join ${link.company}` : 'A new password'}</h1>
        {over ? (
          <p role="alert">
            {over.replace(/^./, (c) => c.toUpperCase())}. <Link href="/sign-in">Sign in</Link>
          </p>
        ) : null}
        {link ? (
          <form
            onSubmit={(e) => {
              e.preventDefault()
              go()
            }}
          >
            <Stack>
              <p style={{ margin: 0 }}>
                {invited
                  ? `${link.by} invites you as ${ROLE_NAMES[link.role as Role].toLowerCase()}.`
                  : `${link.name} sets a new password. Every device signed in before is out then.`}
              </p>
              {invited ? (
                <>
                  <Field label="Your name" name="name" autoComplete="name" value={v.name} onChange={set('name')} error={wrong('name')} />
                  <Field
                    label="E-mail"
                    type="email"
                    name="email"
                    autoComplete="username"
                    value={v.email}
                    onChange={set('email')}
                    error={wrong('email')}
                  />
                </>
              ) : null}
              <Field
                label="Password, at least 12 characters"
                type="password"
                name="password"
                autoComplete="new-password"
                value={v.password}
                onChange={set('password')}
                error={wrong('password')}
                hint="Four words that do not belong together are easy to keep and hard to guess"
              />
              {link.passkeys.length > 0 ? (
                <Stack style={{ gap: 6 }}>
                  <p style={{ margin: 0 }}>
                    These passkeys sign in as {link.name} too: {link.passkeys.map((k) => `${k.name}, made ${momentWords(k.madeAt)}`).join('; ')}. Take
                    them out unless you know each of them.
                  </p>
                  <Choice
                    label="The passkeys"
                    value={(passkeys ?? '') as 'keep' | 'remove'}
                    options={[
                      ['remove', 'Take them out'],
                      ['keep', 'Keep them'],
                    ]}
                    onChange={setPasskeys}
                  />
                </Stack>
              ) : null}
              <NowButton type="submit" isDisabled={busy || v.password === '' || undecided}>
                {invited ? 'Join' : 'Set it and sign in'}
              </NowButton>
              <Problems list={elsewhere} />
            </Stack>
          </form>
        ) : null}
      </Narrow>
    </>
  )
}
