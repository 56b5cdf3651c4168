import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patterns } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { type Pattern, patternSchema } from '../schema';
import { METERS } from '../time';
import { armReport, newPattern } from '../pattern';
import { parsePattern, say, slots } from '.';

const base = newPattern(METERS['4/4']);

/** What was read, in words again; or the underlined words and the reason. */
function read(text: string, on: Pattern = base): string {
  const reading = parsePattern(text, on);
  if ('pattern' in reading) return say(reading.pattern);
  if ('choice' in reading) return say(reading.choice.fits[0]!.pattern);
  const { from, to, message } = reading.problem;
  return `[${text.slice(from, to)}] ${message}`;
}

/** What a text may mean, the likeliest first. */
function fitsOf(text: string, on: Pattern = base): Pattern[] {
  const reading = parsePattern(text, on);
  if ('pattern' in reading) return [reading.pattern];
  return 'choice' in reading ? reading.choice.fits.map(({ pattern }) => pattern) : [];
}

/** What is asked about a text, with what each answer makes of it. */
function asks(text: string, on: Pattern = base): [string, string][] {
  const reading = parsePattern(text, on);
  if (!('choice' in reading)) return [];
  return reading.choice.fits.map(({ label, pattern }) => [label, say(pattern)]);
}

describe('what may be meant in several ways is asked', () => {
  const twoBars = { ...base, beats: [...base.beats, ...base.beats] };

  it('where beats between commas are fewer than the pattern has', () => {
    expect(asks('down, down up', twoBars)).toEqual([
      ['Once through, then again', 'down, down up, down, down up | down, down up, down, down up'],
      ['Over 2 bars', 'down, miss, miss, miss | down, miss, up, miss'],
      [
        'Once, then nothing',
        'down, down up, miss miss, miss miss | miss miss, miss miss, miss miss, miss miss',
      ],
    ]);
    expect(asks('down up down up, down up down up').map(([label]) => label)).toEqual([
      'Once through, then again',
      'Once, then nothing',
      'Over the whole pattern',
    ]);
  });

  it('where a bar is said for a pattern of two', () => {
    expect(asks('D DU -UDU', twoBars)).toEqual([
      [
        'In every bar',
        'down miss, down up, miss up, down up | down miss, down up, miss up, down up',
      ],
      ['Over 2 bars', 'down, miss, down, up | miss, up, down, up'],
      [
        'In the first bar only',
        'down miss, down up, miss up, down up | miss miss, miss miss, miss miss, miss miss',
      ],
    ]);
    expect(asks('1 2 & & 4 &', twoBars).map(([label]) => label)).toEqual([
      'In every bar',
      'Over 2 bars',
      'In the first bar only',
    ]);
  });

  it('where strokes go with the arm only in sixteenths that nobody said', () => {
    const [first, ...others] = asks('DDUDDUDDUD');
    expect(first![0]).toBe('In sixteenths');
    expect(others.map(([label]) => label)).toEqual([
      'One stroke a place, against the arm',
      'Over 2 bars',
    ]);
    expect(asks('DUDUDUDUDUDUDUDU')).toEqual([]);
  });

  it('where bare numbers may be beats or strings; with an "and" they are beats', () => {
    expect(asks('1 2 4')[0]).toEqual([
      'On these beats',
      'down miss, down miss, miss miss, down miss',
    ]);
    expect(asks('1 2 4')[1]![0]).toMatch(/^These strings/);
    expect(asks('1 2 & 3')).toEqual([]);
    // Where the pattern is picked already, they are strings first.
    const picked = fitsOf('R 1, 2 1, R 1, 2 1')[0]!;
    expect(asks('3 2 1 2', picked)[0]).toEqual(['Once through, then again', '3 2, 1 2, 3 2, 1 2']);
    expect(asks('1 2 3 4', picked)[0]![0]).toMatch(/^These strings/);
  });

  it('where a whole pattern is said against the arm: it may be meant', () => {
    expect(asks('down down, down down, down down, down down')[0]![0]).toBe(
      'This hand plays all downs',
    );
    const [meant, turned] = fitsOf('down up, up down, down up, up down');
    expect(meant!.arm.school).toBe('free');
    expect(armReport(meant!, 90).findings.filter(({ kind }) => kind === 'against')).toEqual([]);
    expect(say(turned!)).toBe('down up, down up, down up, down up');
    // One may be a slip, and is left to be seen.
    expect(asks('down up, down up, down up, up up')).toEqual([]);
  });

  it('and never where the pattern is that already', () => {
    fc.assert(
      fc.property(patterns, (pattern) => {
        expect(asks(say(pattern), pattern)).toEqual([]);
      }),
      tries(300),
    );
  });

  it('commas mean a beat in longer patterns, too', () => {
    expect(read('down, down up, down, up, down, down, down, up')).toBe(
      'down, down up, down, up | down, down, down, up',
    );
  });
});

