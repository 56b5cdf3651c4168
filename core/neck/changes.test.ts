import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../properties.test-kit';
import {
  capoOptions,
  shuffleChanges,
  describeChange,
  fingerChange,
  fretChord,
  INSTRUMENTS,
  keyName,
  parseChord,
  type RankedShape,
  runs,
  scaleOf,
  shapeChoices,
  shapesFor,
  smoothestSet,
} from '.';

const { guitar, ukulele } = INSTRUMENTS;
const shapeOf = (symbol: string) => shapesFor(guitar, parseChord(symbol)!)[0]!;
const hold = (symbol: string, instrument = guitar) =>
  fretChord(symbol, { instrument, capo: 0, bassSchool: 'root' })!;

describe('the fingers from one shape to the next', () => {
  it('stay, slide, move, lift and land', () => {
    const change = fingerChange(shapeOf('C'), shapeOf('Am'));
    expect(change.moves.map(({ finger, kind }) => [finger, kind])).toEqual([
      [1, 'stays'],
      [2, 'stays'],
      [3, 'moves'],
    ]);
    expect(describeChange(guitar, change)).toBe(
      'Keep the first and second finger; move the third to the G string, fret 2.',
    );
    const slide = fingerChange(shapeOf('A'), shapeOf('D'));
    expect(slide.moves.find(({ finger }) => finger === 3)!.kind).toBe('slides');
    expect(describeChange(guitar, slide)).toContain('Slide the third up one fret');
    const lift = fingerChange(shapeOf('E'), shapeOf('Em'));
    expect(describeChange(guitar, lift)).toMatch(/finger/);
  });

  it('have nothing to do where nothing changes, and more for a barre', () => {
    expect(fingerChange(shapeOf('G'), shapeOf('G')).cost).toBe(0);
    const barre = fingerChange(shapeOf('Am'), shapeOf('F')).cost;
    expect(barre).toBeGreaterThan(fingerChange(shapeOf('Am'), shapeOf('C')).cost);
  });
});

describe('the smoothest set', () => {
  const choices = (symbols: string[], count = 7) =>
    symbols.map((symbol) => ({
      symbol,
      shapes: shapesFor(guitar, parseChord(symbol)!).slice(0, count),
    }));

  it('is never worse than the first choices and says what it saves', () => {
    const symbols = ['A', 'Bm', 'D', 'E7', 'F#m', 'C#m'];
    const sequence = ['A', 'Bm', 'D', 'E7', 'A', 'F#m', 'C#m', 'D', 'A', 'E7'];
    const set = smoothestSet(choices(symbols), sequence);
    expect(set.after).toBeLessThan(set.before);
    expect(set.exact).toBe(true);
    const sum = (key: 'before' | 'after') =>
      set.changes.reduce((total, change) => total + change[key] * change.times, 0);
    expect(Math.abs(sum('before') - set.before)).toBeLessThan(0.6);
    expect(Math.abs(sum('after') - set.after)).toBeLessThan(0.6);
  });

  it('leaves a locked chord, which offers one shape, as it is', () => {
    const lockedF: RankedShape = shapeOf('F');
    const list = [...choices(['C', 'G']), { symbol: 'F', shapes: [lockedF] }];
    expect(smoothestSet(list, ['C', 'F', 'G', 'C', 'F']).shapes.get('F')).toEqual(lockedF);
  });

  it('is offered just the locked shape of a locked chord, also one of the player’s own', () => {
    const shape = { frets: [null, null, 3, 2, 1, 0], fingers: [0, 0, 3, 2, 1, 0] };
    const chosenShapes = [
      { symbol: 'F', shape, locked: true },
      { symbol: 'C', shape: shapeOf('C'), locked: false },
    ];
    const options = { instrument: guitar, capo: 0, bassSchool: 'root' as const, chosenShapes };
    const [f, c, unknown] = shapeChoices(['F', 'C', 'Hx'], options);
    expect(f!.shapes.map(({ frets }) => frets)).toEqual([shape.frets]);
    expect(c!.shapes.length).toBeGreaterThan(3);
    expect(unknown!.shapes).toEqual([]);
    expect(smoothestSet([f!, c!, unknown!], ['C', 'F', 'Hx', 'C']).shapes.get('F')!.frets).toEqual(
      shape.frets,
    );
  });

  it('is the best there is: no other choice moves less', () => {
    const pool = ['C', 'G', 'Am', 'F', 'D', 'Em', 'Bm'];
    const song = fc.record({
      symbols: fc.shuffledSubarray(pool, { minLength: 2, maxLength: 4 }),
      order: fc.array(fc.nat(3), { minLength: 3, maxLength: 9 }),
    });
    fc.assert(
      fc.property(song, ({ symbols, order }) => {
        const sequence = order.map((index) => symbols[index % symbols.length]!);
        const offered = choices(symbols, 4);
        const set = smoothestSet(offered, sequence);
        const visits = (symbol: string) => sequence.filter((name) => name === symbol).length;
        const weigh = (pick: Map<string, RankedShape>) =>
          sequence.slice(1).reduce((sum, symbol, index) => {
            const before = sequence[index]!;
            return before === symbol
              ? sum
              : sum + fingerChange(pick.get(before)!, pick.get(symbol)!).cost;
          }, 0) +
          symbols.reduce(
            (sum, symbol) => sum + pick.get(symbol)!.difficulty * 0.6 * visits(symbol),
            0,
          );
        const best = weigh(set.shapes);
        // One chord at a time and all first choices: none of them may be better.
        for (const { symbol, shapes } of offered) {
          const sounding = (shape: RankedShape) =>
            shape.frets.filter((fret) => fret !== null).length;
          const full = shapes.filter(
            (shape) =>
              sounding(shape) >= sounding(shapes[0]!) &&
              !shape.reasons.some((reason) => reason.includes('mute inside')),
          );
          for (const shape of full) {
            expect(weigh(new Map(set.shapes).set(symbol, shape))).toBeGreaterThanOrEqual(
              best - 1e-6,
            );
          }
        }
        expect(
          weigh(new Map(offered.map(({ symbol, shapes }) => [symbol, shapes[0]!]))),
        ).toBeGreaterThanOrEqual(best - 1e-6);
      }),
      tries(60),
    );
  });
});

