/** Imports go down only: app → contract → core; server → contract → core. Features meet in routes and pages. */
const only = (name, from, to, comment) => ({ name, severity: 'error', comment, from: { path: from, pathNot: '\\.test\\.tsx?$' }, to })

/**
 * The server's subjects, each with the ones it may ask; what shows two of them side by side is composed in pages.
 * A subject that is not named here asks nobody.
 */
const ASKS = {
  wear: ['records'],
  facts: ['photo', 'records', 'times', 'wear'],
  round: ['records', 'facts', 'times', 'travel', 'wear'],
  photo: ['records'],
  times: ['records', 'wear'],
  visit: ['facts', 'times'],
  van: ['facts', 'round', 'times'],
  disinfection: ['facts'],
  catalogue: ['records', 'wear'],
  intake: ['facts', 'records', 'wear'],
  firm: ['records', 'wear'],
  export: ['records'],
  begin: ['firm', 'records', 'times'],
  site: ['records', 'train', 'wear'],
  travel: ['records'],
  telemetry: ['wear'],
  train: ['wear'],
  year: ['round', 'times', 'travel'],
}
/** The core's folders from the lowest up: each knows only those before it. */
const CORE = [
  'units',
  'records',
  'schedule',
  'readings',
  'catalogue',
  'train',
  'wear',
  'firm',
  'disinfection',
  'visit',
  'job',
  'intake',
  'round',
  'year',
]
const coreOrder = CORE.map((name, at) =>
  only(
    `core-${name}`,
    `^packages/core/src/${name}/`,
    { path: `^packages/core/src/(${CORE.slice(at + 1).join('|') || 'none'})/` },
    `In the core ${name} stands below ${CORE.slice(at + 1).join(', ') || 'nothing'}.`,
  ),
)
const subjects = (names) => `^apps/server/src/features/(${names.join('|')})/`
const serverSubjects = [
  ...Object.entries(ASKS).map(([name, asks]) =>
    only(
      `server-${name}`,
      subjects([name]),
      { path: '^apps/server/src/(features|pages)/', pathNot: subjects([name, ...asks]) },
      `The subject ${name} asks only ${asks.join(', ')}.`,
    ),
  ),
  only(
    'server-other-subjects',
    `^apps/server/src/features/(?!(?:${Object.keys(ASKS).join('|')})/)([^/]+)/`,
    { path: '^apps/server/src/(features|pages)/', pathNot: '^apps/server/src/features/$1/' },
    'A subject asks nobody unless it is said here.',
  ),
]

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    only(
      'core-stands-alone',
      '^packages/core/',
      { pathNot: '^packages/core/' },
      'The core imports nothing but itself: no interface, no I/O, no packages.',
    ),
    ...coreOrder,
    only(
      'simulator-is-no-model',
      '^packages/core/src/simulate/',
      { path: '^packages/core/src/', pathNot: '^packages/core/src/(simulate/|catalogue/|train/types)' },
      'The simulator shares no code with the models it judges.',
    ),
    only(
      'contract-on-core',
      '^packages/contract/',
      { pathNot: ['^packages/(core|contract)/', 'node_modules/zod/'] },
      'The contract knows the core and Zod.',
    ),
    only('server-below-app', '^apps/server/', { path: '^apps/app/' }, 'The server knows nothing of the app.'),
    only(
      'app-has-only-the-type',
      '^apps/app/',
      { path: '^apps/server/', pathNot: '^apps/server/src/api-type\\.ts$' },
      'The app sees the server as a type only.',
    ),
    {
      name: 'api-type-is-a-type',
      severity: 'error',
      from: { path: '^apps/app/' },
      to: { path: '^apps/server/', dependencyTypesNot: ['type-only'] },
    },
    only(
      'app-features-apart',
      '^apps/app/src/features/([^/]+)/',
      { path: '^apps/app/src/features/', pathNot: '^apps/app/src/features/$1/' },
      'What two features share moves to parts, ui, data or the core.',
    ),
    ...serverSubjects,
    only(
      'server-below-subjects',
      '^apps/server/src/(db|time|http|auth|mail)/',
      { path: '^apps/server/src/(features|pages|background|demo)/' },
      'Tables, time, HTTP and sign-in know no subject.',
    ),
    only('db-lowest', '^apps/server/src/(db|time)/', { path: '^apps/server/src/(http|auth)/' }, 'Tables and time know no request.'),
    only(
      'http-below-auth',
      '^apps/server/src/http/',
      { path: '^apps/server/src/auth/' },
      'Sign-in answers requests, not the other way round.',
    ),
    only('parts-below-features', '^apps/app/src/parts/', { path: '^apps/app/src/(features|app)/' }, 'Parts know no screen.'),
    only('data-below-parts', '^apps/app/src/data/', { path: '^apps/app/src/(features|app|parts|ui)/' }, 'Data knows no interface.'),
    only(
      'ui-knows-no-subject',
      '^apps/app/src/ui/',
      { path: '^apps/app/src/(features|app|parts|data)/' },
      'The design system knows no subject.',
    ),
    { name: 'no-server-code-in-contract', severity: 'error', from: { path: '^packages/' }, to: { path: '^apps/' } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|\\.expo|\\.build)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.cjs', '.json'],
    },
  },
}
