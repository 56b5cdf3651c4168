import { describe, expect, it } from 'vitest';
import { parseChord } from './chords';
import { INSTRUMENTS } from './instruments';
import { shapesFor } from './shapes';
import { usualShapes } from './usualShapes';
import type { InstrumentId } from '../schema';

const ROOTS = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
const KINDS = ['', 'm', '7', 'm7', 'maj7', '6', 'sus2', 'sus4', 'dim7', '9'];
const AUGMENTED = ['Caug', 'Eaug', 'Gaug'];
const SLASHED = [
  ...['C/G', 'C/E', 'G/B', 'G/D', 'D/F#', 'D/A', 'F/A', 'F/C'],
  ...['Am/G', 'Am/E', 'Em/D', 'A/C#', 'A/E', 'E/G#', 'Dm/C', 'Bb/F'],
];
/** What a guitar's four high strings are asked for most. */
const BARITONE_KINDS = ['', 'm', '7', 'maj7', 'm7'];
const BARITONE_ROOTS = ['C', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];

/** The first shape, with where it comes from: our table (t), the data set (d), our own search (s). */
function cell(id: InstrumentId, symbol: string): string {
  const instrument = INSTRUMENTS[id];
  const chord = parseChord(symbol)!;
  const [shape] = shapesFor(instrument, chord);
  if (!shape) return '–';
  const frets = shape.frets
    .map((fret) => fret ?? 'x')
    .join(shape.frets.some((fret) => (fret ?? 0) > 9) ? '.' : '');
  const own = usualShapes(instrument, chord).some(
    (usual) => String(usual.frets) === String(shape.frets),
  );
  return `${frets} ${own ? 't' : shape.source === 'usual' ? 'd' : 's'}`;
}

function table(id: InstrumentId, roots: string[], kinds: string[]): string[] {
  const rule = kinds.map(() => ' --- |').join('');
  return [
    `| | ${kinds.map((kind) => kind || 'major').join(' | ')} |`,
    `| --- |${rule}`,
    ...roots.map(
      (root) => `| ${root} | ${kinds.map((kind) => cell(id, root + kind)).join(' | ')} |`,
    ),
  ];
}
const list = (id: InstrumentId, symbols: string[]) =>
  symbols.map((symbol) => `${symbol} ${cell(id, symbol)}`).join(', ');

describe('shapes on ukuleles', () => {
  it('stand in the docs as they are', async () => {
    const high = [
      '## Ukulele, g C E A',
      '',
      ...table('ukulele', ROOTS, KINDS),
      '',
      `Augmented: ${list('ukulele', AUGMENTED)}.`,
      '',
      `With another bass, which a re-entrant ukulele leaves to whoever has one: ${list('ukulele', SLASHED)}.`,
    ];
    const low = [
      '## Ukulele, low G',
      '',
      ...table('ukulele-low', ROOTS, KINDS),
      '',
      `Augmented: ${list('ukulele-low', AUGMENTED)}.`,
      '',
      `With another bass, where it lies in the first five frets: ${list('ukulele-low', SLASHED)}.`,
    ];
    const deep = ['## Baritone, D G B E', '', ...table('baritone', BARITONE_ROOTS, BARITONE_KINDS)];
    const text = [
      '# Shapes on ukuleles',
      '',
      'The shape that comes first for each chord, strings from the one nearest the thumb. Written by a test',
      '(`core/neck/ukuleleTable.test.ts`). Where it comes from: **t** our own table of what most players hold, **d** the',
      'data set (`@tombatossals/chords-db`, checked string by string), **s** our search.',
      '',
      ...high,
      '',
      ...low,
      '',
      ...deep,
      '',
    ].join('\n');
    await expect(text).toMatchFileSnapshot('../../docs/ukulele.md');
  });

  it('are in reach, and leave no string out that players hold', () => {
    for (const id of ['ukulele', 'ukulele-low', 'baritone'] as const) {
      for (const root of ROOTS) {
        for (const kind of ['', 'm', '7']) {
          const [shape] = shapesFor(INSTRUMENTS[id], parseChord(root + kind)!);
          expect(shape!.frets).not.toContain(null);
          expect(Math.max(...shape!.frets.map((fret) => fret ?? 0))).toBeLessThanOrEqual(6);
        }
      }
    }
  });
});
