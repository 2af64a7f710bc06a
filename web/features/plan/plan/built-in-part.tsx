import { BUILT_INS, smallUnit, type UnitSystem } from '@stone-tally/core'
import type { ReactNode } from 'react'
import { type Control, Controller, type FieldPath, useFieldArray } from 'react-hook-form'
import { Quiet } from '@/ui/controls'
import { fieldsOf, newBuiltIn } from './built-in'
import type { Draft } from './draft-fields'

/** What is built with the wall: cleared first, laid under, through or behind it, put on top. One line each, its fields by its kind. */
export function BuiltInLines({
  control,
  text,
  units,
}: {
  control: Control<Draft>
  text(name: FieldPath<Draft>, label: string, hint?: string): ReactNode
  units: UnitSystem
}) {
  const lines = useFieldArray({ control, name: 'builtIn' })
  const unit = { length: units === 'metric' ? ', m' : ', ft', small: `, ${smallUnit(units)}`, text: '', number: '', choice: '' }
  const chosen = { minHeight: 48, font: 'inherit' }
  return (
    <>
      {lines.fields.map((f, i) => (
        <div className="line" key={f.id}>
          <label style={{ display: 'grid', gap: 4 }}>
            What
            <select style={chosen} value={f.kind} onChange={(e) => lines.update(i, newBuiltIn(e.target.value))}>
              {BUILT_INS.map((k) => (
                <option key={k.id} value={k.id}>
                  {k.name}
                </option>
              ))}
            </select>
          </label>
          {fieldsOf(f.kind).map((field) =>
            field.of === 'choice' ? (
              <Controller
                key={field.id}
                control={control}
                name={`builtIn.${i}.cells.${field.id}`}
                render={({ field: at }) => (
                  <label style={{ display: 'grid', gap: 4 }}>
                    {field.label}
                    <select {...at} value={at.value ?? ''} style={chosen}>
                      {field.options?.map(([id, title]) => (
                        <option key={id} value={id}>
                          {title}
                        </option>
                      ))}
                    </select>
                  </label>
                )}
              />
            ) : (
              <div key={field.id}>{text(`builtIn.${i}.cells.${field.id}`, `${field.label}${unit[field.of]}`)}</div>
            ),
          )}
          <Quiet onPress={() => lines.remove(i)} aria-label="Remove this line">
            ✕
          </Quiet>
        </div>
      ))}
      <div>
        <Quiet onPress={() => lines.append(newBuiltIn())}>Add something built in</Quiet>
      </div>
    </>
  )
}
