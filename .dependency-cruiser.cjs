/** What may import what: docs/architecture.md draws the same law. */
const S = '^src/lib/server';
/** What a person has to do with, each in a room of its own. */
const SUBJECTS =
  'account|calendar|desk|digest|effect|in-out|ladder|message|person|project|record|ringtime|rule|settings|sweep|task|tower|workspace';
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
      comment: 'The core asks no package but Temporal, and nothing of the machine.',
      to: {
        dependencyTypes: [
          'core',
          'npm',
          'npm-dev',
          'npm-optional',
          'npm-peer',
          'npm-no-pkg',
          'npm-unknown',
          'unknown'
        ],
        pathNot: 'node_modules/temporal-polyfill'
      }
    },
    only('view', '^src/lib/view', ['^src/lib/core'], 'View models know the core.'),
    only('worker', '^src/lib/worker', ['^src/lib/(core|view)'], 'The worker runs the core for the editor.'),
    only('ui', '^src/lib/ui', ['^src/lib/view', '^src/lib/core'], 'Components get props and give events.'),
    only('input', `${S}/input`, ['^src/lib/core'], 'Fields of forms know the core and Joi.'),
    only('db', `${S}/db`, ['^src/lib/core'], 'The database knows nobody.'),
    only('store', `${S}/store`, [`${S}/db`, '^src/lib/core'], 'Stores know the database and the core.'),
    only(
      'engine',
      `${S}/(engine|outbox)`,
      [`${S}/store`, `${S}/db`, `${S}/channel/channel`, '^src/lib/core'],
      'The engine knows stores, core, the clock and the port of channels.'
    ),
    only('channel', `${S}/channel`, ['^src/lib/core'], 'A channel knows a message and its way.'),
    only('auth', `${S}/auth`, [`${S}/(store|db|engine/clock)`, '^src/lib/core'], 'Sign-in knows its store.'),
    only(
      'schema',
      `${S}/.+schema\\.ts$`,
      [`${S}/input`, '^src/lib/core'],
      'What comes in is checked before anything else of its subject knows of it.'
    ),
    only(
      'files',
      `${S}/in-out/(read|write)`,
      [`${S}/(store|input|task/schema)`, '^src/lib/core'],
      'A file is turned into what its subject takes, and what is shown into a file.'
    ),
    only(
      'subject',
      `${S}/(${SUBJECTS})/`,
      [`${S}/(store|db|engine|outbox|auth|input|channel/set-up|options)`, '^src/lib/(core|view)'],
      'A subject knows other subjects, and what all of them stand on; nobody who asks it.'
    ),
    only(
      'tryout',
      `${S}/tryout`,
      [
        `${S}/(${SUBJECTS})/`,
        `${S}/(db|engine/clock|outbox/outbox|store/list-query|threads|container|options)`,
        '^src/lib/core'
      ],
      'What is tried out is asked of services, over a copy.'
    ),
    only(
      'threads',
      `${S}/threads`,
      [
        `${S}/(${SUBJECTS})/`,
        `${S}/(db|engine/(turn|facts-source)|store/all|tryout|container|options)`,
        '^src/lib/core'
      ],
      'A thread does what services and files give it to do.'
    ),
    only(
      'web',
      `${S}/web`,
      [`${S}/(${SUBJECTS})/`, `${S}/(auth|input|store/(tasks|people)|tryout/asked)`, '^src/lib/(core|view)'],
      'What every route does alike with a request.'
    ),
    only(
      'routes',
      '^src/routes',
      [
        `${S}/(${SUBJECTS})/`,
        `${S}/(container|options|auth|input|web)`,
        '^src/lib/(view|ui|core|worker)',
        '^src/styles'
      ],
      'Routes parse, ask a service, and show.'
    ),
    only(
      'hooks',
      '^src/hooks',
      [`${S}/(workspace|container|options|auth|web|db)`, '^src/lib/core'],
      'What opens the application, and what is asked of every request.'
    ),
    {
      name: 'wired-once',
      severity: 'error',
      comment: 'Nothing that is wired knows how: only what opens an application imports the container.',
      from: { path: `${S}/(${SUBJECTS}|engine|outbox|store|channel|auth|web)/`, pathNot: '\\.test\\.ts$' },
      to: { path: `${S}/(container\\.ts|wiring/)` }
    },
    only(
      'cli',
      '^src/cli',
      [`${S}/(container|ringtime)`, '^src/lib/core', '^scripts/typescript'],
      'The command line knows the container, how a case is read, and the core.'
    ),
    only(
      'demo',
      '^demo',
      [`${S}/(${SUBJECTS})/`, `${S}/(container|options)`, '^src/lib/core'],
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
    tsConfig: { fileName: 'tsconfig.law.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\$types|\\.svelte-kit|\\$app' },
    enhancedResolveOptions: {
      extensions: ['.ts', '.js', '.mjs', '.svelte', '.json'],
      exportsFields: ['exports'],
      conditionNames: ['svelte', 'import', 'node', 'default']
    }
  }
};
