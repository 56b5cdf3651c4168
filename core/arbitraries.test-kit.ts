import fc from 'fast-check';
import { INSTRUMENT_IDS, INSTRUMENTS } from './neck';
import { countCycle, METERS } from './time';
import {
  type Bar,
  type Division,
  DIVISIONS,
  DOCUMENT_VERSION,
  type Meter,
  type Pattern,
  type Song,
  songSchema,
  type Stroke,
  type TuneNote,
} from './schema';

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
const pickable = fc.constantFrom('R', '1', '2', '7', 's1', 's4', 's8');
const fretFinger = fc.integer({ min: 1, max: 4 });
const picked = fc.oneof(
  fc.record({ string: pickable, finger, held: fretFinger }, { requiredKeys: ['string'] }),
  fc.record(
    {
      string: fc.constantFrom('s1', 's3'),
      fret: fc.integer({ min: 0, max: 24 }),
      held: fretFinger,
    },
    { requiredKeys: ['string', 'fret'] },
  ),
  fc.record(
    { string: pickable, above: fc.integer({ min: -12, max: 12 }), finger },
    { requiredKeys: ['string', 'above'] },
  ),
);
const how = fc.constantFrom('hammer', 'pull', 'slide');
const frets = fc.integer({ min: 1, max: 12 });
const grace = fc.oneof(
  fc.record({ how, frets, before: yes, string: pickable }, { requiredKeys: ['how', 'frets'] }),
  fc.record({ how: fc.constant('slide'), frets, above: yes }),
);
const legatoStep = fc.oneof(
  fc.record(
    { how, strings: fc.array(picked, { minLength: 1, maxLength: 3 }) },
    { requiredKeys: ['how'] },
  ),
  fc.record({ how: fc.constant('slide'), to: fc.constantFrom('next', 'away') }),
);

