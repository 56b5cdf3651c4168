import fc from 'fast-check';
import { countCycle, METERS } from './time';
import { type Division, DIVISIONS, type Meter, type Pattern, type Stroke } from './schema';

/** Random strokes, patterns and progressions for the laws that must hold for all of them. */

const accent = fc.constantFrom('ghost', 'normal', 'accent', 'strong');
const dir = fc.constantFrom('down', 'up');
const yes = fc.constant(true);
const finger = fc.constantFrom('p', 'i', 'm', 'a', 'c');
const tap = fc.constantFrom('body', 'strings');
const number = fc.integer({ min: 1, max: 8 });

type Parts = Record<string, fc.Arbitrary<unknown>>;

/** A stroke with some of the parts that may be left out. */
function stroke(kind: string, needed: Parts, extra: Parts): fc.Arbitrary<unknown> {
  const all: Parts = { kind: fc.constant(kind), ...needed };
  return fc.record<Record<string, unknown>, string>(
    { ...all, ...extra },
    { requiredKeys: Object.keys(all) },
  );
}

const touch = { palm: yes, open: yes, tap };
const reach = fc.oneof(
  fc.constantFrom('bass', 'treble'),
  fc.uniqueArray(number, { minLength: 1, maxLength: 8 }),
);
const target = fc.oneof(
  fc.constantFrom('fifth', 'alternate'),
  fc.record({ string: number, fret: fc.integer({ min: 0, max: 24 }) }),
);
const picked = fc.record(
  { string: fc.constantFrom('R', '1', '2', '7', 's1', 's4', 's8'), finger },
  { requiredKeys: ['string'] },
);

export const strokes: fc.Arbitrary<Stroke> = fc.oneof(
  { weight: 3, arbitrary: stroke('strum', { dir, accent }, {}) },
  stroke('strum', { dir, accent }, { reach, ...touch, finger }),
  stroke('chuck', { dir, accent }, { tap, finger }),
  stroke('bass', { accent }, { note: target, ...touch, finger }),
  stroke('pick', { dir, accent, strings: fc.array(picked, { minLength: 1, maxLength: 4 }) }, touch),
  stroke('roll', { dir, accent, hits: fc.integer({ min: 2, max: 5 }) }, touch),
  stroke('tap', { accent, on: tap }, {}),
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('miss') }) },
  fc.record({ kind: fc.constant('hold') }),
) as fc.Arbitrary<Stroke>;

const division = fc.constantFrom<Division>(...DIVISIONS);

const beat = division.chain((count) =>
  fc.record({
    division: fc.constant(count),
    slots: fc.array(strokes, { minLength: count, maxLength: count }),
  }),
);

const meters = fc.constantFrom<Meter>(
  ...Object.values(METERS),
  { beats: 7, unit: 8, groups: [3, 2, 2] },
  countCycle(12, [12, 3, 6, 8, 10], 12),
);

const feel = fc.record({
  on: fc.constantFrom('eighths', 'sixteenths'),
  percent: fc.integer({ min: 50, max: 75 }),
});

/** Patterns of every meter, half a bar to three bars long, with every kind of stroke. */
export const patterns: fc.Arbitrary<Pattern> = fc
  .tuple(
    meters,
    fc.constantFrom(0.5, 1, 1, 2, 3),
    fc.constantFrom('alternate', 'restart', 'all-downs', 'free'),
    division,
    fc.option(feel, { nil: undefined }),
  )
  .chain(([meter, bars, school, halfSwings, swing]) => {
    const length = Math.max(1, Math.round(meter.beats * bars));
    return fc.record({
      schema: fc.constant(2),
      name: fc.constant('Any pattern'),
      meter: fc.constant(meter),
      beats: fc.array(beat, { minLength: length, maxLength: length }),
      arm: fc.constant({ school, halfSwings }),
      ...(swing && { feel: fc.constant(swing) }),
    });
  }) as unknown as fc.Arbitrary<Pattern>;

const chord = fc.constantFrom('A', 'F#m', 'D', 'E7', 'Bm7', 'C/G', 'Gsus4', 'Hx');
const word = fc.tuple(fc.constantFrom('', '', '', '<', '<<'), chord).map((parts) => parts.join(''));
const bar = fc.oneof(
  { weight: 3, arbitrary: word },
  {
    weight: 1,
    arbitrary: fc.constantFrom(
      '%',
      '.',
      '',
      'A . B',
      '<<<D',
      'x2 A',
      '. . E7 .',
      'A . . . . D . .',
      '. . . . . . A . . . . .',
      '(2/4) A',
      '(6/8) A . . D . .',
      '(1/4) <E7',
      '(pickup 1) E7',
      '(pickup 2) A . <D .',
      '(pick-up 9) A',
      '(3/5) A',
      '(2/4)',
      'A[2=Am7]',
      '<D[last=D6,1=Dsus4]~',
      'A[2]',
      'A~ D~',
    ),
  },
  { weight: 2, arbitrary: fc.tuple(word, word).map((two) => two.join(' ')) },
  { weight: 1, arbitrary: fc.tuple(word, word).map(([a, b]) => `${a} . . ${b}`) },
);
const lineText = fc
  .tuple(fc.array(bar, { minLength: 1, maxLength: 6 }), fc.constantFrom('', '', ' x2', ' x7'))
  .map(([bars, times]) => bars.join(' | ') + times);
const header = fc.constantFrom('Verse:', 'Chorus two:', ':', ' Tag :');
const order = fc.constantFrom(
  'Order: Verse, Chorus two x2, Verse',
  'order:Tag x3,Nowhere',
  'Order: , Verse x99',
);
const ending = fc.constantFrom('1) ', '2, 1)', 'last) ', '0) ');

/** Progression text as someone might type it, mistakes included. */
export const progressions = fc
  .array(
    fc.oneof(
      { weight: 6, arbitrary: lineText },
      { weight: 2, arbitrary: header },
      { weight: 1, arbitrary: fc.tuple(ending, lineText).map((parts) => parts.join('')) },
      { weight: 1, arbitrary: order },
    ),
    { maxLength: 8 },
  )
  .map((lines) => lines.join('\n'));
