/** What may import what: docs/architecture.md draws the same law. */
const S = '^src/lib/server';
const only = (name, from, allowed, comment) => ({
  name,
  severity: 'error',
  comment,
  from: { path: from, pathNot: '\\.test\\.ts$' },
  to: { path: '^(src|standin|demo|scripts|tests)', pathNot: [from, ...allowed] }
});

module.exports = {
  forbidden: [
    {
      name: 'no-cycles',
      severity: 'error',
      // A tree is drawn by a component that contains itself.
      from: { pathNot: '^src/lib/ui/rule/(ConditionTree|StepList)\\.svelte$' },
      to: { circular: true }
    },
    only('core-is-pure', '^src/lib/core', [], 'The core imports the core, and Temporal at its edges.'),
    {
      name: 'core-packages',
      severity: 'error',
      from: { path: '^src/lib/core', pathNot: '\\.test\\.ts$' },
      to: { path: 'node_modules|^node:', pathNot: 'node_modules/temporal-polyfill' }
    },
    only('view', '^src/lib/view', ['^src/lib/core'], 'View models know the core.'),
    only('worker', '^src/lib/worker', ['^src/lib/(core|view)'], 'The worker runs the core for the editor.'),
    only('ui', '^src/lib/ui', ['^src/lib/view', '^src/lib/core'], 'Components get props and give events.'),
    only('schema', `${S}/schema`, ['^src/lib/core'], 'Schemas know the core and Joi.'),
    only('db', `${S}/db`, ['^src/lib/core'], 'The database knows nobody.'),
    only('store', `${S}/store`, [`${S}/db`, '^src/lib/core'], 'Stores know the database and the core.'),
    only(
      'engine',
      `${S}/(engine|outbox)`,
      [`${S}/store`, `${S}/db`, `${S}/channel/channel`, '^src/lib/core'],
      'The engine knows stores, core, the clock and the port of channels.'
    ),
    only('channel', `${S}/channel`, ['^src/lib/core'], 'A channel knows a message and its way.'),
    only(
      'import',
      `${S}/import`,
      [`${S}/(store|schema)`, '^src/lib/core'],
      'Import turns files into what the services take.'
    ),
    only(
      'auth',
      `${S}/auth`,
      [`${S}/(store|schema|db|engine/clock)`, '^src/lib/core'],
      'Sign-in knows its store.'
    ),
    only(
      'service',
      `${S}/service`,
      [`${S}/(store|db|engine|outbox|schema|import|export|auth|container)`, '^src/lib/(core|view)'],
      'Services own the transactions.'
    ),
    only(
      'tryout',
      `${S}/tryout`,
      [`${S}/(db|engine/clock|schema|service|store/list-query|threads|container)`, '^src/lib/core'],
      'What is tried out is asked of services, over a copy.'
    ),
    only(
      'threads',
      `${S}/threads`,
      [`${S}/(db|engine/(turn|facts-source)|import|service|store/all|tryout|container)`, '^src/lib/core'],
      'A thread does what services and imports give it to do.'
    ),
    only(
      'routes',
      '^src/(routes|hooks)',
      [
        `${S}/(service|container|schema|auth|options|web|import/(columns|decode|interpret))`,
        '^src/lib/(view|ui|core|worker)',
        '^src/styles'
      ],
      'Routes parse, ask a service, and show.'
    ),
    only(
      'cli',
      '^src/cli',
      [`${S}/(container|schema)`, '^src/lib/core', '^scripts/typescript'],
      'The command line knows the container, the schemas and the core.'
    ),
    only(
      'demo',
      '^demo',
      [`${S}/(container|options|schema|service)`, '^src/lib/core'],
      'The demo uses the product as anybody does.'
    ),
    only('standin', '^standin', [], 'A stand-in stands for somebody else’s server.'),
    {
      name: 'nobody-imports',
      severity: 'error',
      comment: 'Nothing of the product knows its routes, demo, tests or stand-ins.',
      from: { path: '^src/lib' },
      to: { path: '^(src/routes|demo|tests|standin|scripts)' }
    }
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\$types|\\.svelte-kit|\\$app' },
    enhancedResolveOptions: {
      extensions: ['.ts', '.js', '.mjs', '.svelte', '.json'],
      exportsFields: ['exports'],
      conditionNames: ['svelte', 'import', 'node', 'default']
    }
  }
};
