// The layers of docs/architecture.md as rules: arrows point down only.
/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/src' },
      to: { path: ['^(aircraft|server|standin|cli|web)/', 'react', 'express'] },
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
      name: 'aircraft-stands-on-core',
      severity: 'error',
      from: { path: '^aircraft/src' },
      to: { path: '^(server|standin|cli|web)/' },
    },
    {
      name: 'web-stands-on-core',
      severity: 'error',
      from: { path: '^web/src' },
      to: { path: '^(aircraft|server|standin|cli)/' },
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
      name: 'features-do-not-meet',
      severity: 'error',
      from: { path: '^web/src/features/([^/]+)/' },
      to: { path: '^web/src/features/([^/]+)/', pathNot: '^web/src/features/$1/' },
    },
    {
      name: 'only-the-shell-knows-features',
      severity: 'error',
      from: { path: '^web/src/', pathNot: '^web/src/(app|features)/' },
      to: { path: '^web/src/features/' },
    },
    {
      name: 'features-stand-below-the-shell',
      severity: 'error',
      from: { path: '^web/src/', pathNot: '^web/src/app/' },
      to: { path: '^web/src/app/(router|main|shell|trouble)' },
    },
    {
      name: 'ui-and-charts-know-no-run-of-their-own',
      severity: 'error',
      from: { path: '^web/src/(ui|charts/[^/]+$)' },
      to: { path: '^web/src/(run|charts/live)/' },
    },
    {
      name: 'platform-is-the-floor',
      severity: 'error',
      from: { path: '^web/src/platform/' },
      to: { path: '^web/src/(ui|charts|app|features|run)/' },
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