describe('what is special about a stroke', () => {
  const one = (word: string) => {
    const reading = parsePattern(`${word} miss, down miss, down miss, up miss`, base);
    if (!('pattern' in reading)) return 'problem' in reading ? reading.problem.message : 'asked';
    return slots(reading.pattern)[0]!.stroke;
  };

  it.each([
    ['DOWN.i', { dir: 'down', accent: 'accent', finger: 'i' }],
    ['DOWN:i', { dir: 'down', accent: 'accent', finger: 'i' }],
    ['BASS:s5f3', { kind: 'bass', accent: 'accent', note: { string: 5, fret: 3 } }],
    ['palm-DOWN', { palm: true, accent: 'accent' }],
    ['PALM-DOWN!', { palm: true, accent: 'strong' }],
    ['tap+DOWN', { tap: 'body', accent: 'accent' }],
    ['TAP+DOWN', { tap: 'body', accent: 'accent' }],
    ['slap+palm-DOWN.p:hammer2', { tap: 'strings', palm: true, accent: 'accent', finger: 'p' }],
    ['HAMMER:s3f4', { kind: 'legato', accent: 'accent' }],
    ['palm-down', { palm: true, accent: 'normal' }],
    ['bass.p', { kind: 'bass', accent: 'normal', finger: 'p' }],
  ])('%s keeps all of it', (word, parts) => {
    expect(one(word)).toMatchObject(parts);
  });

  it('two ornaments of one stroke are refused, and a slide says where to', () => {
    for (const word of [
      'down:hammer2:pull2',
      's5f5+s2f7:slide-2@s5:slide-1',
      's5f5+s2f7:pull1@5:pull2@5',
      '5+2:pull1@5:pull1@4',
    ])
      expect(one(word), word).toMatch('has two ornaments: each wants a string of its own');
    expect(one('slide')).toMatch('“slide” wants a place');
    expect(one('slide:shape')).toEqual({
      kind: 'legato',
      accent: 'normal',
      steps: [{ how: 'slide' }],
    });
  });
});

describe('a triple feel', () => {
  const base = newPattern(METERS['4/4']);
  const read = (text: string, on: Pattern = base) => {
    const reading = parsePattern(text, on);
    if ('choice' in reading) return reading.choice.fits[0]!.pattern;
    if (!('pattern' in reading)) throw new Error(reading.problem.message);
    return reading.pattern;
  };

  it('is four beats in three where it is said so, on an arm that goes with it', () => {
    const shuffled = read('down miss up down miss up down miss up down miss up');
    expect(shuffled.beats.map(({ division }) => division)).toEqual([3, 3, 3, 3]);
    expect(say(shuffled)).toBe('down miss up, down miss up, down miss up, down miss up');
    expect(shuffled.arm.school).toBe('shuffle');
    expect(armReport(shuffled, 90).findings).toEqual([]);
    expect(say(read('down miss up DOWN miss up down miss up down down up'))).toBe(
      'down miss up, DOWN miss up, down miss up, down down up',
    );
    const [bar] = read('d-u d-u d-u d-u | D DU -UDU').beats;
    expect(bar!.division).toBe(3);
  });

  it('is none where the beats differ, or as many strokes are said without a miss', () => {
    expect(read('D DU -UDU').beats.map(({ division }) => division)).toEqual([2, 2, 2, 2]);
    const other = read('down miss down up down miss up down miss down up up');
    expect(other.beats.every(({ division }) => division !== 3)).toBe(true);
    expect(other.arm.school).toBe('alternate');
  });
});

