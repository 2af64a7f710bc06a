import type { Layout } from '../layout'
import type { Entry } from './entry'
import type { Step } from './step'
import { workOf } from './works'

/**
 * Why an entry made under an earlier revision no longer says that its step is done as the plan in force asks; undefined where it does.
 * The entry and its own verdict stay as they are.
 *
 * @param step - the step of the plan in force it belongs to
 * @example mismatch(first, second, step, entry) // 'its target is now 42 mm higher'
 */
export const mismatch = (before: Layout, after: Layout, step: Step, entry: Entry): string | undefined =>
  before === after ? undefined : workOf(step.stage.work.type).changed(before, after, step as never, entry)
