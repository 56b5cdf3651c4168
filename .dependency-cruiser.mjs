import { ROOMS as order } from './scripts/rooms.mjs';

/** The rooms of the house and the doors between them: see docs/architecture.md. */

/** Tests and what only they use. */
const TESTS = '\\.test(-kit)?\\.ts$';

export default {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-stands-alone',
      comment: 'The core knows neither the server nor the web app.',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: '^(server|web|e2e|bench)/' },
    },
    {
      name: 'core-is-pure',
      comment: 'No DOM, no Node, no Vue in the core; tests may use their runner.',
      severity: 'error',
      from: { path: '^core/', pathNot: TESTS },
      to: {
        dependencyTypes: ['core', 'npm', 'npm-dev'],
        pathNot:
          'node_modules/(zod|tonal|@tonaljs/.*|immer|midi-file|wavefile|xmlbuilder2|simple-statistics|fft.js|date-fns|fast-xml-parser|d3-shape|d3-path|pdf-lib|@pdf-lib/fontkit|ts-fsrs|papaparse|abcjs|vexflow|ics|fflate|@tombatossals/chords-db)/',
      },
    },
    {
      name: 'writers-stay-out-of-the-browser',
      severity: 'error',
      from: { path: '^(web|core/formats/index)' },
      to: { path: '^core/formats/(files|midi|musicxml|mxl)\\.ts$' },
    },
    {
      name: 'server-and-web-never-meet',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^web/' },
    },
    {
      name: 'web-and-server-never-meet',
      severity: 'error',
      from: { path: '^web/' },
      to: { path: '^server/' },
    },
    {
      name: 'rooms-by-their-doors',
      comment: 'Outside the core nobody reaches past the door of a room.',
      severity: 'error',
      from: { path: '^(server|web|bench|e2e)/' },
      to: {
        path: '^core/',
        pathNot: [
          '^core/[^/]+/index\\.ts$',
          '^core/(formats/files|formats/readers|sheet/engrave|sheet/pdf)\\.ts$',
          '\\.test-kit\\.ts$',
        ],
      },
    },
    {
      name: 'arrange-and-edit-never-meet',
      comment: 'What a song sounds like does not depend on how it was edited.',
      severity: 'error',
      from: { path: '^core/arrange/', pathNot: TESTS },
      to: { path: '^core/edit/' },
    },
    {
      name: 'stations-stand-alone',
      severity: 'error',
      from: { path: '^web/stations/([^/]+)/' },
      to: { path: '^web/stations/([^/]+)/', pathNot: '^web/stations/$1/' },
    },
    {
      name: 'parts-know-no-store',
      comment: 'Paths, chords and fields are told what they show.',
      severity: 'error',
      from: { path: '^web/(path|chords|fields)/', pathNot: TESTS },
      to: { path: '^web/(stores|remote|shell|stations|audio)/' },
    },
    ...order.map((room, at) => ({
      name: `core-${room}-looks-down`,
      comment: 'Inside the core the order of the rooms is the order of dependence.',
      severity: 'error',
      from: { path: `^core/${room}/`, pathNot: TESTS },
      to: { path: `^core/(${order.slice(at + 1).join('|') || 'none'})/` },
    })),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default'],
      mainFields: ['module', 'main'],
    },
  },
};