describe('saying a pattern', () => {
  it('speaks it beat by beat', () => {
    expect(say(base)).toBe('down miss, down miss, down miss, down miss');
    expect(read('bass -, DOWN up, (x) u!, chuck:down DOWN!')).toBe(
      'bass miss, DOWN up, (chuck) UP, chuck DOWN!',
    );
  });

  it('reads back to the same pattern, whatever it is', () => {
    fc.assert(
      fc.property(patterns, (pattern) => {
        expect(parsePattern(say(pattern), pattern)).toEqual({ pattern });
      }),
      tries(800),
    );
  });

  it.each([
    ['D DU -UDU', 'down miss, down up, miss up, down up'],
    ['↓ ↓↑ ·↑↓↑', 'down miss, down up, miss up, down up'],
    ['bass, down up, miss up down up', 'bass miss, down up, miss up, down up'],
    ['B-DU xUDU', 'bass miss, down up, chuck up, down up'],
    ['d d d d', 'down miss, down miss, down miss, down miss'],
    ['u u u u', 'miss up, miss up, miss up, miss up'],
    ['D!UD!U', 'DOWN up, DOWN up, DOWN up, DOWN up'],
  ])('fits %j to the arm', (text, words) => {
    expect(read(text)).toBe(words);
  });

  it('goes to sixteenths where eighths are too few', () => {
    expect(read('DUDUDUDUDU')).toBe(
      'down up down up, down up down up, down up miss miss, miss miss miss miss',
    );
  });

  it('never puts a fitted stroke against the arm', () => {
    const letters = fc.array(fc.constantFrom('D', 'U', '-', 'B', 'x'), {
      minLength: 1,
      maxLength: 16,
    });
    fc.assert(
      fc.property(letters, (list) => {
        const fits = fitsOf(list.join(''), base);
        // What is there already is not asked.
        if (fits.length === 0 || say(fits[0]!) === say(base)) return;
        for (const pattern of fits.filter(({ beats }) => beats.length === 4)) {
          const against = armReport(pattern, 90).findings.filter(({ kind }) => kind === 'against');
          if (pattern === fits[0]) expect(against).toEqual([]);
        }
        const struck = (pattern: Pattern) =>
          slots(pattern).filter(({ stroke }) => stroke.kind !== 'miss').length;
        const said = list.filter((letter) => letter !== '-').length;
        // Once through, nothing is lost and nothing added.
        expect(fits.map(struck)).toContain(said);
      }),
    );
  });

  it('says where it cannot read, and why', () => {
    expect(read('down strum up')).toBe(
      '[strum] “strum” is no stroke: say down, up, miss, hold, chuck, bass, roll, tap, or the strings of a pick.',
    );
    expect(read('')).toMatch('Say at least one stroke');
    expect(read('D D D D D D D D D')).toMatch(/^\[D\] From here on it does not fit into 4 beats/);
    expect(read('down up, down, up up up up up, down')).toBeDefined();
  });

  it('takes any text without failing, and keeps the problem inside it', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (text) => {
        const reading = parsePattern(text, base);
        if (!('problem' in reading)) return;
        expect(reading.problem.from).toBeGreaterThanOrEqual(0);
        expect(reading.problem.to).toBeGreaterThan(reading.problem.from);
      }),
    );
  });

  it.each([
    ['bass down-up, miss-up down-up', 'bass miss, down up, miss up, down up'],
    ['bass, down-up, miss-up, down-up', 'bass, down up, miss up, down up'],
    ['palm down and up, low down, heavy chuck, soft up', 'palm-down up, low-down, CHUCK!, (up)'],
    ['R 2 3 2, R+3 2 3 2', 'R 2 3 2, R+3 2 3 2, R 2 3 2, R+3 2 3 2'],
    ['R121 s3', 'R 1, 2 1, 3 miss, miss miss'],
    ['tap+down:i, high-up, roll, open up', 'tap+down.i, high-up, roll4, open-up'],
    ['roll:amip, roll2:pim, sweep down, sweep-up', 'roll4:amip, roll3:pim, sweep-down, sweep-up'],
    ['bass:s5f3 fifth alt', 'bass:s5f3 miss, fifth miss, alternate miss, miss miss'],
  ])('takes %j', (text, words) => {
    expect(read(text)).toBe(words);
  });

  it('keeps bars apart, and makes the pattern as long as what was said', () => {
    expect(read('D DU -UDU | D D D x')).toBe(
      'down miss, down up, miss up, down up | down miss, down miss, down chuck, miss miss',
    );
    expect(read('d | d | d | d | d | d | d | d | d')).toMatch('at most eight bars');
  });

  it('names words that say nothing about a stroke, or wait for one', () => {
    expect(read('down low')).toBe('[low] “low” wants a stroke after it.');
    expect(read('palm chuck up')).toBe('[palm chuck] “palm” says nothing about “chuck”.');
    expect(read('down:s5f3')).toMatch('is no stroke');
  });

  it('offers what is near where it does not fit', () => {
    const reading = parsePattern('D D D D D D D D D', base);
    if (!('problem' in reading)) throw new Error('it fitted');
    const { fits } = reading.problem;
    expect(fits.map(({ label }) => label)).toEqual([
      'One stroke a place, against the arm',
      'Over 3 bars',
      'Only what fits',
    ]);
    const counts = fits.map(
      ({ pattern }) => slots(pattern).filter(({ stroke }) => stroke.kind === 'strum').length,
    );
    expect(counts).toEqual([9, 9, 8]);
    for (const { pattern } of fits) expect(patternSchema.parse(pattern)).toEqual(pattern);
  });
});
