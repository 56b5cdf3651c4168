import { describe, expect, it } from 'vitest';
import { INSTRUMENTS } from '../neck';
import type { InstrumentId, Song } from '../schema';
import { newSong } from '../song';
import { booklet, changeover, easiestOrder, USUAL_SHEET } from '.';

const song = (title: string, capo = 0, instrument: InstrumentId = 'guitar'): Song => ({
  ...newSong({ title, instrument: 'guitar', progression: 'G | C | D | G' }),
  capo,
  instrument: INSTRUMENTS[instrument],
});
const lock = song('Lock');
const weir = song('Weir', 2);
const sill = song('Sill', 0, 'guitar-drop-d');
const uke = song('Reed', 0, 'ukulele');

describe('what is done between two songs', () => {
  it('is said: a capo, strings, another instrument', () => {
    expect(changeover(lock, lock)).toEqual({ does: [], effort: 0 });
    expect(changeover(lock, weir).does).toEqual(['Capo to fret 2.']);
    expect(changeover(weir, lock).does).toEqual(['Capo off.']);
    expect(changeover(lock, sill).does).toEqual([
      expect.stringMatching(/^Retune .*from E to D\.$/),
    ]);
    expect(changeover(weir, uke).does).toEqual(['Take up the ukulele.', 'Capo off.']);
    const low = { ...uke, instrument: INSTRUMENTS['ukulele-low'] };
    expect(changeover(uke, low).does).toEqual([
      'Take up the low-G ukulele, or put on the low G string.',
    ]);
    expect(changeover(low, uke).does).toEqual([
      'Take up the ukulele, or put on the high G string.',
    ]);
  });

  it('is least in the order that is proposed, which else stays as it is', () => {
    expect(easiestOrder([lock, weir, lock, weir])).toEqual([0, 2, 1, 3]);
    expect(easiestOrder([lock, song('Oar'), song('Rope')])).toEqual([0, 1, 2]);
    const all = [uke, lock, song('Rush', 0, 'ukulele'), sill, weir];
    const effort = (order: number[]) =>
      order
        .slice(1)
        .reduce((sum, to, at) => sum + changeover(all[order[at]!]!, all[to]!).effort, 0);
    const orders = permutations(all.map((_, index) => index));
    expect(effort(easiestOrder(all))).toBe(Math.min(...orders.map(effort)));
  });

  it('is small for a long evening too', () => {
    const many = Array.from({ length: 30 }, (_, index) => song(`Song ${index}`, index % 3));
    const order = easiestOrder(many);
    expect([...order].sort((a, b) => a - b)).toEqual(many.map((_, index) => index));
    const capos = order.map((index) => many[index]!.capo);
    expect(capos.filter((capo, index) => index > 0 && capo !== capos[index - 1])).toHaveLength(2);
  });
});

function permutations(list: number[]): number[][] {
  if (list.length < 2) return [list];
  return list.flatMap((one, index) =>
    permutations(list.filter((_, other) => other !== index)).map((rest) => [one, ...rest]),
  );
}

describe('a booklet', () => {
  const made = booklet([lock, weir, uke], USUAL_SHEET, 'Lantern evening');
  const words = (page: number) =>
    made.pages[page]!.items.flatMap((item) => (item.kind === 'text' ? [item.text] : []));

  it('has contents with the pages of the songs, and numbers through all', () => {
    expect(made.pages).toHaveLength(4);
    expect(words(0)).toEqual(
      expect.arrayContaining(['Lantern evening', 'Lock', 'Weir', 'Reed', '2', '3', '4']),
    );
    expect(words(3)).toContain('4 of 4');
    expect(words(0)).toContain('1 of 4');
  });

  it('says before a song what has to be done for it', () => {
    expect(words(1).join(' ')).not.toContain('Capo');
    expect(words(2)).toContain('Capo to fret 2.');
    expect(words(3)).toContain('Take up the ukulele. Capo off.');
    const all = booklet([lock, uke], { ...USUAL_SHEET, instrument: 'ukulele' }, 'All on ukulele');
    expect(
      all.pages[0]!.items.every((item) => item.kind !== 'text' || !item.text.includes('Take up')),
    ).toBe(true);
  });
});
