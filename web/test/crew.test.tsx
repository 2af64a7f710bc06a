import { issued } from '@stone-tally/core'
import { render, screen, waitFor, within } from '@testing-library/react'
import { built, ENGINEERED, smallPlan } from '../../core/test/plans'
import { Site } from '../../core/test/site'
import { CrewPage } from '../features/build/crew/crew-page'
import { WallProvider } from '../features/wall'
import { PreferencesProvider } from '../ui/preferences'
import { Server, serveFrom } from './fake-server'

const plan = issued(built({ ...smallPlan, ...ENGINEERED }))
let server: Server
beforeEach(() => {
  server = new Server()
  localStorage.clear()
  serveFrom(server)
})
const show = async (units: 'metric' | 'imperial') => {
  render(
    <PreferencesProvider units={units} theme="day">
      <WallProvider wall="01900000-0000-7000-8000-0000000000aa" name="Bay" plans={[plan]} me={{ id: 'f', name: 'Fay', role: 'foreman' }}>
        <CrewPage />
      </WallProvider>
    </PreferencesProvider>,
  )
  await waitFor(() => expect(screen.queryByText('Loading the record …')).toBeNull())
}

test('what comes on each section, who releases it and what everybody minds', async () => {
  for (const e of new Site(plan).toFirstCourse('B').entries) server.take(e)
  await show('metric')
  const b = within(screen.getByRole('region', { name: 'Section B' }))
  expect(b.getAllByRole('listitem')[0]?.textContent).toMatch(/Alignment, section B course 1.*First course, released by the inspector/)
  expect(within(screen.getByRole('region', { name: 'Section A' })).getAllByRole('listitem')[0]?.textContent).toMatch(/Excavation depth, section A/)
  expect(screen.getByRole('region', { name: 'Everybody minds' }).textContent).toMatch(/record today’s|34 kg|unit/i)
})
test('in feet every target is', async () => {
  await show('imperial')
  const words = screen.getByRole('region', { name: 'Section A' }).textContent ?? ''
  expect(words).toMatch(/at \d+'/)
  expect(words).not.toMatch(/\d m\b| mm/)
})
