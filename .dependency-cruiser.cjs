/**
 * The levels of the code: a folder imports only those before it on its line. No circles, of files or of folders.
 * docs/architecture.md draws them.
 */
const levels = [
  [
    'core/colour',
    'core/kernels',
    'core/settings',
    'core/formats',
    'core/frame',
    'core/masks',
    'core/steps',
    'core/treatment',
    'core/engine',
    'core/analysis',
    'core/methods',
  ],
  [
    'core',
    'words',
    'contract',
    'server/pictures',
    'server/sheets',
    'server/render',
    'server/data',
    'server/jobs',
    'server/api',
  ],
  [
    'core',
    'words',
    'contract',
    'web/app',
    'web/ui',
    'web/out',
    'web/engine',
    'web/takes',
    'web/print',
    'web/compare',
    'web/controls',
    'web/teststrip',
    'web/tools',
    'web/areas',
    'web/frame',
    'web/trays',
    'web/boards',
    'web/laying',
    'web/states',
    'web/panel',
    'web/tinting',
    'web/methods',
    'web/bench',
  ],
];

/** Of these none uses another of its line. */
const beside = [
  ['web/tools', 'web/areas', 'web/frame', 'web/trays', 'web/boards', 'web/laying', 'web/states'],
  ['web/shelf', 'web/sheet', 'web/bench', 'web/sendout', 'web/reference'],
];

const escaped = folder => folder.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
const within = folders => `^(${folders.map(escaped).join('|')})/`;
const tests = '\\.(test|spec)\\.tsx?$|/testing/';

module.exports = {
  forbidden: [
    {
      name: 'no-circle',
      comment: 'A circle of files cannot be read from one end.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    ...beside.flatMap(line =>
      line.map(folder => ({
        name: `beside ${folder}`,
        comment: `${folder} knows nothing of what stands beside it.`,
        severity: 'error',
        from: { path: within([folder]), pathNot: tests },
        to: { path: within(line.filter(other => other !== folder)) },
      })),
    ),
    ...levels.flatMap(line =>
      line.slice(0, -1).map((folder, i) => ({
        name: `level of ${folder}`,
        comment: `${folder} uses only what stands below it.`,
        severity: 'error',
        from: { path: within([folder]), pathNot: tests },
        to: { path: within(line.slice(i + 1)) },
      })),
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)node_modules/|core/kernels/assembly/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
  },
};
