// The layers of docs/architecture.md as rules: arrows point down only.
/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/src' },
      to: { path: ['^(server|standin|cli|web)/', 'react', 'express'] },
    },
    { name: 'core-has-no-node', severity: 'error', from: { path: '^core/src' }, to: { dependencyTypes: ['core'] } },
    {
      name: 'core-subjects-by-their-door',
      severity: 'error',
      comment: 'another subject is reached through its index.ts',
      from: { path: '^core/src/([^/]+)/' },
      to: { path: '^core/src/([^/]+)/(?!index\\.ts$)', pathNot: '^core/src/$1/' },
    },
    {
      name: 'web-stands-on-core',
      severity: 'error',
      from: { path: '^web/src' },
      to: { path: '^(server|standin|cli)/' },
    },
    {
      name: 'server-stands-on-core',
      severity: 'error',
      from: { path: '^server/src' },
      to: { path: '^(web|standin|cli)/' },
    },
    {
      name: 'standin-stands-on-core',
      severity: 'error',
      from: { path: '^standin/src' },
      to: { path: '^(web|server|cli)/' },
    },
    {
      name: 'cli-stands-on-core',
      severity: 'error',
      from: { path: '^cli/src' },
      to: { path: '^(web|server|standin)/' },
    },
    {
      name: 'views-do-not-meet',
      severity: 'error',
      from: { path: '^web/src/views/([^/]+)/' },
      to: { path: '^web/src/views/([^/]+)/', pathNot: '^web/src/views/$1/' },
    },
    {
      name: 'parts-know-no-view',
      severity: 'error',
      from: { path: '^web/src/(parts|platform)/' },
      to: { path: '^web/src/(views|app/(router|main))' },
    },
    {
      name: 'platform-is-the-floor',
      severity: 'error',
      from: { path: '^web/src/platform/' },
      to: { path: '^web/src/(parts|app|views|run)/' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.mjs', '.js', '.json'],
    },
  },
};
