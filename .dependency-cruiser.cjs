// Layers. A wrong import fails the build.
const core = '^packages/core/src/';
const families = 'packages/families/src/';
/** What each folder of the core may import besides itself and the result type. */
const LAYERS = {
  quantity: [],
  verdict: ['quantity'],
  gauge: ['quantity', 'reckon'],
  trace: ['quantity'],
  advisor: ['quantity'],
  history: ['quantity', 'gauge'],
  formats: [],
  reckon: ['quantity'],
  procedure: ['quantity', 'gauge', 'reckon', 'verdict', 'trace', 'advisor'],
  rig: ['quantity', 'gauge', 'procedure'],
  family: ['quantity', 'gauge', 'verdict', 'trace', 'advisor', 'procedure', 'rig'],
  entries: ['quantity', 'gauge', 'verdict', 'trace', 'advisor', 'procedure', 'rig', 'family'],
  picture: ['quantity', 'gauge', 'procedure', 'family'],
  record: ['quantity', 'gauge', 'verdict', 'procedure', 'history', 'formats', 'family'],
  script: ['entries', 'quantity', 'gauge', 'verdict', 'trace', 'advisor', 'procedure', 'rig', 'family'],
  practice: ['formats', 'entries', 'quantity', 'gauge', 'verdict', 'procedure', 'rig', 'family', 'script'],
};

const layer = ([name, may]) => ({
  name: `core-${name}`,
  severity: 'error',
  comment: `packages/core/src/${name} may import only: ${['itself', ...may].join(', ')}.`,
  from: {
    path: `${core}${name}/`,
    pathNot: ['\\.test\\.ts$', '/testing\\.ts$', '/testing\\.\\w+\\.ts$'],
  },
  to: {
    path: core,
    pathNot: [name, ...may].map((n) => `${core}${n}/`).concat(`${core}(result|version)\\.ts$`),
  },
});

module.exports = {
  forbidden: [
    ...Object.entries(LAYERS).map(layer),
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^packages/core/src/', pathNot: '\\.test\\.ts$' },
      to: { path: ['^apps/', 'node_modules/(?!(@noble/hashes|@noble/ciphers|canonicalize|valibot)/)'] },
    },
    {
      name: 'core-no-node',
      severity: 'error',
      from: { path: '^packages/core/src/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-knows-no-family',
      severity: 'error',
      from: { path: '^packages/core/' },
      to: { path: ['^packages/families/', '^packages/cli/', '^packages/tables/'] },
    },
    {
      name: 'the-contract-is-types-on-the-core-alone',
      severity: 'error',
      from: { path: '^packages/contract/' },
      to: { pathNot: '^packages/(contract|core)/' },
    },
    {
      name: 'tables-stand-on-the-core-and-two-readers',
      severity: 'error',
      from: { path: '^packages/tables/', pathNot: ['\\.test\\.ts$', '/testing\\.ts$'] },
      to: {
        path: [
          '^apps/',
          '^packages/(families|cli|contract)/',
          'node_modules/(?!(papaparse|read-excel-file)/)',
        ],
      },
    },
    {
      name: 'families-stand-on-the-core-alone',
      severity: 'error',
      from: { path: `^${families}`, pathNot: ['\\.test\\.ts$', `^${families}test/`] },
      to: { path: ['^apps/', '^packages/cli/', 'node_modules/'] },
    },
    {
      name: 'families-no-node',
      severity: 'error',
      from: { path: `^${families}`, pathNot: ['\\.test\\.ts$', `^${families}test/`] },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'only-the-registry-names-families',
      comment: 'Elsewhere a family is known by its id alone, and had from the registry.',
      severity: 'error',
      from: {
        path: ['^packages/', '^apps/'],
        pathNot: [`^${families}`, '\\.test\\.tsx?$'],
      },
      to: { path: `^${families}`, pathNot: `^${families}(registry|testing)\\.ts$` },
    },
    {
      name: 'families-do-not-know-each-other',
      severity: 'error',
      from: { path: `^${families}([^/]+)/`, pathNot: `^${families}test/` },
      to: {
        path: `^${families}([^/]+)/`,
        pathNot: [`^${families}$1/`, `^${families}(shared|define)/`],
      },
    },
    {
      name: 'what-families-share-knows-none',
      severity: 'error',
      from: { path: `^${families}(shared|define)/`, pathNot: '\\.test\\.ts$' },
      to: { path: `^${families}([^/]+)/`, pathNot: `^${families}(shared|define)/` },
    },
    { name: 'apps-apart', severity: 'error', from: { path: '^apps/web/' }, to: { path: '^apps/server/' } },
    {
      name: 'apps-apart-too',
      severity: 'error',
      from: { path: '^apps/server/' },
      to: { path: '^apps/web/' },
    },
    {
      name: 'features-keep-their-inside',
      comment:
        'A feature uses another only through the views it shares: the sheet in the work, the history words.',
      severity: 'error',
      from: { path: '^apps/web/src/features/([^/]+)/' },
      to: {
        path: '^apps/web/src/features/([^/]+)/',
        pathNot: ['^apps/web/src/features/$1/', '^apps/web/src/features/sheet/SheetView\\.tsx$'],
      },
    },
    {
      name: 'ui-knows-no-feature',
      severity: 'error',
      from: { path: '^apps/web/src/(ui|sync|live|store|theme|workers|reckoner)/' },
      to: { path: '^apps/web/src/features/' },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: { pathNot: 'node_modules' },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: ['/dist/', '\\.css$'] },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['@firm-needle/source', 'import', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
};
