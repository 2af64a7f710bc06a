'use client'

import { ROLE_NAMES, type Role } from '@stone-tally/core'
import { Bar } from '@/ui/bar'
import { Field, NowButton, Problems, Stack } from '@/ui/controls'
import { Link } from '@/ui/link'
import { Narrow } from './sign-in'
import { useJoin } from './use-join'

/** Where a one-time link leads: an account for who was invited, a new password for who lost theirs. */
export function Join() {
  const { link, invited, over, typed: v, set, wrong, elsewhere, busy, go } = useJoin()
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
              <NowButton type="submit" isDisabled={busy || v.password === ''}>
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
