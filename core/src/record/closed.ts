import type { WallState } from './state'

/** An out-of-tolerance entry closes with an action and a re-check within limits. */
export function isClosed(state: WallState, id: string): boolean {
  const action = state.actions.get(id)
  if (!action || state.superseded.has(action.entry.id)) return false
  return (state.rechecks.get(id) ?? []).some((r) => !state.superseded.has(r.entry.id) && !state.outs.has(r.entry.id))
}
