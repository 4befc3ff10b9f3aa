/**
 * Which code may know which. Run by `npm run lint` and `npm test`; types count as much as values. Which package may
 * import which is in eslint.config.js.
 */

/** The folders of packages/core/src, lowest first: each may import those above it in this list. Drawn in its README. */
export const CORE_LAYERS = [
  'memoize',
  'texts',
  'bounds',
  'html',
  'rights',
  'copies',
  'doctor',
  'insert',
  'reach',
  'facts',
  'fields',
  'snapshot',
  'order',
  'edit',
  'release',
  'history',
  'plan',
  'deliver',
  'contain',
  'policy',
  'survey',
  'recipes',
  'visit',
  'verify',
  'watch',
  'comments',
  'preview',
  'pick',
  'checks',
];

/** The same of packages/server/src. `service.ts` puts them together. */
export const SERVER_LAYERS = [
  'language',
  'texts',
  'storage',
  'outgoing',
  'reading',
  'pages',
  'survey',
  'auth',
  'verify',
  'visits',
  'site',
  'preview',
  'jobs',
  'http',
  'routes',
];

/** A rule for each layer but the highest: what is higher is not to be known. */
function layerRules(root, layers) {
  return layers.slice(0, -1).map((layer, index) => {
    const higher = layers.slice(index + 1);
    return {
      name: `${root.split('/')[1]}-${layer}-looks-up`,
      comment: `${root}/${layer} is below ${higher.join(', ')}: move what both need down, or hand it in.`,
      severity: 'error',
      from: { path: `^${root}/${layer}/` },
      to: { path: `^${root}/(?:${higher.join('|')})/` },
    };
  });
}

const CORE = 'packages/core/src';
const SERVER = 'packages/server/src';

export default {
  forbidden: [
    {
      name: 'no-circle',
      comment:
        'Files that need each other are one file, or something of one belongs into a third below both.',
      severity: 'error',
      from: { path: '^packages/[^/]+/src/' },
      to: { circular: true },
    },
    ...layerRules(CORE, CORE_LAYERS),
    ...layerRules(SERVER, SERVER_LAYERS),
    {
      name: 'route-knows-route',
      comment: 'What two routes need is a use case: it belongs into site.',
      severity: 'error',
      from: { path: `^${SERVER}/routes/`, pathNot: `^${SERVER}/routes/index\\.ts$` },
      to: { path: `^${SERVER}/routes/` },
    },
    {
      name: 'table-outside-storage',
      comment:
        'Only storage sees tables: write what is asked as one of its functions, which takes a Store and gives rows.',
      severity: 'error',
      from: { path: `^${SERVER}/`, pathNot: `^${SERVER}/storage/` },
      to: { path: `^${SERVER}/storage/(?:entities/|em\\.ts$)` },
    },
    {
      name: 'answer-made-below-http',
      comment: 'Only http knows how an error is answered: throw a ServiceError.',
      severity: 'error',
      from: { path: `^${SERVER}/`, pathNot: `^${SERVER}/(?:http/|service\\.ts$|index\\.ts$)` },
      to: { path: `^${SERVER}/http/problems\\.ts$` },
    },
    {
      name: 'core-folder-without-layer',
      comment:
        'Every folder of core has its place in CORE_LAYERS (.dependency-cruiser.mjs) and in its README.',
      severity: 'error',
      from: { path: `^${CORE}/`, pathNot: `^${CORE}/(?:index\\.ts$|(?:${CORE_LAYERS.join('|')})/)` },
      to: {},
    },
    {
      name: 'barrel-from-inside',
      comment: 'A barrel is for the outside: inside a folder import the file.',
      severity: 'error',
      from: { path: `^${CORE}/([^/]+)/`, pathNot: `^${CORE}/([^/]+)/index\\.ts$` },
      to: { path: `^${CORE}/$1/index\\.ts$` },
    },
  ],
  options: {
    doNotFollow: { path: ['node_modules', '/dist/'] },
    exclude: { path: ['node_modules', '/dist/'] },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.js'] },
  },
};
