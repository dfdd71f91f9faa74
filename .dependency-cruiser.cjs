/** The import walls. Core layers import only lower ranks; the interface never reaches the server. */
const core = 'packages/core/src';
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.ts$' },
  to: { path: 'packages/', pathNot: [from, ...allowed] },
});
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    only('core-stands-alone', `^${core}`, []),
    {
      name: 'core-packages',
      comment: 'The core depends on nothing but validation.',
      severity: 'error',
      from: { path: `^${core}`, pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev', 'core'],
        pathNot: 'class-validator|class-transformer|reflect-metadata',
      },
    },
    only('units-know-nothing', `^${core}/units`, []),
    only('numeric-knows-nothing', `^${core}/numeric`, []),
    only('model-below-physics', `^${core}/model`, [`^${core}/(units|numeric)`]),
    only('conductors-rank', `^${core}/conductors`, [`^${core}/(units|numeric|model)`]),
    only('cells-rank', `^${core}/cells`, [`^${core}/(units|numeric|model)`]),
    only('loads-rank', `^${core}/loads`, [`^${core}/(units|numeric|model)`]),
    only('stages-rank', `^${core}/stages`, [`^${core}/(units|numeric|model)`]),
    only('pack-rank', `^${core}/pack`, [`^${core}/(units|numeric|model|cells|conductors)`]),
    only('solver-rank', `^${core}/solver`, [
      `^${core}/(units|numeric|model|cells|conductors|loads|stages|pack)`,
    ]),
    only('sizing-rank', `^${core}/sizing`, [
      `^${core}/(units|numeric|model|cells|conductors|loads|stages|pack|solver)`,
    ]),
    {
      name: 'solver-below-clients',
      severity: 'error',
      from: { path: `^${core}/(sizing|solver|pack|stages|cells|loads|conductors|model|numeric|units)` },
      to: { path: `^${core}/(checks|io|demo|index)` },
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
