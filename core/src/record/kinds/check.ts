import { type InferType, list, optionalText, record, text, type yup } from '../../base/schema'
import { BUILDERS, defineKind } from './kind'

/** Items of a checklist a person confirmed. */
export const checkData = record({ confirmed: list(text(40), 0, 40), detail: optionalText(200) })
export type CheckData = InferType<typeof checkData>

export const check = defineKind<CheckData>({
  kind: 'check',
  roles: BUILDERS,
  schema: checkData as unknown as yup.ISchema<CheckData>,
  work: 'check',
  line(entry, _reader, { stage }) {
    if (stage?.work.type !== 'check') return 'Check'
    const names = stage.work.items.filter((i) => entry.data.confirmed.includes(i.id)).map((i) => i.text)
    const detail = entry.data.detail ? ` (${entry.data.detail})` : ''
    return `${stage.title}: ${names.join('; ') || 'nothing confirmed'}${detail}`
  },
})
