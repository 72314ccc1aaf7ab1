// Who may import whom. Module order of core: each may use `util` and the doors of those before it.
const ORDER = [
  'util',
  'address',
  'format',
  'schema',
  'queries',
  'edit',
  'cabling',
  'radio',
  'geodesy',
  'layer2',
  'power',
  'dhcp',
  'failover',
  'ipsec',
  'brief',
  'wifi',
  'filter',
  'reachability',
  'remedy',
  'adopt',
  'prove',
  'schedule',
  'findings',
  'diagnose',
  'simulator',
  'export',
  'ingest',
]

const root = process.env.CANARY ? 'tests/boundaries/canary/' : ''
const at = (path) => `^${root}${path}`

const order = ORDER.map((name, i) => ({
  name: `core-order-${name}`,
  severity: 'error',
  comment: `core/${name} may use only what stands before it in the order.`,
  from: { path: at(`core/${name}/`), pathNot: '\\.test\\.ts$' },
  to: {
    path: at('core/'),
    pathNot: [at(`core/${name}/`), ...ORDER.slice(0, i).map((n) => at(`core/${n}/`))],
  },
}))
const layer = (name, from, pathNot) => ({
  name,
  severity: 'error',
  from: { path: at(from), pathNot: '\\.test\\.ts$' },
  to: { path: at('(core|contracts|server|app|tests|tools)/'), pathNot: pathNot.map(at) },
})

module.exports = {
  forbidden: [
    { name: 'no-cycle', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'unresolved',
      severity: 'error',
      from: {},
      to: {
        couldNotResolve: true,
        pathNot: ['^(#imports|vuetify|#build|#first-links)', '^node:', '\\?url$'],
      },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: at('core/'), pathNot: ['\\.test\\.ts$', at('core/schema/'), at('core/geodesy/')] },
      to: { pathNot: at('core/') },
    },
    {
      name: 'geodesy-uses-its-libraries-only',
      severity: 'error',
      from: { path: at('core/geodesy/'), pathNot: '\\.test\\.ts$' },
      to: { pathNot: [at('core/'), 'node_modules/geographiclib-geodesic', 'node_modules/geomagnetism'] },
    },
    {
      name: 'schema-uses-zod-only',
      severity: 'error',
      from: { path: at('core/schema/'), pathNot: '\\.test\\.ts$' },
      to: { pathNot: [at('core/'), 'node_modules/zod'] },
    },
    {
      name: 'schema-by-its-types',
      severity: 'error',
      comment: 'What runs in a browser carries no schema: only contracts check with it.',
      from: { path: at('(core|app)/'), pathNot: ['\\.test\\.ts$', at('core/schema/')] },
      to: { path: at('core/schema/'), dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'core-by-the-door',
      severity: 'error',
      from: { path: at('core/([^/]+)/') },
      to: { path: at('core/([^/]+)/'), pathNot: [at('core/$1/'), 'index\\.ts$'] },
    },
    {
      name: 'doors-only',
      severity: 'error',
      from: { path: at('(contracts|server|app)/') },
      to: { path: at('core/'), pathNot: 'index\\.ts$' },
    },
    ...order,
    {
      name: 'contracts-use-data-packages-only',
      severity: 'error',
      from: { path: at('contracts/'), pathNot: '\\.test\\.ts$' },
      to: {
        pathNot: [at('(core|contracts)/'), 'node_modules/(zod|fast-json-patch|jsonc-parser|@zxcvbn-ts)'],
      },
    },
    layer('app-never-server', 'app/', ['app/', 'core/', 'contracts/']),
    layer('api-calls-services', 'server/api/', [
      'contracts/',
      'core/',
      'server/services/',
      'server/platform/',
      // What programs may ask, made from the list of routes.
      'server/openapi.ts',
    ]),
    layer('services-call-repo', 'server/services/', [
      'contracts/',
      'core/',
      'server/services/',
      'server/repo/',
      'server/platform/',
      'server/lab/',
      'server/heavy/',
    ]),
    layer('devices-are-answered-by-services', 'server/bootstrap/', [
      'contracts/',
      'core/',
      'server/bootstrap/',
      'server/services/',
      'server/platform/',
    ]),
    // What runs in threads of its own knows no database and no request.
    layer('heavy-is-pure', 'server/heavy/', [
      'contracts/',
      'core/',
      'server/heavy/',
      'server/platform/csv.ts',
    ]),
    layer('jobs-call-services', 'server/jobs/', [
      'contracts/',
      'core/',
      'server/jobs/',
      'server/services/',
      'server/platform/',
    ]),
    layer('repo-holds-sql', 'server/repo/', [
      'contracts/',
      'core/',
      'server/db/',
      'server/platform/database.ts',
      'server/platform/scope.ts',
    ]),
    {
      name: 'sql-only-in-repo',
      severity: 'error',
      from: {
        path: at('server/'),
        pathNot: [
          at('server/(repo|db)/'),
          at('server/platform/(database|news)\\.ts'),
          at('server/plugins/2\\.start\\.ts'),
        ],
      },
      to: { path: 'node_modules/(drizzle-orm|postgres)/' },
    },
    {
      name: 'workers-no-vue',
      severity: 'error',
      from: { path: at('app/workers/') },
      to: { path: ['node_modules/(vue|pinia|vuetify)/', at('app/(stores|components|pages|composables)/')] },
    },
    {
      name: 'no-orphan-server-in-core',
      severity: 'error',
      from: { path: at('(core|contracts)/'), pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: ['\\.nuxt', '\\.output'] },
    tsPreCompilationDeps: true,
    tsConfig: {
      fileName: process.env.CANARY ? 'tests/boundaries/canary/tsconfig.json' : 'tsconfig.base.json',
    },
    enhancedResolveOptions: {
      extensions: ['.ts', '.vue', '.js', '.mjs', '.json'],
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'node', 'default'],
    },
  },
}
