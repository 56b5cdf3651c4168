/// <reference types="vite/types/importMeta.d.ts" />
import { describe, expect, it } from 'vitest';
import * as arrangeRoom from './arrange';
import * as editRoom from './edit';
import * as formatsRoom from './formats';
import * as handRoom from './hand';
import { trialOf } from './hand/trial';
import { leastSquares } from './take/leastSquares';
import * as files from './formats/files';
import { nearestNotated, noteValues } from './time/notated';
import * as neckRoom from './neck';
import * as patternRoom from './pattern';
import { said } from './pattern/said.test-kit';
import * as plainRoom from './plain';
import * as schemaRoom from './schema';
import * as logRoom from './log';
import * as practiceRoom from './practice';
import * as sheetRoom from './sheet';
import * as songRoom from './song';
import * as soundRoom from './sound';
import * as strokeRoom from './stroke';
import * as timeRoom from './time';
import { METERS } from './time';

/**
 * The examples in the comments are run: one that stands by itself has to give what it says, one about a
 * song or a pattern has to run.
 */

const rooms = [
  plainRoom,
  schemaRoom,
  timeRoom,
  strokeRoom,
  patternRoom,
  neckRoom,
  songRoom,
  editRoom,
  arrangeRoom,
  handRoom,
  soundRoom,
  practiceRoom,
  logRoom,
  sheetRoom,
  formatsRoom,
  files,
];
const known: Record<string, unknown> = Object.assign({}, ...rooms, {
  nearestNotated,
  noteValues,
  said,
  trialOf,
  leastSquares,
});

/** What the examples speak of without saying what it is. */
function fixtures(): Record<string, unknown> {
  const song = songRoom.newSong({
    title: 'Towpath',
    instrument: 'guitar',
    progression: 'Verse:\nG | C | D . G . | % x2\nChorus:\nC | <D | G | .',
  });
  const pattern = said('bass miss, DOWN up, miss up, chuck up');
  const played = arrangeRoom.arrangement({ ...song, pattern });
  const { bars, changes, rhythms: parts, performance } = played;
  const report = handRoom.handReport(played);
  const anchor = { finger: 3, string: 4, fret: 3, chords: ['D', 'G', 'Cadd9'] };
  const guitar = neckRoom.INSTRUMENTS.guitar;
  const shapeOf = (symbol: string) => neckRoom.shapesFor(guitar, neckRoom.parseChord(symbol)!)[0]!;
  const options = { instrument: guitar, capo: 0, bassSchool: 'root' as const };
  const held = Object.assign(
    (symbol: string) => neckRoom.fretChord(symbol, options)!,
    neckRoom.fretChord('G', options)!,
  );
  const bass = held('C').bass;
  const wish = { ...options, key: { tonic: 0, minor: false }, available: 3840, noteTicks: 480 };
  const playback = { performance, family: 'guitar' as const, click: 'all' as const, groove: null };
  const sample = 44_100;
  return {
    song,
    pattern,
    bars,
    bar: bars[2],
    changes,
    parts: parts[0],
    part: parts[0]![0],
    strikes: performance.strikes,
    strikesOfBar: performance.strikes.filter((strike) => strike.bar === 2),
    guitar,
    shapeOf,
    barreF: shapeOf('F'),
    bass,
    held,
    options: wish,
    arranged: played,
    report,
    kind: report.kinds[0],
    anchor,
    timings: [],
    judgement: { byChange: [], strokes: [], missed: [], tolerance: 0, verdict: { loop: null } },
    rung: { id: 'landings', name: 'Landings only', does: '', strokes: 4 },
    edits: [{ do: 'slow' as const, tempo: 80 }],
    D: held('D'),
    G: held('G'),
    Cadd9: held('Cadd9'),
    run: neckRoom.runs(held('G'), held('C'), 2, wish).runs[0],
    alternate: neckRoom.alternateBass(guitar, shapeOf('C'), neckRoom.parseChord('C')!, bass, 0)[0],
    choices: neckRoom.shapeChoices(['G', 'C', 'D'], { ...song, bassSchool: 'root' }),
    a: said('down miss, down miss, down miss, down miss'),
    b: said('down miss, down up, down miss, down miss'),
    oneBar: said('down, down, down, down'),
    fourFour: said('down, down, down, down'),
    twoBars: patternRoom.setLength(said('down, down, down, down'), 8),
    eightBarsOfSixteenths: patternRoom.setLength(said('down up down up, miss, miss, miss'), 32),
    chart: (formatsRoom.readChart('{title: T}\n[G]a [C]b') as { chart: unknown }).chart,
    beat: arrangeRoom.clickBeats(bars, 0, 960)[0],
    playback,
    mix: {
      ...playback,
      meter: METERS['4/4'],
      to: 960,
      levels: soundRoom.USUAL_LEVELS,
      sampleRate: sample,
    },
  };
}

interface Example {
  file: string;
  text: string;
}

/** The text of every file of the core, by its path. */
const texts = import.meta.glob<string>(['./**/*.ts', '!./**/*.test.ts', '!./**/*.test-kit.ts'], {
  query: '?raw',
  import: 'default',
  eager: true,
});
const written = Object.entries(texts).flatMap(([file, text]): Example[] =>
  [...text.matchAll(/@example (.*?)(?: \*\/)?$/gm)].map((match) => ({ file, text: match[1]! })),
);

/** Types are for the compiler: a `!` that only says that something is there is taken out. */
const plainScript = (text: string) => text.replaceAll(/([\w)\]'"])!(?=[.,)[\s]|$)/g, '$1');

function evaluate(expression: string, scope: Record<string, unknown>): unknown {
  const names = Object.keys(scope);
  return new Function(...names, `return (${plainScript(expression)});`)(
    ...names.map((name) => scope[name]),
  );
}

/** What an example says it gives; undefined where that is said in words. */
function saidValue(text: string): { value: unknown } | null {
  try {
    return { value: evaluate(text, { METERS }) };
  } catch {
    return null;
  }
}

const all = written.map((example) => {
  const [expression = '', ...rest] = example.text.split(' // ');
  return { ...example, expression, says: rest.join(' // ') };
});
const context = fixtures();
const usesFixture = (expression: string) =>
  Object.keys(context).some((name) => new RegExp(`(?<![.'\\w])${name}\\b(?!:)`).test(expression));
/** A function that is only known inside its room is tried by the tests of that room. */
const isKnown = ({ expression }: { expression: string }) => {
  const name = /^\w+(?=\()/.exec(expression)?.[0];
  return name === undefined || name in known || name in context;
};
const alone = all
  .filter(isKnown)
  .filter(({ expression, says }) => !usesFixture(expression) && says !== '');
const about = all.filter(isKnown).filter(({ expression }) => usesFixture(expression));

describe('examples', () => {
  it('are in the comments of most public functions', () => {
    expect(all.length).toBeGreaterThan(140);
    expect(alone.length).toBeGreaterThan(70);
  });

  it.each(alone)('$file: $expression', ({ expression, says }) => {
    const scope = { ...known, ...context };
    const given = evaluate(expression, scope);
    const value = saidValue(says);
    if (value === null) return;
    if (typeof value.value === 'number') expect(given).toBeCloseTo(value.value, 2);
    else if (Array.isArray(value.value) || typeof value.value !== 'object') {
      expect(given).toEqual(value.value);
    } else if (value.value !== null) expect(given).toMatchObject(value.value);
    else expect(given).toBeNull();
  });

  it.each(about)('$file: $expression', ({ expression }) => {
    expect(() => evaluate(expression, { ...known, ...context })).not.toThrow();
  });
});
