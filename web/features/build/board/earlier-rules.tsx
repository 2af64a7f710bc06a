import { lineOf, say, stricter, type WallState } from '@stone-tally/core'
import { useMemo } from 'react'
import { Caution } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'

/** A wall judged by earlier rules: what today's would stop is said, and no verdict is rewritten. */
export function EarlierRules({ state }: { state: WallState }) {
  const { units } = usePreferences()
  const found = useMemo(() => stricter(state), [state])
  if (!found) return null
  const { entries, plan } = found
  return (
    <Caution as="div">
      <details>
        <summary style={{ minHeight: 48, cursor: 'pointer' }}>
          <strong>
            This plan is judged by the rules of its day. Today's would stop{' '}
            {[
              ...(entries.length > 0 ? [`${entries.length} ${entries.length === 1 ? 'entry' : 'entries'} that stood`] : []),
              ...(plan.length > 0 ? ['the plan itself'] : []),
            ].join(' and ')}
            .
          </strong>
        </summary>
        <ul>
          {plan.map((p) => (
            <li key={p}>{say(p, units)}</li>
          ))}
          {entries.slice(-20).map((e) => (
            <li key={e.recorded.entry.id}>
              {lineOf(state, e.recorded.entry, { units })}: {say(e.text, units)}
            </li>
          ))}
        </ul>
        <p>Verdicts stay as they were. The next revision is issued under today's rules.</p>
      </details>
    </Caution>
  )
}