export const strokes: fc.Arbitrary<Stroke> = fc.oneof(
  { weight: 3, arbitrary: stroke('strum', { dir, accent }, {}) },
  stroke('strum', { dir, accent }, { reach, ...touch, finger, grace, sweep: yes }),
  stroke('chuck', { dir, accent }, { tap, finger, sweep: yes }),
  stroke('bass', { accent }, { note: target, ...touch, finger, grace, rest: yes }),
  stroke(
    'pick',
    { dir, accent, strings: fc.array(picked, { minLength: 1, maxLength: 4 }) },
    { ...touch, grace, rest: yes },
  ),
  stroke(
    'pick',
    {
      dir,
      accent,
      strings: fc.constant([{ string: 's5' }, { string: '1' }, { string: 's2', fret: 7 }]),
      grace: fc.record({ how, frets, string: fc.constant('s5') }),
      moreGraces: fc.constantFrom(
        [{ how: 'slide', frets: 2, above: true, string: '1' }],
        [
          { how: 'pull', frets: 3, string: 's2' },
          { how: 'hammer', frets: 1, string: '1' },
        ],
      ),
    },
    { ...touch, rest: yes },
  ),
  stroke('legato', { accent, steps: fc.array(legatoStep, { minLength: 1, maxLength: 4 }) }, {}),
  stroke('roll', { dir, accent, hits: fc.integer({ min: 2, max: 5 }) }, touch),
  stroke('roll', { dir, accent, hits: fc.constant(4), fingers: fc.constant([...'amip']) }, touch),
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
    fc.constantFrom('alternate', 'restart', 'shuffle', 'all-downs', 'free'),
    division,
    fc.option(feel, { nil: undefined }),
  )
  .chain(([meter, bars, school, halfSwings, swing]) => {
    const length = Math.max(1, Math.round(meter.beats * bars));
    return fc.record({
      schema: fc.constant(DOCUMENT_VERSION),
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
  'Endings: over the song',
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

const optional = (parts: Parts, needed: string[]) =>
  fc.record<Record<string, unknown>, string>(parts, { requiredKeys: needed });

const tuneNote = optional(
  {
    at: fc.integer({ min: 0, max: 31 }).map((step) => step * 120),
    string: fc.integer({ min: 1, max: 8 }),
    fret: fc.integer({ min: 0, max: 24 }),
    how: fc.constantFrom('hammer', 'pull', 'slide'),
    grace,
    accent,
    held: fretFinger,
  },
  ['at', 'string', 'fret'],
) as fc.Arbitrary<TuneNote>;
/** Notes in their order, some of them with another on the next string at the same time. */
function withAtOnce(notes: TuneNote[], more: number): TuneNote[] {
  return [...notes]
    .sort((a, b) => a.at - b.at)
    .flatMap((note, index) => {
      const string = (note.string % 8) + 1;
      return index >= more || note.how ? [note] : [note, { at: note.at, string, fret: note.fret }];
    });
}
const meets = fc.constantFrom(
  'in place',
  'without the bass',
  'from first to last',
  'rake',
  'alone',
);
const tune = optional(
  {
    notes: fc
      .uniqueArray(tuneNote, { selector: ({ at }) => at, minLength: 1, maxLength: 5 })
      .chain((notes) => fc.nat({ max: 3 }).map((more) => withAtOnce(notes, more))),
    meets,
  },
  ['notes'],
);

/** Patterns as a document may hold them: builds that reach past the end, any tags, loose or meant. */
const writtenPatterns: fc.Arbitrary<Pattern> = patterns.chain((pattern) => {
  const build = fc.record({
    beat: fc.integer({ min: 0, max: 127 }),
    beats: fc.integer({ min: 1, max: 128 }),
    from: accent,
    to: accent,
  });
  const near = fc.record({
    beat: fc.integer({ min: 0, max: pattern.beats.length }),
    beats: fc.integer({ min: 1, max: 8 }),
    from: accent,
    to: accent,
  });
  const extra = {
    builds: fc.array(fc.oneof(near, build), { maxLength: 3 }),
    meant: fc.uniqueArray(fc.constantFrom('against', 'stopped', 'jump', 'fast')),
    loose: fc.record({
      density: fc.double({ min: 0, max: 1, noNaN: true }),
      seed: fc.integer({ min: 0, max: 9999 }),
    }),
  };
  return optional(extra, []).map((parts) => ({ ...pattern, ...parts }) as Pattern);
});

const symbols = fc.oneof(
  { weight: 4, arbitrary: chord },
  fc.constantFrom('N.C.', 'F#m7b5', 'Ebmaj9/G', 'C(add9)', '\u{1f3b8}', 'x', '(', 'B♭'),
);
const rounds = fc.oneof(fc.constant('last'), fc.integer({ min: 1, max: 32 }));
/** Places on the grid, and any tick that a document may name. */
const places = fc.oneof(
  { weight: 3, arbitrary: fc.integer({ min: 0, max: 16 }).map((step) => step * 240) },
  fc.integer({ min: 0, max: 5000 }),
  fc.integer({ min: 0, max: 61440 }),
);
const travel = fc.constantFrom('open', 'damped', 'left out');

const placements = optional(
  {
    at: places,
    push: fc.constantFrom(0, 0, 240, 480),
    symbol: symbols,
    substitutes: fc.array(fc.record({ time: rounds, symbol: symbols }), {
      minLength: 1,
      maxLength: 3,
    }),
    fermata: yes,
    run: fc.record({
      count: fc.integer({ min: 1, max: 4 }),
      noteTicks: fc.constantFrom(240, 480, 960),
      kind: fc.constantFrom('in the key', 'chromatic'),
      direction: fc.constantFrom('up', 'down'),
    }),
    openStrokes: fc.integer({ min: 0, max: 3 }),
    travel,
    arrive: fc.constantFrom(
      'bass',
      'bass side',
      'treble side',
      'whole',
      'roll',
      'slide',
      'hammer',
      'pull',
    ),
  },
  ['at', 'push', 'symbol'],
);
const split = fc.constantFrom('roll', 'restart', 'half', 'squeeze');

/** Words of up to two verses, in order, as a document may have them. */
const words = fc
  .uniqueArray(fc.record({ verse: fc.integer({ min: 1, max: 3 }), at: places }), {
    selector: ({ verse, at }) => `${verse} ${at}`,
    minLength: 1,
    maxLength: 5,
  })
  .chain((all) =>
    fc
      .array(fc.constantFrom('lan-', 'tern', 'by the lock', 'é', '<&', '{x}', '1:2'), {
        minLength: all.length,
        maxLength: all.length,
      })
      .map((texts) =>
        all
          .map((one, index) => ({ ...one, text: texts[index]! }))
          .sort((a, b) => a.verse - b.verse || a.at - b.at),
      ),
  );

const timed = (small: fc.Arbitrary<Pattern>) =>
  fc.array(fc.record({ time: fc.constantFrom(1, 2, 5, 'last'), pattern: small }), {
    minLength: 1,
    maxLength: 3,
  });

/** The bars of a document: chords in any order and place, rules and meters of their own. */
const bars = (small: fc.Arbitrary<Pattern>): fc.Arbitrary<Bar> =>
  optional(
    {
      chords: fc.array(placements, { maxLength: 4 }),
      unread: fc.string({ maxLength: 8 }),
      meter: meters,
      pickup: fc.integer({ min: 1, max: 15 }),
      rules: optional(
        { pattern: small, timed: timed(small), split, skipFirst: yes, stop: places, tune, words },
        [],
      ),
    },
    ['chords'],
  ) as unknown as fc.Arbitrary<Bar>;

const names = fc.constantFrom('', 'Verse', 'Verse', 'Chorus two', '<&>"', '\u202e%s', 'a\u0301');

/**
 * Any valid document of a song, not only those that commands and the line of text make: what a file or
 * another program may hand over.
 */
export const documents: fc.Arbitrary<Song> = fc
  .record({ pattern: writtenPatterns, other: writtenPatterns, meter: meters })
  .chain(({ pattern, other, meter }) => {
    const own = fc.constantFrom(pattern, other);
    return optional(
      {
        schema: fc.constant(DOCUMENT_VERSION),
        title: fc.string({ minLength: 1, maxLength: 12 }).map((text) => `T${text}`),
        instrument: fc.oneof(
          fc.constantFrom(...INSTRUMENT_IDS.map((id) => INSTRUMENTS[id])),
          fc.record({
            name: fc.constant('Own'),
            family: fc.constantFrom('guitar', 'ukulele', 'banjo'),
            strings: fc.array(fc.integer({ min: 20, max: 100 }), { minLength: 3, maxLength: 8 }),
            frets: fc.integer({ min: 5, max: 36 }),
            offset: fc.integer({ min: -12, max: 12 }),
          }),
        ),
        capo: fc.integer({ min: 0, max: 20 }),
        bassSchool: fc.constantFrom('root', 'lowest', 'thumb'),
        tempo: fc.oneof(fc.integer({ min: 20, max: 300 }), fc.constant(91.7)),
        meter: fc.constant(meter),
        countIn: fc.integer({ min: 0, max: 2 }),
        sections: fc.array(
          optional(
            {
              name: names,
              lines: fc.array(
                optional(
                  {
                    bars: fc.array(bars(own), { minLength: 1, maxLength: 4 }),
                    times: fc.integer({ min: 1, max: 3 }),
                    only: fc.oneof(
                      fc.constant('last'),
                      fc.array(fc.integer({ min: 1, max: 32 }), { minLength: 1, maxLength: 3 }),
                    ),
                  },
                  ['bars', 'times'],
                ),
                { maxLength: 3 },
              ),
              rules: optional(
                {
                  pattern: own,
                  split,
                  level: accent,
                  meets,
                  build: optional({ from: accent, to: accent, downs: yes }, ['from', 'to']),
                },
                [],
              ),
            },
            ['name', 'lines'],
          ),
          { maxLength: 3 },
        ),
        order: fc.array(
          fc.record(
            {
              name: fc.constantFrom('Verse', 'Tag'),
              times: fc.integer({ min: 1, max: 3 }),
              shift: fc.constantFrom(2, -1, 7),
              lastLines: fc.integer({ min: 1, max: 2 }),
            },
            { requiredKeys: ['name', 'times'] },
          ),
          { maxLength: 3 },
        ),
        endings: fc.constant('song'),
        pattern: fc.constant(pattern),
        chordPatterns: fc.array(fc.record({ symbol: symbols, pattern: own }), { maxLength: 2 }),
        split,
        key: fc.record({ tonic: fc.integer({ min: 0, max: 11 }), minor: fc.boolean() }),
        degrees: fc.constantFrom('numbers', 'roman'),
        usualRun: fc.record({
          count: fc.integer({ min: 1, max: 4 }),
          noteTicks: fc.constantFrom(240, 480, 960),
        }),
        openStrokes: fc.integer({ min: 0, max: 3 }),
        travel,
        chosenShapes: fc.array(
          fc.record({
            symbol: symbols,
            shape: fc.record({
              frets: fc.array(fc.option(fc.integer({ min: 0, max: 36 })), {
                minLength: 3,
                maxLength: 8,
              }),
              fingers: fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 3, maxLength: 8 }),
            }),
            locked: fc.boolean(),
          }),
          { maxLength: 2 },
        ),
        ownShapes: fc.constant([]),
      },
      [
        'schema',
        'title',
        'instrument',
        'capo',
        'bassSchool',
        'tempo',
        'meter',
        'countIn',
        'sections',
        'pattern',
        'chosenShapes',
        'ownShapes',
      ],
    );
  })
  .map((raw) => songSchema.safeParse(raw))
  .filter(({ success }) => success)
  .map(({ data }) => data!);
