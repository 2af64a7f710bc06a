import { say, type Unmatched } from '@stone-tally/core'
import { Caution } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'

/** Recorded work that a plan does not, or would not, match any more; nothing where there is none. */
export function Unfit({ title, list }: { title: string; list: readonly Unmatched[] }) {
  const { units } = usePreferences()
  if (list.length === 0) return null
  return (
    <Caution as="div">
      <strong>{title}</strong>
      <ul style={{ margin: '6px 0 0', paddingLeft: 18, display: 'grid', gap: 4 }}>
        {list.map((u) => (
          <li key={u.key}>
            {u.title}
            {u.section ? `, section ${u.section}` : ''}
            {u.course ? `, course ${u.course}` : ''} ({u.entries.length}): {say(u.message, units)}
          </li>
        ))}
      </ul>
    </Caution>
  )
}
