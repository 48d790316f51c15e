/**
 * Arrows point downward only, over resolved paths, types too: core knows nothing above it, plan knows core, screens reach the store through
 * route handlers. No circles. `src/cli/layers.long.test.ts` holds probes that must be refused.
 */
const LAYERS = '^src/(app|cli|features|front|offline|plan|server|ui)/'
const SCREENS =
  'node_modules/(react|react-dom|next|radix-ui|@radix-ui|cmdk|comlink|lucide-react|recharts|zustand|idb)(/|$)'
const STORE = 'node_modules/(@electric-sql|pg)(/|$)'

/**
 * Floors of src/plan, from the ground up: a folder (or a file of plan's own) imports from those before it alone. This is the one place that
 * says so; a new folder has to find its place here.
 */
const FLOORS = [
  'document', // what a build is, its limits, words for its figures
  'files', // tables as text
  'drawing', // lines and boxes to scale
  'catalogue', // what there is to fit, and what builds parts of it
  'edit',
  'schools',
  'model', // what the core is given and gives back
  'bay',
  'service', // forecast and learning
  'recordings', // files of loggers
  'verdicts',
  'analyse.ts',
  'analyse-over-cycle.ts',
  'fit',
  'explain', // workings
  'faults',
  'studies', // many plans worked out: map, ranges, comparison, ranking
  'finder', // from a complaint to the fault
  'proposals', // thousands tried
  'practice', // lessons and hunts on cars that are not there
]
const floorPath = (name) => `^src/plan/${name.replace('.', '[.]')}${name.endsWith('.ts') ? '$' : '/'}`
const floorRules = FLOORS.slice(0, -1).map((name, k) => ({
  name: `plan-floor-${name.replace('.ts', '')}`,
  severity: 'error',
  from: { path: floorPath(name), pathNot: '[.]test[.]ts$' },
  to: { path: FLOORS.slice(k + 1).map(floorPath) },
}))

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    ...floorRules,
    {
      name: 'plan-has-no-other-floor',
      severity: 'error',
      from: { path: '^src/plan/', pathNot: [...FLOORS.map(floorPath), '[.]test[.]ts$', '^src/plan/testing[.]ts$'] },
      to: {},
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'nothing-unresolved', severity: 'error', from: {}, to: { couldNotResolve: true } },
    { name: 'core-knows-no-layer', severity: 'error', from: { path: '^src/core/' }, to: { path: LAYERS } },
    {
      name: 'core-computes-alone',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '[.]test[.]ts$' },
      to: { path: 'node_modules/' },
    },
    {
      name: 'plan-knows-core-alone',
      severity: 'error',
      from: { path: '^src/plan/' },
      to: { path: '^src/(app|cli|features|front|offline|server|ui)/' },
    },
    {
      name: 'core-and-plan-run-anywhere',
      severity: 'error',
      from: { path: '^src/(core|plan)/', pathNot: '[.]test[.]ts$' },
      to: { path: [SCREENS, STORE] },
    },
    {
      name: 'core-and-plan-without-node',
      severity: 'error',
      from: { path: '^src/(core|plan)/', pathNot: '[.]test[.]ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'screens-reach-the-store-by-routes',
      severity: 'error',
      from: { path: '^src/(ui|features)/' },
      to: { path: ['^src/(server|front|app|cli)/', STORE] },
    },
    {
      name: 'what-runs-beside-the-pages-knows-none',
      severity: 'error',
      from: { path: '^src/offline/worker/' },
      to: { path: ['^src/(?!offline/worker/)', SCREENS] },
    },
    {
      name: 'what-is-kept-knows-no-station',
      severity: 'error',
      from: { path: '^src/offline/' },
      to: { path: ['^src/(app|cli|features|front|server)/', STORE] },
    },
    { name: 'controls-know-no-station', severity: 'error', from: { path: '^src/ui/' }, to: { path: '^src/features/' } },
    {
      name: 'the-server-knows-no-screen',
      severity: 'error',
      from: { path: '^src/server/', pathNot: '[.]test[.]ts$' },
      to: { path: ['^src/(app|cli|front|offline|ui|features)/', SCREENS] },
    },
    // checks against the world outside are run by commands, and know none
    {
      name: 'checks-know-no-command',
      severity: 'error',
      from: { path: '^verification/' },
      to: { path: '^src/(app|cli|features|front|offline|server|ui)/' },
    },
    {
      name: 'the-front-is-handed-pages',
      severity: 'error',
      from: { path: '^src/front/', pathNot: '[.]test[.]ts$' },
      to: { path: ['^src/(app|cli|plan|core|ui|features)/', STORE] },
    },
    {
      name: 'test-helpers-are-for-tests',
      severity: 'error',
      from: { pathNot: ['[.]test[.]tsx?$', '/testing[.]ts$'] },
      to: { path: '^src/plan/testing[.]ts$' },
    },
  ],
  options: {
    parser: 'tsc',
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '[.]css$' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
}
