/**
 * Who may enter whom (see docs/architecture.md), checked in every test run. Each room names what it may enter; everything else of ours
 * is closed to it. A room that is not named here may enter nothing.
 */
const CORE = {
  texts: [],
  units: [],
  geometry: ['units'],
  formats: [],
  sections: ['geometry'],
  kinds: ['geometry', 'sections', 'texts', 'units'],
  framing: ['geometry', 'kinds', 'model', 'planes'],
  model: ['geometry', 'kinds', 'papers', 'texts', 'units'],
  planes: ['geometry', 'model'],
  building: ['geometry', 'model', 'units'],
  derive: ['building', 'framing', 'geometry', 'model'],
  linework: ['geometry', 'units'],
  ink: ['geometry', 'linework', 'units'],
  registration: ['geometry'],
  snapping: ['geometry', 'linework'],
  calibration: ['geometry', 'ink', 'linework', 'units'],
  conversion: ['geometry', 'linework', 'model'],
  solids: ['building', 'framing', 'geometry', 'kinds', 'model', 'planes'],
  takeoff: ['building', 'framing', 'geometry', 'kinds', 'model', 'solids'],
  papers: [],
  proposals: ['building', 'geometry', 'linework', 'model', 'units'],
  grade: ['derive', 'geometry', 'linework', 'model', 'proposals', 'takeoff', 'units'],
  part: ['calibration', 'geometry', 'kinds', 'linework', 'model', 'units'],
  forming: ['geometry', 'model', 'part'],
  ready: ['exchange', 'geometry', 'model', 'papers', 'solids', 'units'],
  paper: ['exchange', 'geometry', 'model', 'papers', 'ready', 'units'],
  exchange: [
    'building',
    'takeoff',
    'conversion',
    'formats',
    'framing',
    'geometry',
    'kinds',
    'linework',
    'model',
    'papers',
    'part',
    'planes',
    'solids',
    'texts',
    'units',
  ],
};

/** Rooms of the page; 'core' stands for all of the core, by its named entries. */
const WEB = {
  workers: ['core'],
  project: ['core', 'workers'],
  // The surface knows panels by nothing; of kinds it knows how they are painted (see surface-paints-kinds).
  table: ['core', 'commands', 'kinds', 'project', 'workers'],
  commands: ['core', 'project', 'table'],
  ui: ['core', 'project', 'table'],
  drawing: ['core', 'commands', 'project', 'table', 'workers'],
  kinds: ['core', 'commands', 'drawing', 'project', 'table', 'ui'],
  space: ['core', 'commands', 'project', 'table', 'ui'],
  takeoff: ['core', 'commands', 'project', 'table', 'ui'],
  part: ['core', 'commands', 'drawing', 'kinds', 'project', 'space', 'table', 'ui', 'workers'],
  stages: ['core', 'commands', 'drawing', 'kinds', 'part', 'project', 'table', 'ui', 'workers'],
  shell: [
    'core',
    'commands',
    'drawing',
    'kinds',
    'part',
    'project',
    'space',
    'stages',
    'table',
    'takeoff',
    'ui',
  ],
  server: ['core', 'journal', 'limits', 'store', 'project'],
  app: ['core', 'store', 'project', 'server', 'shell', 'ui'],
};

const PROGRAMS = {
  limits: [],
  journal: [],
  store: ['core', 'limits'],
  reader: ['core', 'journal', 'limits', 'store'],
  cli: ['core', 'limits', 'reader', 'store'],
  demo: ['core', 'reader', 'store'],
  ops: ['journal', 'limits', 'store'],
  attacks: ['core', 'limits', 'reader'],
  bench: ['core'],
};

const pathOf = (name, within) =>
  within && Object.hasOwn(within.rooms, name) ? `${within.folder}/${name}/` : `${name}/src/`;
/** Whatever is ours and not named is closed. */
const room = (folder, rooms, name) => ({
  name: `${folder === '' ? '' : `${folder.split('/')[0]}-`}${name}`,
  severity: 'error',
  comment: `${folder}/${name} may enter ${rooms[name].join(', ') || 'nothing'} of ours.`,
  from: { path: folder === '' ? `^${name}/src/` : `^${folder}/${name}(/|[.])` },
  to: {
    path: `^(${[...Object.keys(PROGRAMS), 'core', 'web'].join('|')})/src/`,
    pathNot: `^(${[folder === '' ? `${name}/src/` : `${folder}/${name}(/|[.])`, ...rooms[name].map((n) => pathOf(n, folder === '' ? null : { folder, rooms }))].join('|')})`,
  },
});
const forbid = (name, from, to, comment) => ({ name, severity: 'error', comment, from, to });

module.exports = {
  forbidden: [
    forbid(
      'no-circles',
      {},
      { circular: true },
      'A circle means that two things are one, or one is in the wrong room.',
    ),
    ...Object.keys(CORE).map((name) => room('core/src', CORE, name)),
    ...Object.keys(WEB).map((name) => room('web/src', WEB, name)),
    ...Object.keys(PROGRAMS).map((name) => room('', PROGRAMS, name)),
    forbid(
      'no-room-without-a-rule',
      {
        path: '^(core|web)/src/',
        pathNot: `^(core/src/(${Object.keys(CORE).join('|')})|web/src/(${Object.keys(WEB).join('|')}))/`,
      },
      { path: '.' },
      'A new room says in this file what it may enter.',
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
      { pathNot: '^core/src' },
      { path: '^core/src/', pathNot: '^core/src/[a-z]+/index[.]ts$' },
      'The core is used through its named entries only.',
    ),
    forbid(
      'stages-apart',
      { path: '^web/src/stages/([^/]+)/' },
      { path: '^web/src/stages/', pathNot: '^web/src/stages/$1/' },
      'Stages never import each other.',
    ),
    forbid(
      'surface-paints-kinds',
      { path: '^web/src/table/' },
      { path: '^web/src/kinds/', pathNot: '^web/src/kinds/painters[.]ts$' },
      'The surface knows of kinds how they are painted, and no more.',
    ),
    forbid(
      'painters-know-the-surface-alone',
      { path: '^web/src/kinds/([^/]+/painter|painters)[.]ts$' },
      { path: '^web/src/(commands|drawing|ui|project)/' },
      'What paints a kind knows no panels and no tools.',
    ),
    forbid(
      'surface-knows-keys',
      { path: '^web/src/table/' },
      { path: '^web/src/commands/', pathNot: '^web/src/commands/keys[.]ts$' },
      'The surface hears keys, and knows no commands.',
    ),
    forbid(
      'table-without-react',
      { path: '^web/src/table/', pathNot: 'context[.]tsx$' },
      { path: 'node_modules/(react|@mui)' },
      'No React state inside the surface.',
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
