/**
 * Arrows point downward only, over resolved paths, types too: core knows nothing above it, plan knows core, screens reach the store through
 * route handlers. No circles. `src/cli/layers.test.ts` holds probes that must be refused.
 */
const LAYERS = '^src/(app|cli|features|front|plan|server|ui)/'
const SCREENS =
  'node_modules/(react|react-dom|next|radix-ui|@radix-ui|cmdk|comlink|lucide-react|recharts|zustand|idb)(/|$)'
const STORE = 'node_modules/@electric-sql(/|$)'

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
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
      to: { path: '^src/(app|cli|features|front|server|ui)/' },
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
    { name: 'controls-know-no-station', severity: 'error', from: { path: '^src/ui/' }, to: { path: '^src/features/' } },
    {
      name: 'the-server-knows-no-screen',
      severity: 'error',
      from: { path: '^src/server/', pathNot: '[.]test[.]ts$' },
      to: { path: ['^src/(app|cli|front|ui|features)/', SCREENS] },
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
      from: { pathNot: '[.]test[.]tsx?$' },
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
