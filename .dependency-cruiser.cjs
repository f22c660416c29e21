/** Who may import whom (see docs/architecture.md). Checked in every test run. */
const forbid = (name, from, to, comment) => ({ name, severity: 'error', comment, from, to });

module.exports = {
  forbidden: [
    forbid(
      'no-circles',
      {},
      { circular: true },
      'A circle means that two things are one, or one is in the wrong room.',
    ),
    forbid(
      'core-is-pure',
      { path: '^core/src' },
      { path: '^(limits|journal|store|reader|cli|demo|web|ops)/' },
      'The core imports nothing of ours.',
    ),
    forbid(
      'core-knows-no-node',
      { path: '^core/src' },
      { dependencyTypes: ['core'] },
      'No Node built-ins in the core.',
    ),
    forbid(
      'core-knows-no-screen',
      { path: '^core/src' },
      { path: 'node_modules/(react|next|@mui|konva|drizzle-orm|pg|zustand)' },
      'No interface or database in the core.',
    ),
    forbid(
      'core-by-its-entries',
      { path: '^(store|reader|cli|demo|web|ops)/' },
      { path: '^core/src/', pathNot: '^core/src/[a-z]+/index[.]ts$' },
      'The core is used through its named entries only.',
    ),
    forbid(
      'units-first',
      { path: '^core/src/(units|texts)' },
      { path: '^core/src/(?!units|texts)' },
      'units and texts import nothing.',
    ),
    forbid(
      'geometry-on-units',
      { path: '^core/src/geometry' },
      { path: '^core/src/(?!units|geometry)' },
      'geometry stands on units.',
    ),
    forbid(
      'kinds-low',
      { path: '^core/src/kinds' },
      { path: '^core/src/(?!units|texts|geometry|kinds)' },
      'kinds stand on units, texts and geometry.',
    ),
    forbid(
      'model-below-building',
      { path: '^core/src/model' },
      { path: '^core/src/(building|exchange|snapping)' },
      'building and exchange stand on the model.',
    ),
    forbid(
      'linework-low',
      { path: '^core/src/linework' },
      { path: '^core/src/(?!units|texts|geometry|linework)' },
      'linework stands on units and geometry.',
    ),
    forbid(
      'ink-low',
      { path: '^core/src/ink' },
      { path: '^core/src/(?!units|geometry|linework|ink)' },
      'ink stands on units, geometry and linework.',
    ),
    forbid(
      'stages-apart',
      { path: '^web/src/stages/([^/]+)/' },
      { path: '^web/src/stages/', pathNot: '^web/src/stages/$1/' },
      'Stages never import each other.',
    ),
    forbid(
      'stages-below-shell',
      { path: '^web/src/stages/' },
      { path: '^web/src/(app|shell|server)/' },
      'Stages know nothing of what is around them.',
    ),
    forbid(
      'table-knows-no-stages',
      { path: '^web/src/table/' },
      { path: '^web/src/(app|shell|stages|server|ui)/' },
      'The surface knows no panels.',
    ),
    forbid(
      'table-without-react',
      { path: '^web/src/table/', pathNot: 'context[.]tsx$' },
      { path: 'node_modules/(react|@mui)' },
      'No React state inside the surface.',
    ),
    forbid(
      'project-low',
      { path: '^web/src/project/' },
      { path: '^web/src/(app|shell|stages|server|ui|table)/' },
      'The store knows no panels.',
    ),
    forbid(
      'server-apart',
      { path: '^web/src/(project|table|stages|shell|ui|workers)/' },
      { path: '^web/src/server/' },
      'Server code stays on the server.',
    ),
    forbid(
      'reader-and-web-apart',
      { path: '^reader/' },
      { path: '^(web|cli|demo|ops)/' },
      'The reader stands alone.',
    ),
    forbid(
      'web-and-reader-apart',
      { path: '^web/' },
      { path: '^(reader|cli|demo|ops)/' },
      'The web server never reads files itself.',
    ),
    forbid(
      'journal-alone',
      { path: '^journal/' },
      { path: '^(core|limits|store|reader|web|cli|demo|ops)/' },
      'The journal knows nothing of what is written in it.',
    ),
    forbid(
      'limits-alone',
      { path: '^limits/' },
      { path: '^(core|journal|store|reader|web|cli|demo|ops)/' },
      'Limits know nothing of what is held within them.',
    ),
    forbid(
      'store-low',
      { path: '^store/' },
      { path: '^(reader|web|cli|demo|ops)/' },
      'The store stands on the core alone.',
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(\\.next|\\.build)/' },
    tsPreCompilationDeps: true,
    combinedDependencies: true,
    tsConfig: { fileName: 'tsconfig.rules.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
  },
};
