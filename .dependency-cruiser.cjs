// Which file may know which. docs/architecture.md shows the same order as a picture.

/** The server's rooms, the lowest first: each may import from those before it, none from those after it. */
const SERVER = [
  'config',
  'system',
  'disk',
  'events',
  'db',
  'settings',
  'mounts',
  'metadata',
  'pictures',
  'access',
  'outside',
  'volumes',
  'jobs',
  'readers',
  'frames',
  'ledger',
  'journal',
  'shoots',
  'marks',
  'piles',
  'passes',
  'vocabulary',
  'sidecars',
  'previews',
  'features',
  'takes',
  'copies',
  'moves',
  'bin',
  'duplicates',
  'find',
  'albums',
  'intake',
  'uploads',
  'watch',
  'adopted',
  'handoff',
  'returns',
  'delivery',
  'destinations',
  'gallery',
  'messages',
  'opening',
  'archives',
  'space',
  'record',
  'rebuild',
  'carried',
  'machine',
  'standins',
];

/** The files that stand above all rooms. */
const TOP = 'main|openapi|setup|app\\.module|entities';

const upwards = SERVER.map((room, at) => ({
  name: `server-${room}-imports-downwards`,
  comment: `${room}/ may import only what stands below it; move what both need further down.`,
  severity: 'error',
  from: { path: `^apps/server/src/${room}/` },
  to: {
    path: `^apps/server/src/((${[...SERVER.slice(at + 1)].join('|') || 'nothing'})/|(${TOP})\\.ts$)`,
  },
}));

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      comment: 'Two files that need each other are one, or need a third.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      name: 'a-room-is-in-the-order',
      comment: 'A new folder of the server has a place in the order of .dependency-cruiser.cjs.',
      severity: 'error',
      from: { path: `^apps/server/src/(?!(${SERVER.join('|')})/)[^/]+/` },
      to: {},
    },
    ...upwards,
    {
      name: 'one-way',
      comment: 'web → sending, web → core, server → core; packages → no application.',
      severity: 'error',
      from: { path: '^packages/' },
      to: { path: '^apps/' },
    },
    {
      name: 'web-and-server-apart',
      severity: 'error',
      from: { path: '^apps/web/' },
      to: { path: '^apps/server/' },
    },
    {
      name: 'server-and-web-apart',
      severity: 'error',
      from: { path: '^apps/server/' },
      to: { path: '^apps/web/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules|dist' },
    exclude: { path: '(^|/)(dist|test|fixtures)/|\\.test\\.tsx?$|api\\.d\\.ts$' },
    // Types count: what names another room's class depends on it.
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
  },
};
