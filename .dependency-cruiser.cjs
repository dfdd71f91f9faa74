/** The import walls: a folder imports only lower ranks, and folders of one rank never import each other. */
const core = 'packages/core/src';

/** Ranks of the core's folders; the entries beside them stand above all. */
const CORE_RANKS = [
  ['units', 'numeric'],
  ['model'],
  ['cells', 'loads', 'conductors', 'stages', 'design'],
  ['plant'],
  ['solver'],
  ['sizing'],
  ['checks', 'io', 'words', 'demo'],
];

/** Each folder may reach itself and every lower rank. */
const rankRules = CORE_RANKS.flatMap((rank, k) =>
  rank.map((folder) => {
    const below = CORE_RANKS.slice(0, k).flat();
    const allowed = [folder, ...below].join('|');
    return {
      name: `${folder}-rank`,
      severity: 'error',
      from: { path: `^${core}/${folder}/`, pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/', pathNot: `^${core}/(${allowed})/` },
    };
  }),
);

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...rankRules,
    {
      name: 'every-folder-has-a-rank',
      severity: 'error',
      from: { path: `^${core}/`, pathNot: `^${core}/((${CORE_RANKS.flat().join('|')})/|[a-z]+\\.ts$)` },
      to: {},
    },
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
      to: { path: '^packages/(web|core|cli)' },
    },
    {
      name: 'dexie-only-in-storage',
      severity: 'error',
      from: {
        path: '^packages/web/src',
        pathNot: 'src/(storage|app/ThreadFrame|app/FindAnything|views/shelf/ShelfView)',
      },
      to: { path: 'node_modules/dexie' },
    },
    {
      name: 'antd-only-in-app-and-views',
      severity: 'error',
      from: { path: '^packages/web/src/(drawing|charts|document|storage|workers|format)' },
      to: { path: 'node_modules/(antd|@ant-design)' },
    },
    {
      name: 'drawing-is-geometry',
      severity: 'error',
      from: { path: '^packages/web/src/drawing', pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/web/src/(views|storage|document|workers)' },
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
