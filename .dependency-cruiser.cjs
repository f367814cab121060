/** Who may import whom; docs/architecture.md says why. */
const only = (name, from, to) => ({ name, severity: 'error', from: { path: from }, to: { path: to } });

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    only('core-imports-nobody', '^src/core', '^src/(?!core)'),
    {
      name: 'core-is-pure',
      severity: 'error',
      comment:
        'No framework, database or network in core; Zod stands in schema files and platforms only; small pure libraries are named.',
      from: { path: '^src/core', pathNot: '\\.(test|fixture)\\.ts$' },
      to: {
        path: '^(node:|fs|http|net)|node_modules/(?!zod|uuid|date-fns|@date-fns/tz|fastest-levenshtein|papaparse|currency-codes|re2js|safe-regex2|url-template|parse5|liquidjs|@noble/hashes)',
      },
    },
    {
      name: 'snippet-imports-the-engine-only',
      severity: 'error',
      from: { path: '^src/snippet' },
      to: { path: '^src/(?!snippet|core/capture|core/events)' },
    },
    only('overlay-imports-the-snippet', '^src/overlay', '^src/(?!overlay|snippet|core)'),
    only('server-imports-core', '^src/server', '^src/(?!server|core)'),
    {
      name: 'pages-take-services-from-locals',
      severity: 'error',
      from: { path: '^src/(pages|middleware)' },
      to: { path: '^src/server', dependencyTypesNot: ['type-only'] },
    },
    only('views-import-ui-and-core', '^src/views', '^src/(?!views|ui|core)'),
    only('ui-imports-core', '^src/ui', '^src/(?!ui|core)'),
    {
      name: 'islands-carry-no-zod',
      severity: 'error',
      comment:
        'Rules come to the browser without their schemas; core/releases/draft-schema.ts joins both on the server.',
      from: { path: '^src/core/rules', pathNot: '\\.(test|fixture)\\.ts$' },
      to: { path: 'schema|node_modules/zod', dependencyTypesNot: ['type-only'] },
    },
    only('standins-know-nothing-of-avrix', '^standins', '^(src|demo)/'),
    only('avrix-knows-no-standins', '^src', '^(standins|demo)/'),
    only('demo-computes-no-results', '^demo', '^(src|standins)/'),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.js', '.mjs', '.astro'] },
  },
};
