import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { type Song, songSchema } from '../schema';
import { newPattern } from '../pattern';
import { METERS } from '../time';
import {
  barCommands,
  type BarPlace,
  barsOfSpan,
  type Command,
  isInSpan,
  passageLengths,
  passageList,
  rhythmCommands,
} from '.';
import { newSong, playedBars, printProgression } from '../song';

function song(progression: string): Song {
  return newSong({ title: 'Balance Beam', instrument: 'guitar', progression });
}
const text = ({ sections, meter, order }: Song) => printProgression(sections, meter, order);
const place = (section: number, line: number, bar: number): BarPlace => ({ section, line, bar });
const done = (start: Song, ...list: Command[]) =>
  songSchema.parse(list.reduce((now, { apply }) => apply(now), start));

const start = song('Verse:\nA | D | E7\nF#m | Bm\nChorus:\nD | A x2');
const middle = { from: place(0, 0, 1), to: place(0, 1, 0) };

describe('bars', () => {
  it('are copied from a span over lines, whichever end comes first', () => {
    const symbols = barsOfSpan(start, middle).map(({ chords }) => chords[0]!.symbol);
    expect(symbols).toEqual(['D', 'E7', 'F#m']);
    expect(barsOfSpan(start, { from: middle.to, to: middle.from })).toHaveLength(3);
    expect(isInSpan(place(0, 1, 1), middle)).toBe(false);
  });

  it('are put in before a bar, after the last, or in a section without any', () => {
    const bars = barsOfSpan(start, middle);
    expect(text(done(start, barCommands.insertBars(place(1, 0, 0), bars)))).toBe(
      'Verse:\nA | D | E7\nF#m | Bm\nChorus:\nD | E7 | F#m | D | A x2',
    );
    const after = done(start, barCommands.insertBars(place(1, 0, 2), bars.slice(0, 1)));
    expect(text(after)).toContain('Chorus:\nD | A | D x2');
    const bare = song('Verse:\nTag:\nA');
    expect(text(done(bare, barCommands.insertBars(place(0, 0, 0), bars)))).toBe(
      'Verse:\nD | E7 | F#m\nTag:\nA',
    );
  });

  it('are put in the place of others, with the rules that they carry', () => {
    const stopped = done(start, rhythmCommands.setBarRules(place(1, 0, 1), { stop: 960 }));
    const bars = barsOfSpan(stopped, { from: place(1, 0, 1), to: place(1, 0, 1) });
    const over = done(stopped, barCommands.replaceBars(middle, bars));
    expect(text(over)).toBe('Verse:\nA | %\nBm\nChorus:\nD | A x2');
    expect(over.sections[0]!.lines[0]!.bars[1]!.rules).toEqual({ stop: 960 });
  });

  it('are taken out, and their line with them where nothing is left', () => {
    expect(text(done(start, barCommands.removeBars(middle)))).toBe(
      'Verse:\nA\nBm\nChorus:\nD | A x2',
    );
    const line = { from: place(0, 1, 0), to: place(0, 1, 1) };
    expect(text(done(start, barCommands.removeBars(line)))).toBe(
      'Verse:\nA | D | E7\nChorus:\nD | A x2',
    );
  });

  it('are played once more, right after', () => {
    const span = { from: place(0, 0, 0), to: place(0, 0, 1) };
    expect(text(done(start, barCommands.repeatBars(span)))).toContain('A | D | A | D | E7');
  });

  it('lose nothing when they are put in and taken out again', () => {
    fc.assert(
      fc.property(progressions, fc.nat(5), fc.nat(5), (progression, one, other) => {
        const any = song(progression);
        const places = any.sections.flatMap(({ lines }, section) =>
          lines.flatMap(({ bars }, line) => bars.map((_, bar) => place(section, line, bar))),
        );
        if (places.length === 0) return;
        const [from, to] = [places[one % places.length]!, places[other % places.length]!];
        const bars = barsOfSpan(any, { from, to });
        const more = done(any, barCommands.insertBars(from, bars));
        const end = { ...from, bar: from.bar + bars.length - 1 };
        expect(done(more, barCommands.removeBars({ from, to: end }))).toEqual(any);
        const over = done(any, barCommands.replaceBars({ from, to }, bars));
        const all = (now: Song) =>
          now.sections.flatMap(({ lines }) => lines.flatMap((l) => l.bars));
        expect(all(over)).toEqual(all(any));
      }),
      tries(120),
    );
  });
});