describe('the capo finder', () => {
  it('finds open chords for a key of barres, sounding the same', () => {
    const sequence = ['Bb', 'Gm', 'Eb', 'F', 'Bb'];
    const options = capoOptions({ instrument: guitar, sequence, capo: 0, lowest: 0, highest: 0 });
    const best = options[0]!;
    expect(best.capo).toBe(3);
    expect(best.chords.map((chord) => chord.fingered)).toEqual(['G', 'Em', 'C', 'D']);
    expect(best.barres).toBe(0);
    for (const option of options) {
      expect(keyName(option.soundingKey)).toBe('Bb major');
      for (const { written, sounding } of option.chords) {
        expect(parseChord(sounding)!.root).toBe(parseChord(written)!.root);
      }
    }
  });

  it('goes out from the capo that is on, and into keys that the singer allows', () => {
    const query = { instrument: guitar, sequence: ['G', 'C', 'D'], capo: 2 };
    const stay = capoOptions({ ...query, lowest: 0, highest: 0 }).find(({ shift }) => shift === 0)!;
    expect(stay).toMatchObject({ capo: 2, sounds: 0 });
    expect(keyName(stay.soundingKey)).toBe('A major');
    const wide = capoOptions({ ...query, lowest: -2, highest: 1 });
    expect(new Set(wide.map(({ sounds }) => sounds))).toEqual(new Set([-2, -1, 0, 1]));
    expect(wide.every(({ capo, shift, sounds }) => shift + capo - 2 === sounds)).toBe(true);
  });

  it('has nothing to say without chords', () => {
    expect(
      capoOptions({ instrument: ukulele, sequence: [], capo: 0, lowest: 0, highest: 0 }),
    ).toEqual([]);
  });
});

describe('bass runs', () => {
  const options = {
    instrument: guitar,
    capo: 0,
    key: { tonic: 7, minor: false },
    available: 3840,
    noteTicks: 960,
  };
  const frets = (from: string, to: string, count: number) =>
    runs(hold(from), hold(to), count, options).runs.map((run) =>
      run.notes.map((note) => [note.string, note.fret]),
    );

  it('step into the next root', () => {
    expect(frets('G', 'C', 2)[0]).toEqual([
      [1, 0],
      [1, 2],
    ]);
    expect(frets('D', 'G', 2)[0]).toEqual([
      [1, 2],
      [1, 0],
    ]);
  });

  it('say so where there is no room', () => {
    const short = runs(hold('G'), hold('C'), 3, { ...options, available: 1920 });
    expect(short.runs).toEqual([]);
    expect(short.none).toBe('G is too short for 3 notes before C.');
  });

  it('hold their laws between any two chords of a key', () => {
    const chords = ['G', 'Am', 'Bm', 'C', 'D', 'Em'];
    const any = fc.record({
      from: fc.constantFrom(...chords),
      to: fc.constantFrom(...chords),
      count: fc.integer({ min: 1, max: 4 }),
      instrument: fc.constantFrom(guitar, ukulele, INSTRUMENTS.mandolin),
    });
    fc.assert(
      fc.property(any, ({ from, to, count, instrument }) => {
        const [a, b] = [hold(from, instrument), hold(to, instrument)];
        const found = runs(a, b, count, { ...options, instrument, available: 9600 });
        expect(found.runs.length > 0).toBe(found.none === null);
        const scale = scaleOf(options.key);
        for (const run of found.runs) {
          expect(run.notes).toHaveLength(count);
          const pitches = [...run.notes.map((note) => note.midi), b.bass.midi];
          pitches.slice(1).forEach((pitch, index) => {
            const step = pitch - pitches[index]!;
            expect(Math.sign(step)).toBe(run.direction === 'up' ? 1 : -1);
            expect(Math.abs(step)).toBeLessThanOrEqual(run.kind === 'chromatic' ? 1 : 2);
          });
          for (const { string, fret, midi } of run.notes) {
            expect(instrument.strings[string]! + fret).toBe(midi);
            expect(fret).toBeLessThanOrEqual(Math.max(4, a.bass.fret, b.bass.fret));
            if (run.kind === 'in the key') expect(scale).toContain(midi % 12);
          }
        }
      }),
      tries(150),
    );
  });
});

describe('dealing changes', () => {
  it('deals the same for the same seed, never a chord twice in a row, and brings all round', () => {
    const chords = ['G', 'C', 'D', 'Em'];
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e6 }), (seed) => {
        const order = shuffleChanges(chords, 40, seed);
        expect(shuffleChanges(chords, 40, seed)).toEqual(order);
        order.slice(1).forEach((name, index) => expect(name).not.toBe(order[index]));
        expect(new Set(order).size).toBe(4);
      }),
      tries(40),
    );
    expect(shuffleChanges(['G'], 5, 1)).toEqual(['G']);
  });
});
