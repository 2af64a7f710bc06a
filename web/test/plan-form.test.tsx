import { act, renderHook, waitFor } from '@testing-library/react'
import { built, smallPlan } from '../../core/test/plans'
import { type Planning, usePlanForm } from '../features/plan/plan/use-plan-form'

const plan = built({ ...smallPlan, sections: [{ id: 'A', from: 0, to: smallPlan.length }] })
const planning: Planning = { catalogue: [], wall: { id: 'w', name: plan.name, revision: 1, plan } }
const begin = () => renderHook(() => usePlanForm(planning)).result
type Form = ReturnType<typeof begin>['current']['of']['form']
/** As a field that is registered does for each letter. */
const letter = (form: Form, name: 'name' | 'drawing', value: string) => {
  const field = form.register(name)
  return field.onChange({ type: 'change', target: { name, value } })
}

describe('a letter stands at once, what follows from it comes after', () => {
  test('what is issued is what the fields say, drawn or not', async () => {
    const at = begin()
    await act(async () => void (await letter(at.current.of.form, 'name', 'Quay steps')))
    expect(at.current.of.draft.name).toBe(plan.name)
    expect(at.current.of.isDrawn()).toBe(false)
    expect(at.current.of.planNow()).toMatchObject({ ok: true, value: { name: 'Quay steps' } })
    await waitFor(() => expect(at.current.of.isDrawn()).toBe(true))
    expect(at.current.of.draft.name).toBe('Quay steps')
    expect([at.current.of.isDrawn(), at.current.of.changed]).toEqual([true, true])
  })

  test('what is pressed right after a letter takes the letter along and is drawn at once', async () => {
    const at = begin()
    await act(async () => void (await letter(at.current.of.form, 'drawing', 'Sheet 4')))
    await act(async () => at.current.of.put({ ...at.current.of.form.getValues(), name: 'Put in' }))
    expect(at.current.of.draft).toMatchObject({ drawing: 'Sheet 4', name: 'Put in' })
    await waitFor(() => expect(at.current.of.isDrawn()).toBe(true))
    expect(at.current.of.draft).toMatchObject({ drawing: 'Sheet 4', name: 'Put in' })
    expect(at.current.of.plan).toMatchObject({ name: 'Put in', drawing: 'Sheet 4' })
  })

  test('beside the fields nothing is made anew for a letter that is not drawn yet', async () => {
    const at = begin()
    await waitFor(() => expect(at.current.of.isDrawn()).toBe(true))
    const { of } = at.current
    await act(async () => void (await letter(of.form, 'name', 'Q')))
    expect(at.current.of).toBe(of)
  })
})
