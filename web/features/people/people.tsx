'use client'

import { ROLE_NAMES, ROLES, type Role } from '@stone-tally/core'
import { useState } from 'react'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Ask, Button, Choice, Field, LinkButton, NowButton, Page, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { momentWords } from '@/ui/day-words'
import { OrderedTable } from '@/ui/ordered-table'
import { LinkGiven } from './link-given'
import { Part } from './me'
import { type Invitation, type Member, usePeople } from './use-people'

type Actions = ReturnType<typeof usePeople>

/** What the office does with one person, in a dialog: nothing of it is done by a slip of the thumb. */
function MemberDialog({ member, me, acts, onClose }: { member: Member; me: Me; acts: Actions; onClose(): void }) {
  const [role, setRole] = useState(member.role as Role)
  const [sure, setSure] = useState(false)
  const mine = member.id === me.id
  return (
    <Ask title={member.name} open onClose={onClose}>
      <Stack>
        <p style={{ margin: 0 }}>
          {member.email} · signed in on {member.devices} {member.devices === '1' ? 'device' : 'devices'}
        </p>
        <Row>
          <Choice label="Role" value={role} options={ROLES.map((r) => [r, ROLE_NAMES[r]] as const)} onChange={setRole} />
          <Button isDisabled={role === member.role} onPress={() => acts.role(member, role)}>
            Change the role
          </Button>
        </Row>
        <p style={{ margin: 0, color: 'var(--soft)', fontSize: 15 }}>
          Whoever changes role, is signed out or removed is out at once on every device; what waits there is set aside for the foreman.
        </p>
        <Row>
          <Button
            onPress={() => {
              acts.reset(member)
              onClose()
            }}
          >
            Link for a new password
          </Button>
          <Button isDisabled={member.devices === '0'} onPress={() => acts.end(member)}>
            Sign out everywhere
          </Button>
        </Row>
        {mine ? null : sure ? (
          <Row>
            <NowButton onPress={() => acts.remove(member)}>Remove {member.name} from the company</NowButton>
            <Button onPress={() => setSure(false)}>Keep</Button>
          </Row>
        ) : (
          <Row>
            <Quiet onPress={() => setSure(true)}>Remove from the company …</Quiet>
          </Row>
        )}
        <Problems list={acts.problems} />
      </Stack>
    </Ask>
  )
}

function SessionRule({ rule, acts }: { rule: { idle: number; most: number }; acts: Actions }) {
  const [idle, setIdle] = useState(`${rule.idle}`)
  const [most, setMost] = useState(`${rule.most}`)
  const wrong = (k: string) => acts.problems.find((p) => p.field === k)?.message
  return (
    <Part aria-label="How long people stay signed in">
      <h2>How long people stay signed in</h2>
      <Row>
        <Field label="Days without use" inputMode="numeric" value={idle} onChange={setIdle} error={wrong('idle')} />
        <Field label="Days in all" inputMode="numeric" value={most} onChange={setMost} error={wrong('most')} />
        <Button isDisabled={idle === `${rule.idle}` && most === `${rule.most}`} onPress={() => acts.rule(Number(idle), Number(most))}>
          Set
        </Button>
      </Row>
    </Part>
  )
}

/** Invitations nobody has used yet: whoever has their link can come in by it, so each can be taken back. */
function Invitations({ list, acts }: { list: readonly Invitation[]; acts: Actions }) {
  const may = (i: Invitation) => acts.adds.some((r) => r === i.role)
  return (
    <Part aria-label="Invitations that wait">
      <h2>Invitations that wait</h2>
      <ul style={{ listStyle: 'none', margin: 0, padding: 0 }}>
        {list.map((i) => {
          const [whom, as] = [i.name || 'whoever has the link', ROLE_NAMES[i.role as Role].toLowerCase()]
          return (
            <li key={i.id} style={{ borderTop: '1px solid var(--line)', padding: '8px 0' }}>
              <Row style={{ alignItems: 'center', justifyContent: 'space-between' }}>
                <span>
                  <strong>{`${i.name || 'Whoever has the link'}, as ${as}`}</strong>
                  <br />
                  {`by ${i.by}, until ${momentWords(i.endsAt)}`}
                </span>
                {may(i) ? (
                  <Quiet aria-label={`Take back the invitation for ${whom}, as ${as}`} onPress={() => acts.withdraw(i)}>
                    Take back
                  </Quiet>
                ) : null}
              </Row>
            </li>
          )
        })}
      </ul>
    </Part>
  )
}

/** People of the company: who, in which role, on how many devices; invited by link, out at once when a phone is lost. */
export function People({
  me,
  people,
  rule,
  waiting = [],
}: {
  me: Me
  people: readonly Member[]
  rule: { idle: number; most: number }
  waiting?: readonly Invitation[]
}) {
  const acts = usePeople(me, people)
  const [name, setName] = useState('')
  const [role, setRole] = useState<Role>('crew')
  const [open, setOpen] = useState<Member>()
  return (
    <>
      <Bar person={me} />
      <Page>
        <Row style={{ justifyContent: 'space-between' }}>
          <h1>People</h1>
          <Row>
            <LinkButton href="/me">Your sign-in</LinkButton>
            {me.role === 'office' || me.role === 'foreman' ? <LinkButton href="/people/log">Security log</LinkButton> : null}
            <LinkButton href="/house">The house</LinkButton>
          </Row>
        </Row>
        {acts.given ? <LinkGiven link={acts.given} onClose={() => acts.setGiven(undefined)} /> : null}
        <OrderedTable
          label="People"
          rows={people}
          id={(p) => p.id}
          middle
          columns={[
            {
              // The name itself: on a phone whatever stands at the end of a row is out of sight.
              head: 'Name',
              by: (p) => p.name,
              cell: (p) =>
                acts.looksAfter ? (
                  <Quiet aria-label={`${p.name}: change`} onPress={() => setOpen(p)}>
                    {p.name} …
                  </Quiet>
                ) : (
                  p.name
                ),
            },
            { head: 'Role', by: (p) => p.role, cell: (p) => ROLE_NAMES[p.role as Role] },
            { head: 'E-mail', by: (p) => p.email, cell: (p) => p.email },
            {
              head: 'Signed in on',
              cell: (p) => (
                <>
                  {p.devices} {p.devices === '1' ? 'device' : 'devices'}
                </>
              ),
            },
          ]}
        />
        {open ? <MemberDialog member={open} me={me} acts={acts} onClose={() => setOpen(undefined)} /> : null}
        {acts.adds.length > 0 ? (
          <Part aria-label="Invite somebody">
            <h2>Invite somebody</h2>
            <Stack>
              <Row>
                <Field label="Name, if you like" name="name" value={name} onChange={setName} />
                <Choice label="Role" value={role} options={acts.adds.map((r) => [r, ROLE_NAMES[r]] as const)} onChange={setRole} />
              </Row>
              <Row>
                <NowButton onPress={() => acts.invite(name, role)}>Make the link</NowButton>
              </Row>
            </Stack>
          </Part>
        ) : null}
        {acts.adds.length > 0 && waiting.length > 0 ? <Invitations list={waiting} acts={acts} /> : null}
        {me.role === 'office' ? <SessionRule rule={rule} acts={acts} /> : null}
        {open ? null : <Problems list={acts.problems} />}
      </Page>
    </>
  )
}