describe('what a bar does of its own', () => {
  it('is another meter, or a pick-up; chords beyond its end are let go', () => {
    const odd = done(song('A . D . | E7'), barCommands.setBarMeter(place(0, 0, 0), METERS['2/4']));
    expect(text(odd)).toBe('(2/4) A | E7');
    expect(text(done(odd, barCommands.setBarMeter(place(0, 0, 0), null)))).toBe('A | E7');
    const early = done(song('E7 | A'), barCommands.setPickup(place(0, 0, 0), 1));
    expect(text(early)).toBe('(pickup 1) E7 | A');
    expect(text(done(early, barCommands.setPickup(place(0, 0, 0), 4)))).toBe('E7 | A');
  });

  it('fits its own rhythm to that meter', () => {
    const own = { of: 'bar', ...place(0, 0, 0) } as const;
    const given = done(
      song('A | E7'),
      rhythmCommands.setRhythm(own, newPattern(METERS['4/4'], 'Mine')),
      barCommands.setBarMeter(place(0, 0, 0), METERS['3/4']),
    );
    expect(given.sections[0]!.lines[0]!.bars[0]!.rules!.pattern!.meter).toEqual(METERS['3/4']);
  });

  it('is a chord that is held, or another chord at a time', () => {
    const held = done(
      song('A | E7'),
      barCommands.setFermata(place(0, 0, 1), 0, true),
      barCommands.setSubstitute(place(0, 0, 0), 0, 2, 'Am7'),
      barCommands.setSubstitute(place(0, 0, 0), 0, 'last', 'A6'),
      barCommands.setSubstitute(place(0, 0, 0), 0, 2, 'Amaj7'),
    );
    expect(text(held)).toBe('A[last=A6,2=Amaj7] | E7~');
    const plain = done(
      held,
      barCommands.setFermata(place(0, 0, 1), 0, false),
      barCommands.setSubstitute(place(0, 0, 0), 0, 2, null),
      barCommands.setSubstitute(place(0, 0, 0), 0, 'last', null),
    );
    expect(text(plain)).toBe('A | E7');
  });
});

describe('sections and passages', () => {
  it('are moved: sections as they are written, passages where there is an order', () => {
    expect(text(done(start, barCommands.movePassage(1, 0)))).toMatch(/^Chorus:/);
    const ordered = done(
      start,
      barCommands.setOrder([
        { name: 'Verse', times: 1 },
        { name: 'Chorus', times: 2 },
        { name: 'Verse', times: 1 },
      ]),
      barCommands.movePassage(1, 0),
    );
    expect(ordered.order!.map(({ name }) => name)).toEqual(['Chorus', 'Verse', 'Verse']);
    expect(text(ordered)).toMatch(/^Verse:/);
    expect(done(ordered, barCommands.setOrder(null)).order).toBeUndefined();
    expect(passageList(start)).toEqual([
      { name: 'Verse', times: 1 },
      { name: 'Chorus', times: 1 },
    ]);
  });

  it('have as many bars as all their times round', () => {
    const song = {
      ...start,
      order: [
        { name: 'Chorus', times: 2 },
        { name: 'Verse', times: 1 },
      ],
    };
    const [verse, chorus] = passageLengths(start, playedBars(start));
    expect(verse! + chorus!).toBe(playedBars(start).length);
    expect(passageLengths(song, playedBars(song))).toEqual([2 * chorus!, verse!]);
    const gone = {
      ...start,
      order: [
        { name: 'Bridge', times: 3 },
        { name: 'Verse', times: 1 },
      ],
    };
    expect(passageLengths(gone, playedBars(gone))).toEqual([0, verse!]);
  });

  it('are put in under a free name, renamed and taken out, the order with them', () => {
    const ordered = done(start, barCommands.setOrder([{ name: 'Verse', times: 2 }]));
    const more = done(ordered, barCommands.insertSection(0, ordered.sections[0]!));
    expect(more.sections.map(({ name }) => name)).toEqual(['Verse', 'Verse 2', 'Chorus']);
    expect(more.order).toEqual([
      { name: 'Verse', times: 2 },
      { name: 'Verse 2', times: 1 },
    ]);
    expect(playedBars(more)).toHaveLength(15);
    const renamed = done(more, barCommands.renameSection(1, 'Bridge'));
    expect(renamed.order![1]!.name).toBe('Bridge');
    const fewer = done(renamed, barCommands.removeSection(0));
    expect(fewer.order).toEqual([{ name: 'Bridge', times: 1 }]);
  });
});
