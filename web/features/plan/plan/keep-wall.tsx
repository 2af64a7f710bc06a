'use client'

import { type Plan, type Problem, templateOf } from '@stone-tally/core'
import { useState } from 'react'
import { send } from '@/device/send'
import { Ask, Button, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'

/** What is done with a wall besides planning it: kept as a template, put away, or thrown away where it was made up. */
export function KeepWall({ wall, plan, madeUp, away }: { wall: { id: string; name: string }; plan: Plan; madeUp: boolean; away: boolean }) {
  const [open, setOpen] = useState<'template' | 'away' | 'thrown'>()
  const [text, setText] = useState('')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [done, setDone] = useState('')
  const show = (what: typeof open) => {
    setProblems([])
    setText(what === 'template' ? wall.name : '')
    setOpen(what)
  }
  const stand = async (stands: 'away' | 'back' | 'thrown') => {
    const answer = await send('POST', `/api/walls/${wall.id}/shelf`, { stands, ...(text.trim() ? { why: text.trim() } : {}) })
    if (answer.ok) window.location.assign(stands === 'back' ? window.location.pathname : '/')
    else setProblems(answer.problems)
  }
  const template = async () => {
    const answer = await send('POST', '/api/templates', { name: text.trim(), plan: templateOf(plan, text.trim()) })
    if (!answer.ok) return setProblems(answer.problems)
    setOpen(undefined)
    setDone(`Kept as the template “${text.trim()}”: a new wall can begin with it.`)
  }
  return (
    <>
      <Row style={{ alignItems: 'center' }}>
        <Quiet onPress={() => show('template')}>Keep as a template</Quiet>
        {madeUp ? (
          <Quiet onPress={() => show('thrown')}>Throw this wall away</Quiet>
        ) : away ? (
          <Quiet onPress={() => stand('back')}>Bring it back to the Yard</Quiet>
        ) : (
          <Quiet onPress={() => show('away')}>Put this wall away</Quiet>
        )}
        {done ? <span role="status">{done}</span> : null}
      </Row>
      {open === undefined ? <Problems list={problems} /> : null}
      <Ask title="Keep as a template" open={open === 'template'} onClose={() => setOpen(undefined)}>
        <Stack>
          <p>Its unit, pad, water, layers and rules; not its place, what stands around it, its drawing or its engineer.</p>
          <Field label="Template called" value={text} onChange={setText} autoFocus />
          <Problems list={problems} />
          <Row>
            <NowButton onPress={template} isDisabled={!text.trim()}>
              Keep it
            </NowButton>
            <Button onPress={() => setOpen(undefined)}>Not now</Button>
          </Row>
        </Stack>
      </Ask>
      <Ask title={`Put ${wall.name} away`} open={open === 'away'} onClose={() => setOpen(undefined)}>
        <Stack>
          <p>
            It goes from the Yard and from the days of the crews. Its plans, record and photos are kept whole, what devices still send of it is taken
            in, and it can be brought back at any time.
          </p>
          <Field label="Why, if you like" value={text} onChange={setText} autoFocus />
          <Problems list={problems} />
          <Row>
            <NowButton onPress={() => stand('away')}>Put it away</NowButton>
            <Button onPress={() => setOpen(undefined)}>Not now</Button>
          </Row>
        </Stack>
      </Ask>
      <Ask title="Throw the made-up wall away" open={open === 'thrown'} onClose={() => setOpen(undefined)}>
        <Stack>
          <p>It was made up to try things on. With it goes everything that was tried: nobody can open it again.</p>
          <Problems list={problems} />
          <Row>
            <NowButton onPress={() => stand('thrown')}>Throw it away</NowButton>
            <Button onPress={() => setOpen(undefined)}>Not now</Button>
          </Row>
        </Stack>
      </Ask>
    </>
  )
}
