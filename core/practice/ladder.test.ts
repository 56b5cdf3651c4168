import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { type Arrangement, arrangement, slotsOfBars } from '../arrange';
import { commands, rhythmCommands } from '../edit';
import { setLength } from '../pattern';
import { said } from '../pattern/said.test-kit';
import { tries } from '../properties.test-kit';
import { type RungId, type Song, songSchema } from '../schema';
import { newSong } from '../song';
import { armPasses } from '../stroke';
import { tour } from './tour';
import { ladder } from './ladder';
import { rungSong } from './rungSong';

function song(progression: string, words: string): Song {
  const start = newSong({ title: 'Weir', instrument: 'guitar', progression });
  return { ...start, pattern: said(words) };
}
const ids = (of: Song) => ladder(arrangement(of)).map(({ id }) => id);
const EIGHTHS = 'down miss, DOWN up, miss up, down up';

/** Ticks of the strokes of a rung. */
const ticks = (of: Song, id: RungId) =>
  arrangement(rungSong(arrangement(of), id)).performance.strikes.map(({ tick }) => tick);

describe('the ladder of a song', () => {
  it('goes from the arm over the landings to the whole', () => {
    expect(ids(song('G | C | D | G', EIGHTHS))).toEqual([
      'arm',
      'chords',
      'landings',
      'one before',
      'two before',
      'strong beats',
      'beats',
      'damped',
      'one chord',
      'open strokes',
      'song',
    ]);
  });

  it('leaves out what says nothing new', () => {
    expect(ids(song('G | %', 'down, down, down, down'))).toEqual([
      'arm',
      'strong beats',
      'damped',
      'song',
    ]);
    expect(
      ids(song('G | C', 'down miss miss miss'.replace(/ miss miss miss/, ', miss, miss, miss'))),
    ).toEqual(['arm', 'chords', 'landings', 'damped', 'one chord', 'song']);
  });

  it('has the parts of the hand for what is picked', () => {
    const picked = song('G | C', 'R+R+3 R+2 R+3 R+2 R R+2 R+3 R+2');
    expect(ids(picked)).toContain('thumb');
    expect(ids(picked)).not.toContain('damped');
    expect(ids(picked)).not.toContain('arm');
    expect(ticks(picked, 'thumb')).toEqual([0, 1920, 3840, 5760]);
    expect(ticks(picked, 'fingers')).toHaveLength(14);
  });

  it('has the plain song below one with runs', () => {
    const plain = song('G | C | G | C', EIGHTHS);
    const withRun = rhythmCommands
      .setRun({ section: 0, line: 0, bar: 1 }, 0, {
        count: 2,
        noteTicks: 480,
        kind: 'in the key',
        direction: 'up',
      })
      .apply(plain);
    expect(ids(plain)).not.toContain('plain');
    expect(ids(withRun).slice(-2)).toEqual(['plain', 'song']);
    expect(ticks(withRun, 'plain')).toEqual(ticks(plain, 'song'));
  });

  it('is empty where nothing is struck', () => {
    expect(ids(song('', EIGHTHS))).toEqual([]);
  });
});

describe('a rung', () => {
  const four = song('G | C | D . G . | C', EIGHTHS);

  it('strikes only where chords land, with the stroke that the song has there', () => {
    const made = arrangement(rungSong(arrangement(four), 'landings'));
    const whole = arrangement(four).performance.strikes;
    expect(made.performance.strikes).toEqual(
      // The bar's pattern has its own slots: only their number differs.
      whole
        .filter(({ landing }) => landing)
        .map((strike) => ({ ...strike, slot: expect.any(Number) as number })),
    );
  });

  it('opens the strokes before a landing', () => {
    const made = arrangement(rungSong(arrangement(four), 'two before')).performance.strikes;
    const opened = made.filter(({ transition }) => transition);
    expect(opened.map(({ tick }) => tick)).toEqual([
      2880, 3360, 6720, 7200, 8640, 9120, 10560, 11040,
    ]);
  });

  it('has no pitch where the strings are damped, and no chord', () => {
    const made = arrangement(rungSong(arrangement(four), 'damped'));
    expect(
      made.performance.strikes.every(({ kind, notes }) => kind === 'chuck' && notes.length === 0),
    ).toBe(true);
    expect(made.changes).toEqual([]);
  });

  it('stays on the chord that is held longest', () => {
    const made = arrangement(rungSong(arrangement(four), 'one chord'));
    expect(made.changes.map(({ symbol }) => symbol)).toEqual(['C']);
  });

  it('gives one hand alone its own part', () => {
    const strumming = arrangement(rungSong(arrangement(four), 'song', 'strumming')).performance
      .strikes;
    expect(strumming.map(({ tick }) => tick)).toEqual(ticks(four, 'song'));
    expect(strumming.every(({ notes }) => notes.length === 0)).toBe(true);
    const fretting = arrangement(rungSong(arrangement(four), 'song', 'fretting')).performance
      .strikes;
    expect(fretting.map(({ tick }) => tick)).toEqual(ticks(four, 'landings'));
  });

  it('is refused for a song without bars', () => {
    expect(() => rungSong(arrangement(song('', EIGHTHS)), 'landings')).toThrow(RangeError);
  });
});

