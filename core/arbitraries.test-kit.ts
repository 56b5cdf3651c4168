import fc from 'fast-check';
import { METER_NAMES, METERS } from './time';
import type { Division, Pattern, Stroke } from './schema';

/** Random strokes, patterns and progressions for the laws that must hold for all of them. */

const accent = fc.constantFrom('ghost', 'normal', 'accent', 'strong');
const dir = fc.constantFrom('down', 'up');

export const strokes: fc.Arbitrary<Stroke> = fc.oneof(
  fc.record({ kind: fc.constant('strum'), dir, accent }),
  fc.record({ kind: fc.constant('chuck'), dir, accent }),
  fc.record({ kind: fc.constant('bass'), accent }),
  fc.record({ kind: fc.constant('miss') }),
  fc.record({ kind: fc.constant('hold') }),
) as fc.Arbitrary<Stroke>;

const division = fc.constantFrom<Division>(1, 2, 3, 4);

const beat = division.chain((count) =>
  fc.record({
    division: fc.constant(count),
    slots: fc.array(strokes, { minLength: count, maxLength: count }),
  }),
);

export const patterns: fc.Arbitrary<Pattern> = fc
  .tuple(
    fc.constantFrom(...METER_NAMES),
    fc.constantFrom('alternate', 'restart', 'all-downs', 'free'),
    division,
  )
  .chain(([meter, school, halfSwings]) => {
    const { beats } = METERS[meter];
    return fc.record({
      schema: fc.constant(1),
      name: fc.constant('Any pattern'),
      meter: fc.constant(METERS[meter]),
      beats: fc.array(beat, { minLength: beats, maxLength: beats }),
      arm: fc.constant({ school, halfSwings }),
    });
  }) as fc.Arbitrary<Pattern>;

const chord = fc.constantFrom('A', 'F#m', 'D', 'E7', 'Bm7', 'C/G', 'Gsus4', 'Hx');
const word = fc.tuple(fc.constantFrom('', '', '', '<', '<<'), chord).map((parts) => parts.join(''));
const bar = fc.oneof(
  { weight: 3, arbitrary: word },
  { weight: 1, arbitrary: fc.constantFrom('%', '.', '', 'A . B', '<<<D', 'x2 A', '. . E7 .') },
  { weight: 2, arbitrary: fc.tuple(word, word).map((two) => two.join(' ')) },
  { weight: 1, arbitrary: fc.tuple(word, word).map(([a, b]) => `${a} . . ${b}`) },
);
const lineText = fc
  .tuple(fc.array(bar, { minLength: 1, maxLength: 6 }), fc.constantFrom('', '', ' x2', ' x7'))
  .map(([bars, times]) => bars.join(' | ') + times);
const header = fc.constantFrom('Verse:', 'Chorus two:', ':', ' Tag :');

/** Progression text as someone might type it, mistakes included. */
export const progressions = fc
  .array(fc.oneof({ weight: 3, arbitrary: lineText }, { weight: 1, arbitrary: header }), {
    maxLength: 8,
  })
  .map((lines) => lines.join('\n'));
