import { DRAWING_LIMITS, limitDef, type UnitSystem, unitOf } from '@stone-tally/core'
import type { ReactNode } from 'react'
import { type Control, Controller, type FieldPath, useFieldArray } from 'react-hook-form'
import { Choice, Quiet } from '@/ui/controls'
import type { Draft } from './draft-fields'
import { measureOfLimit } from './surroundings'

type Text = (name: FieldPath<Draft>, label: string, hint?: string) => ReactNode

/** The ground in front and the frost of the place. */
export function Surroundings({ control, text, u }: { control: Control<Draft>; text: Text; u: string }) {
  return (
    <>
      <div style={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(190px, 1fr))', gap: 12 }}>
        {text('frontSlope', 'Ground in front falls, down per 1 out', '0 where it is level; 8H:1V, 1:8, 2 % and 5° are read too')}
        {text('frost', `Frost depth of the place, ${u}`, 'from the local code')}
      </div>
      <Controller
        control={control}
        name="frontErodible"
        render={({ field }) => (
          <Choice
            label="The ground in front"
            value={field.value as 'yes' | 'no'}
            options={[
              ['no', 'Stays'],
              ['yes', 'Can wash or wear away'],
            ]}
            onChange={field.onChange}
          />
        )}
      />
    </>
  )
}

/** Limits the drawing sets itself, each with where it says so. */
export function DrawingLimits({ control, text, units }: { control: Control<Draft>; text: Text; units: UnitSystem }) {
  const limits = useFieldArray({ control, name: 'limits' })
  const unit = (limit: string) => {
    const measure = measureOfLimit(limit)
    return measure ? unitOf(measure, units) : (limitDef(limit)?.of ?? '')
  }
  return (
    <>
      {limits.fields.map((f, i) => (
        <div className="line" key={f.id}>
          <Controller
            control={control}
            name={`limits.${i}.limit`}
            render={({ field }) => (
              <label style={{ display: 'grid', gap: 4 }}>
                Limit
                <select {...field} style={{ minHeight: 48, font: 'inherit' }}>
                  {DRAWING_LIMITS.map((id) => (
                    <option key={id} value={id}>
                      {limitDef(id)?.title}
                    </option>
                  ))}
                </select>
              </label>
            )}
          />
          <Controller
            control={control}
            name={`limits.${i}.limit`}
            render={({ field }) => <>{text(`limits.${i}.value`, `Value, ${unit(field.value)}`)}</>}
          />
          {text(`limits.${i}.source`, 'Drawing or specification, note')}
          <Quiet onPress={() => limits.remove(i)} aria-label="Remove this limit">
            ✕
          </Quiet>
        </div>
      ))}
      <div>
        <Quiet onPress={() => limits.append({ limit: 'compaction', value: '', source: '' })}>Add a limit the drawing sets</Quiet>
      </div>
    </>
  )
}
