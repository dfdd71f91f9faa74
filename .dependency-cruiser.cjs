/**
 * The import walls, from one table of ranks a package: a folder imports only lower ranks, and folders of one rank never
 * import each other. Views are of one rank: none imports another.
 */
const RANKS = {
  'packages/core/src': [
    ['units', 'numeric'],
    ['model'],
    ['cells', 'loads', 'conductors', 'stages', 'design', 'transients', 'body', 'logs'],
    ['charging'],
    ['plant'],
    ['run'],
    ['sizing', 'backup', 'belief'],
    ['bench'],
    ['checks', 'io', 'words', 'demo'],
  ],
  // Whatever lies beside these folders is made of them: runs for a purpose.
  'packages/core/src/run': [
    ['step'],
    ['account'],
    ['march'],
    ['keepers'],
    ['timeline'],
    ['skip', 'look'],
    ['quick'],
    ['reading'],
  ],
  'packages/web/src': [
    ['tokens', 'storage', 'drawing', 'instruments'],
    ['document', 'jobs'],
    ['atBench'],
    ['kit'],
    ['charts'],
    [
      'views/shelf',
      'views/cells',
      'views/needs',
      'views/path',
      'views/run',
      'views/stage',
      'views/charge',
      'views/outage',
      'views/bench',
    ],
    ['shell'],
  ],
};
const core = 'packages/core/src';

/** Each folder may reach itself and every lower rank of its package. */
const rankRules = Object.entries(RANKS).flatMap(([root, ranks]) => [
  ...ranks.flatMap((rank, k) =>
    rank.map((folder) => ({
      name: `${folder.replace('/', '-')}-rank`,
      severity: 'error',
      from: { path: `^${root}/${folder}/`, pathNot: '\\.test\\.ts$' },
      to: {
        path: `^${root}/`,
        pathNot: `^${root}/(${[folder, ...ranks.slice(0, k).flat()].join('|')})/`,
      },
    })),
  ),
  {
    name: `every-folder-has-a-rank-${root.split('/').slice(1).join('-')}`,
    severity: 'error',
    from: { path: `^${root}/`, pathNot: `^${root}/((${ranks.flat().join('|')})/|[\\w.-]+\\.tsx?$)` },
    to: {},
  },
]);

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...rankRules,
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: `^${core}`, pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/', pathNot: `^${core}` },
    },
    {
      name: 'core-packages',
      comment: 'The core depends on nothing but validation.',
      severity: 'error',
      from: { path: `^${core}`, pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev', 'core'],
        pathNot: 'class-validator',
      },
    },
    {
      name: 'web-never-server',
      severity: 'error',
      from: { path: '^packages/web' },
      to: { path: '^packages/(server|cli)' },
    },
    {
      name: 'cli-only-core',
      severity: 'error',
      from: { path: '^packages/cli' },
      to: { path: '^packages/(web|server)' },
    },
    {
      name: 'server-stands-alone',
      severity: 'error',
      from: { path: '^packages/server' },
      to: { path: '^packages/(web|cli)' },
    },
    {
      name: 'dexie-only-in-storage',
      severity: 'error',
      from: {
        path: '^packages/web/src',
        pathNot: 'src/(storage|shell/Frame|shell/FindAnything|views/shelf/ShelfView)',
      },
      to: { path: 'node_modules/dexie' },
    },
    {
      name: 'antd-only-where-it-shows',
      severity: 'error',
      from: { path: '^packages/web/src/(tokens|drawing|charts|document|storage|jobs)' },
      to: { path: 'node_modules/(antd|@ant-design)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: ['/dist/', '/test/'] },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
};
