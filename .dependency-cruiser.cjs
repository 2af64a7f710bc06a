// The layers of the house. core: downwards in this order only.
const CORE = [
  'base',
  'units',
  'geometry',
  'bond',
  'rules',
  'plan',
  'systems',
  'layout',
  'ground',
  'water',
  'forecast',
  'reinforcement',
  'stability',
  'record',
  'materials',
  'stock',
  'schedule',
  'formats',
  'calculators',
]
// Small shared formulas that a layer above may use; each imports nothing but base and geometry.
const FORMULAS = 'core/src/(ground/rod|water/drain|water/seat|base/|geometry/)'

const downwards = CORE.slice(0, -1).map((name, i) => ({
  name: `core-${name}-looks-down`,
  severity: 'error',
  from: { path: `^core/src/${name}/` },
  to: { path: `^core/src/(${CORE.slice(i + 1).join('|')})/`, pathNot: `^${FORMULAS}` },
}))

module.exports = {
  forbidden: [
    ...downwards,
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/src' },
      to: { path: '(^web/|react|^next|node_modules/(pg|kysely|better-auth|styled-components)/)' },
    },
    { name: 'core-no-node', severity: 'error', from: { path: '^core/src' }, to: { dependencyTypes: ['core'] } },
    { name: 'systems-behind-their-seam', severity: 'error', from: { pathNot: '^core/src/systems/' }, to: { path: '^core/src/systems/[^/]+/' } },
    {
      name: 'device-knows-no-markup',
      severity: 'error',
      from: { path: '^web/device' },
      to: { path: '(^web/(features|app|server|ui)|node_modules/(react|next)/)' },
    },
    { name: 'ui-knows-no-feature', severity: 'error', from: { path: '^web/ui' }, to: { path: '^web/(features|app|server)' } },
    { name: 'features-know-no-route', severity: 'error', from: { path: '^web/features' }, to: { path: '^web/app' } },
    {
      name: 'features-no-database',
      severity: 'error',
      from: { path: '^web/features' },
      to: { path: '^web/server', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'only-server-has-the-database',
      severity: 'error',
      from: { path: '^web/(app|features|ui)' },
      to: { path: '(web/server/(database|migrations)|node_modules/(pg|kysely)/)', pathNot: '^$' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.next' },
    tsPreCompilationDeps: false,
    tsConfig: { fileName: 'web/tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js'],
    },
  },
}
