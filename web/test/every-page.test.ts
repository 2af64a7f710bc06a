// Every place of every wall of the demo, in each unit system, read by what nobody writes: of one wall in one unit a plural, a date or a token
// that only another wall meets is not seen.
import type { WallState } from '@stone-tally/core'
import { type ComponentType, createElement } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import { oddly } from '../../core/test/said-oddly'
import { loadDemo } from '../../demo/load'
import { AheadPage } from '../features/build/ahead'
import { Board } from '../features/build/board/board'
import { CrewPage } from '../features/build/crew/crew-page'
import { DaysPage } from '../features/build/days'
import { GroundPage } from '../features/build/ground'
import { LayersPage } from '../features/build/layers'
import { SawPage } from '../features/build/saw/saw-page'
import { StockPage } from '../features/build/stock'
import { WaterPage } from '../features/build/water'
import { KeptPrint } from '../features/house/kept-print'
import { PlanForm } from '../features/plan/plan/plan-form'
import { PolePage } from '../features/plan/pole/pole-page'
import { RuleBookPage } from '../features/plan/rules'
import { SetOut } from '../features/plan/set-out/set-out'
import { UnitsPlace } from '../features/plan/units'
import { ChecksPage } from '../features/prove/checks'
import { ImportReadings } from '../features/prove/record/import-readings'
import { RecordPage } from '../features/prove/record/record-page'
import { catalogueOf } from '../server/catalogue'
import { stateOf } from '../server/record-store'
import { keepersOf, levelsFor } from '../server/rules'
import { scatterFor } from '../server/scatter'
import { revisionsOf } from '../server/walls'
import { AtAWall } from './at-a-wall'
import { site } from './site'

jest.mock('next/navigation', () => ({
  useRouter: () => ({ push() {}, refresh() {} }),
  usePathname: () => '/walls/x',
  useSearchParams: () => new URLSearchParams(),
}))
let mockState: WallState
// The record as the device has it once it has come in.
jest.mock('../features/wall/use-wall', () => ({
  useWall: () => ({
    ...{ state: mockState, glimpse: undefined, loaded: true, live: 'live', asOf: Date.now(), waiting: 0, doubtful: [], away: [], others: [] },
    ...{ refused: [], anew: false, again() {}, aside() {}, decide() {}, seenAnew() {}, record: async () => ({ ok: false, problems: [] }) },
  }),
}))

let s: Awaited<ReturnType<typeof site>>
beforeAll(async () => {
  s = await site()
  await loadDemo()
})
afterAll(() => s.end())

const ENTITIES: Readonly<Record<string, string>> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"', '&#x27;': "'", '&nbsp;': ' ' }
/** What a page says, a line for each part of it, with what its parts are called. */
function lines(html: string): string {
  const names = [...html.matchAll(/ aria-label="([^"]*)"/g)].map((m) => m[1])
  const text = html
    .replace(/<style[\s\S]*?<\/style>/g, '')
    .replace(/<\/?(?:a|abbr|b|em|i|output|small|span|strong|sub|sup|time|tspan)(?: [^>]*)?>|<!--[\s\S]*?-->/g, '')
    .replace(/<[^>]*>/g, '\n')
  return [text, ...names].join('\n').replace(/&[#\w]+;/g, (e) => ENTITIES[e] ?? e)
}

test('no place of any wall says anything odd, in metres or in feet', async () => {
  const walls = await s.owner.db.selectFrom('wall').select(['id', 'name', 'site', 'company_id']).execute()
  expect(walls.length).toBeGreaterThanOrEqual(13)
  const odd: Record<string, string[]> = {}
  let pages = 0
  for (const w of walls) {
    mockState = await stateOf(w.id)
    const revisions = await revisionsOf(w.id)
    const plans = revisions.map((r) => r.plan)
    const plan = plans[plans.length - 1]
    if (!plan) throw new Error('a wall without a plan')
    const me = { id: 'someone', name: 'Someone', role: 'foreman' as const }
    const levels = await levelsFor(w.company_id, w.site)
    const catalogue = await catalogueOf(w.company_id)
    const scatter = await scatterFor(w.company_id)
    const of = { level: 'wall' as const, id: w.id, name: w.name, plan, company: levels.company, site: levels.site }
    const wall = { id: w.id, name: w.name, revision: plans.length, plan }
    const page = <P extends object>(Page: ComponentType<P>, props: P) => createElement(Page, props)
    const places = {
      ...Object.fromEntries(['dig', 'soil', 'pad', 'level', 'map', 'density', 'weather'].map((tab) => [`ground ${tab}`, page(GroundPage, { tab })])),
      Board: page(Board, { walk: false }),
      Water: page(WaterPage, {}),
      Layers: page(LayersPage, {}),
      Stock: page(StockPage, {}),
      Days: page(DaysPage, {}),
      Saw: page(SawPage, {}),
      Crew: page(CrewPage, {}),
      Checks: page(ChecksPage, {}),
      Record: page(RecordPage, {}),
      Readings: page(ImportReadings, {}),
      Units: page(UnitsPlace, {}),
      Pole: page(PolePage, {}),
      Ahead: page(AheadPage, { scatter }),
      'Set-out': page(SetOut, { revisions }),
      Plan: page(PlanForm, { me, catalogue, levels: { company: levels.company, sites: { [plan.site]: levels.site } }, wall }),
      Rules: page(RuleBookPage, { me, of, revision: plans.length, sites: [], history: [], walls: [], keepers: keepersOf(levels.company) }),
      Print: page(KeptPrint, {}),
    }
    for (const units of ['metric', 'imperial'] as const)
      for (const [name, element] of Object.entries(places)) {
        const html = renderToStaticMarkup(createElement(AtAWall, { units, wall: w.id, name: w.name, me, plans }, element))
        pages++
        for (const o of oddly(lines(html))) odd[o] = [...(odd[o] ?? []), `${w.name}: ${name}, ${units}`]
      }
  }
  expect(pages).toBeGreaterThan(500)
  expect(odd).toEqual({})
})