/** From the landings on: each has the strokes of the one before it. */
const NESTED: RungId[] = ['landings', 'one before', 'two before', 'strong beats', 'beats'];

/** Every chord lands where a slot of its rhythm begins; the rungs take one that lands inside a slot to the next. */
const landsOnSlots = ({ bars, rhythms, changes }: Arrangement) => {
  const begins = new Set([...slotsOfBars(bars, rhythms)].map(({ tick }) => tick));
  return changes.every(({ tick }) => begins.has(tick));
};

describe('laws of the ladder', () => {
  it('every rung is a song that can be kept, as long as the song to the tick', () => {
    fc.assert(
      fc.property(documents, (document) => {
        const arranged = arrangement(document);
        for (const { id } of ladder(arranged)) {
          for (const hands of ['both', 'strumming', 'fretting'] as const) {
            const made = rungSong(arranged, id, hands);
            expect(songSchema.safeParse(made).error).toBeUndefined();
            const again = arrangement(made);
            expect(again.performance.ticks).toBe(arranged.performance.ticks);
            expect(again.bars.map(({ tick }) => tick)).toEqual(
              arranged.bars.map(({ tick }) => tick),
            );
          }
        }
      }),
      tries(40),
    );
  });

  it('each rung lies within the next, and within the song', () => {
    fc.assert(
      fc.property(documents, (document) => {
        const plain = commands.setTempo(90).apply(document);
        const arranged = arrangement(plain);
        const there = ladder(arranged).map(({ id }) => id);
        if (there.length === 0) return;
        fc.pre(landsOnSlots(arranged));
        const whole = new Set(ticks(plain, 'damped'));
        let before: number[] = [];
        for (const id of NESTED.filter((rung) => there.includes(rung))) {
          const now = new Set(ticks(plain, id));
          expect(before.filter((tick) => !now.has(tick))).toEqual([]);
          expect([...now].filter((tick) => !whole.has(tick))).toEqual([]);
          before = [...now];
        }
      }),
      tries(60),
    );
  });

  it('the arm never rests in them, and lands with every chord', () => {
    fc.assert(
      fc.property(documents, (document) => {
        const arranged = arrangement(document);
        fc.pre(landsOnSlots(arranged));
        const there = ladder(arranged).map(({ id }) => id);
        for (const id of NESTED.filter((rung) => there.includes(rung))) {
          const made = arrangement(rungSong(arranged, id));
          const kinds = made.rhythms
            .flat()
            .flatMap(({ pattern }) =>
              pattern.beats.flatMap(({ slots }) => slots.map(({ kind }) => kind)),
            );
          expect(kinds).not.toContain('hold');
          expect(made.rhythms.flat().every(({ pattern }) => armPasses(pattern).length > 0)).toBe(
            true,
          );
          const landing = ({ performance }: ReturnType<typeof arrangement>) =>
            performance.strikes.filter((strike) => strike.landing).map(({ tick }) => tick);
          expect(landing(made)).toEqual(landing(arrangement(rungSong(arranged, 'landings'))));
        }
      }),
      tries(40),
    );
  });
});

describe('a tour', () => {
  const like = song('G', EIGHTHS);
  const chords = (of: Song) => arrangement(of).changes.map(({ symbol }) => symbol);

  it('goes through the chords of a key, or all there are, by steps or fifths', () => {
    expect(chords(tour(like, like.pattern, { key: { tonic: 7, minor: false } }, 'steps'))).toEqual([
      'G',
      'Am',
      'Bm',
      'C',
      'D',
      'Em',
      'F#dim',
    ]);
    expect(chords(tour(like, like.pattern, { key: { tonic: 0, minor: false } }, 'fifths'))).toEqual(
      ['C', 'G', 'Dm', 'Am', 'Em', 'Bdim', 'F'],
    );
    expect(chords(tour(like, like.pattern, 'majors', 'fifths'))).toHaveLength(12);
    expect(new Set(chords(tour(like, like.pattern, 'minors', 'shuffled', 4))).size).toBe(12);
  });

  it('holds each chord for as long as the pattern lasts', () => {
    const two = setLength(said('down, down, down, down'), 8);
    const made = tour(like, two, 'majors', 'steps');
    expect(arrangement(made).bars).toHaveLength(24);
    expect(songSchema.safeParse(made).success).toBe(true);
  });
});
