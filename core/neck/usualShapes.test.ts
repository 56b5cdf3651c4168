import { describe, expect, it } from 'vitest';
import { INSTRUMENTS, parseChord, shapesFor, writeShape } from '.';
import type { Instrument } from '../schema';

const first = (instrument: Instrument, symbol: string) => {
  const [shape] = shapesFor(instrument, parseChord(symbol)!);
  return shape ? writeShape({ ...shape, fingers: shape.fingers }).split('/')[0] : null;
};

/** Pairs of a chord and the shape that players learn first for it. */
function rows(table: string): [string, string][] {
  const words = table.trim().split(/\s+/);
  return Array.from({ length: words.length / 2 }, (_, at) => [words[2 * at]!, words[2 * at + 1]!]);
}

const GUITAR = rows(`
C x32010 D xx0232 E 022100 F 133211 G 320003 A x02220 B x24442
Cm x35543 Dm xx0231 Em 022000 Fm 133111 Gm 355333 Am x02210 Bm x24432
C#m x46654 F#m 244222 G#m 466444 Bbm x13321 Bb x13331 Ab 466544 Db x46664 F# 244322 Eb xx1343
C7 x32310 D7 xx0212 E7 020100 F7 131211 G7 320001 A7 x02020 B7 x21202 Bb7 x13131
Am7 x02010 Bm7 x24232 Cm7 x35343 Dm7 xx0211 Gm7 353333 F#m7 242222
Cmaj7 x32000 Dmaj7 xx0222 Emaj7 021100 Fmaj7 xx3210 Gmaj7 320002 Amaj7 x02120
Dsus2 xx0230 Asus2 x02200 Dsus4 xx0233 Esus4 022200 Asus4 x02230 Gsus4 330013 Cadd9 x32030
C/G 332010 G/B x20033 D/F# 200232 Am/G 302210 F/C x33211 E7#9 076780
C5 x355xx G5 355xxx A5 x022xx D5 xx023x E5 022xxx F5 133xxx
`);
const MANDOLIN = rows(`
C 0230 D 2002 E 1220 F 5301 G 0023 A 2245 Am 2230 Bm 4022 Dm 2001 Em 0220 C7 3230 D7 2032 E7 1020 G7 0021 A7 2243
`);
const BARITONE = rows(`
A 2220 Am 2210 A7 2020 Cmaj7 2000 Bm 4432 Bb 3331 C7 2310 C 2010 G 0003 D 0232 Em 2000 F 3211 Dm 0231 E 2100 D7 0212
`);
const SLASH_ON_UKULELE = rows(`C/G 0003 G/B 0232 D/F# 2220 F/A 2010 Am/G 2000 C/E 0003 G/D 0232`);

describe('the shape that comes first', () => {
  it.each(GUITAR)('on a guitar: %s %s', (symbol, shape) => {
    expect(first(INSTRUMENTS.guitar, symbol)).toBe(shape);
  });
  it.each(MANDOLIN)('on a mandolin: %s %s', (symbol, shape) => {
    expect(first(INSTRUMENTS.mandolin, symbol)).toBe(shape);
  });
  it.each(BARITONE)(
    'on a baritone ukulele, as the guitar’s four high strings: %s %s',
    (symbol, shape) => {
      expect(first(INSTRUMENTS.baritone, symbol)).toBe(shape);
    },
  );
  it('on a ukulele is E as most hold it, and easy ones are offered', () => {
    const of = (symbol: string) =>
      shapesFor(INSTRUMENTS.ukulele, parseChord(symbol)!).map(
        ({ frets, fingers }) => `${frets.join('')}/${fingers.join('')}`,
      );
    expect(of('E')[0]).toBe('4442/2341');
    expect(of('E').map((shape) => shape.split('/')[0])).toEqual(
      expect.arrayContaining(['4447', '1402']),
    );
    expect(of('D7').slice(0, 2)).toEqual(['2223/1112', '2020/1020']);
    expect(of('Dsus2')[0]).toBe('2200/1200');
    expect(of('Dm7')[0]).toBe('2213/2314');
  });
  it.each(SLASH_ON_UKULELE)('of %s on g C E A leaves the slash: %s', (symbol, shape) => {
    expect(first(INSTRUMENTS.ukulele, symbol)).toBe(shape);
  });

  it('says that a slash is left to others, and offers the note itself after it', () => {
    const shapes = shapesFor(INSTRUMENTS.ukulele, parseChord('C/G')!);
    expect(shapes[0]!.reasons[0]).toBe('the slash is left to whoever has a bass');
    expect(shapes[1]!.reasons[0]).not.toBe('the slash is left to whoever has a bass');
    const guitar = shapesFor(INSTRUMENTS.guitar, parseChord('C/G')!);
    expect(guitar[0]!.reasons).not.toContain('the slash is left to whoever has a bass');
  });

  it('of a power chord is held on three strings, then on two, and says so', () => {
    const [three, two] = shapesFor(INSTRUMENTS.guitar, parseChord('G5')!);
    expect([three!.frets, two!.frets]).toEqual([
      [3, 5, 5, null, null, null],
      [3, 5, null, null, null, null],
    ]);
    expect(three!.difficulty).toBeLessThan(
      shapesFor(INSTRUMENTS.guitar, parseChord('F')!)[0]!.difficulty,
    );
    expect([three!.reasons[0], two!.reasons[0]]).toEqual([
      'three strings, no third',
      'two strings, no third',
    ]);
  });
});
