import { choice, type InferType, quantity, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import { SIZE } from './common'

const schema = record({ kind: choice(['floor'] as const), ...SIZE, thickness: quantity({ min: 0, max: 0, unit: 'm' }) })
type Data = InferType<typeof schema>

/** The undisturbed floor of the cut, level and looked at: nothing is placed on it. */
export const floor = defineFoundation<Data>({
  id: 'floor',
  name: 'Undisturbed floor',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: false, cast: false },
  nothing: true,
  stages: (ground) =>
    ground.flatMap((s) =>
      s.id === 'pad'
        ? []
        : s.id === 'pad-level'
          ? [
              {
                ...s,
                title: 'Floor level',
                how: 'Read the floor at every point; cut high spots with a flat edge, fill low ones with compacted stone, never loose soil.',
                requires: [{ stage: 'subgrade', of: 'same', force: 'hold', why: 'the floor is not released' } as const],
              },
            ]
          : [s],
    ),
})
