import { type FixedData, type HireData, live, type RecordedEntry, type TaskData, type WallState } from '../record'

/** What was said last of each name, in the order in which it was said first. */
function newest<D>(state: WallState, kind: string, name: (d: D) => string): ReadonlyMap<string, { entry: RecordedEntry; data: D }> {
  const found = new Map<string, { entry: RecordedEntry; data: D }>()
  for (const e of state.entries) {
    if (e.entry.kind !== kind || !live(state, e.entry.id)) continue
    const data = e.entry.data as D
    found.set(name(data), { entry: e, data })
  }
  return found
}

/** Work that is in no stage and still to be done. @example tasksOf(state)[0]?.title // 'Move the hedge' */
export const tasksOf = (state: WallState): readonly TaskData[] =>
  [...newest<TaskData>(state, 'task', (d) => d.task).values()].flatMap(({ data }) => (data.state === 'open' ? [data] : []))

/** Every task that was ever said of a wall, the newest of each name. */
export const allTasksOf = (state: WallState): readonly TaskData[] => [...newest<TaskData>(state, 'task', (d) => d.task).values()].map((t) => t.data)

/** A task that was put on a day, and the entry that did it. */
export interface Fix {
  readonly title: string
  readonly day: string | undefined
  readonly entry: string
  readonly by: string
  readonly why: string | undefined
}
/** Where tasks were put, by their names; also those that were let go again, so that who moves one says which he saw. */
export const fixesOf = (state: WallState): ReadonlyMap<string, Fix> =>
  new Map(
    [...newest<FixedData>(state, 'fixed', (d) => d.task)].map(([name, { entry, data }]) => [
      name,
      { title: data.title, day: data.day, entry: entry.entry.id, by: entry.entry.by.name, why: data.why },
    ]),
  )

/** Plant that is or was here. */
export const hiresOf = (state: WallState): readonly { readonly entry: RecordedEntry; readonly data: HireData }[] =>
  state.entries.flatMap((entry) =>
    entry.entry.kind === 'hire' && live(state, entry.entry.id) ? [{ entry, data: entry.entry.data as HireData }] : [],
  )
