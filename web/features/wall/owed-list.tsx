'use client'

import { type Owed, say } from '@stone-tally/core'
import { LinkButton } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { hrefOf } from './places'

/** Where what is owed is done, and what the way there is called. */
function wayTo(wall: string, o: Owed): readonly [href: string, name: string] {
  const ground = (tab: string, more = '') => `${hrefOf(wall, 'ground')}?tab=${tab}${more}`
  switch (o.at) {
    case 'density':
      return [ground('density', `&step=${encodeURIComponent(o.step.key)}`), 'Record the tests']
    case 'levels':
      return [ground('level'), 'To the level book']
    case 'soil':
      return [ground('soil'), 'To the soil']
    case 'drain':
      return [hrefOf(wall, 'water'), 'To the drain']
    case 'plan':
      return [hrefOf(wall, 'plan'), 'To the plan']
    case 'step':
      return [hrefOf(wall, '', o.step.key), `To ${o.step.stage.title.toLowerCase()}`]
  }
}

/** What is owed, each with the way to it. */
export function OwedList({ list, wall, label }: { list: readonly Owed[]; wall: string; label: string }) {
  const { units } = usePreferences()
  if (list.length === 0) return null
  return (
    <ul aria-label={label} style={{ listStyle: 'none', margin: 0, padding: 0, display: 'grid', gap: 8 }}>
      {list.map((o) => {
        const [href, name] = wayTo(wall, o)
        return (
          <li key={o.id} style={{ display: 'grid', gap: 6, justifyItems: 'start' }}>
            <span>
              ○ {say(o.message, units)}
              {o.at === 'density' ? ' owed' : ''}
            </span>
            <LinkButton href={href}>{name}</LinkButton>
          </li>
        )
      })}
    </ul>
  )
}
