import { voices } from '../sound';
import { describe, expect, it } from 'vitest';
import type { Song } from '../schema';
import { METERS } from '../time';
import { arrange, barCount, clickBeats, countInTicks, rhythms, whyDifferent } from '.';
import {
  barNumbers,
  landings,
  newSong,
  playedBars,
  printProgression,
  readProgression,
  songChords,
} from '../song';
import { commands } from '../edit';

/** Bars that are not like the others: of another meter, cut short, held, or with another chord in them. */

function song(progression: string, tempo = 120): Song {
  return newSong({ title: 'Winding Hole', instrument: 'guitar', progression, tempo });
}

function problem(text: string): string[] {
  const { problems } = readProgression(text, METERS['4/4']);
  return problems.map(({ from, to, message }) => `${text.slice(from, to)}: ${message}`);
}

const printed = (text: string) => {
  const { sections, order } = readProgression(text, METERS['4/4']);
  return printProgression(sections, METERS['4/4'], order);
};

describe('a bar of another meter', () => {
  it('is as long as its meter says, and what follows comes that much sooner', () => {
    const bars = playedBars(song('A | (2/4) D | E7 | (6/8) A'));
    expect(bars.map(({ tick, ticks }) => [tick, ticks])).toEqual([
      [0, 3840],
      [3840, 1920],
      [5760, 3840],
      [9600, 2880],
    ]);
    expect(bars.map(({ meter }) => `${meter.beats}/${meter.unit}`)).toEqual([
      '4/4',
      '2/4',
      '4/4',
      '6/8',
    ]);
  });

  it('plays the pattern fitted to it, from its start, and lets it begin anew after', () => {
    const turning = { ...song('A | (3/4) D | E7 | A') };
    const two = [...turning.pattern.beats, ...turning.pattern.beats];
    const long = { ...turning, pattern: { ...turning.pattern, beats: two } };
    const parts = rhythms(long, playedBars(long));
    expect(parts.map(([part]) => part!.offset)).toEqual([0, 0, 0, 3840]);
    expect(parts[1]![0]!.pattern.meter).toEqual(METERS['3/4']);
  });

  it('shares its own beats among its chords, with dots for each of them', () => {
    const [, bar] = readProgression('A | (2/4) D E7', METERS['4/4']).sections[0]!.lines[0]!.bars;
    expect(bar!.chords.map(({ at }) => at)).toEqual([0, 960]);
    expect(problem('A | (2/4) D . . .  ')).toEqual([]);
    expect(problem('(3/4) D .')).toEqual([
      'D .: This bar fills 2 of 3 beats: add a dot for each beat that is missing.',
    ]);
  });

  it('is clicked and counted in its own meter', () => {
    const { bars, ticks } = arrange(song('A | (3/4) D | A'));
    expect(clickBeats(bars, 0, ticks).map(({ number }) => number)).toEqual([
      1, 2, 3, 4, 1, 2, 3, 1, 2, 3, 4,
    ]);
    const into = bars[1]!;
    const counted = clickBeats(bars, into.tick - countInTicks(1, into), into.tick, into);
    expect(counted.map(({ number }) => number)).toEqual([1, 2, 3]);
  });

  it('says so where its rhythm is looked for', () => {
    const made = song('A | (2/4) D | (pickup 2) E7');
    const bars = playedBars(made);
    const why = rhythms(made, bars).map((parts, index) => whyDifferent(bars[index]!, parts));
    expect(why).toEqual([null, 'bar 2: in 2/4', 'bar 3: a pick-up of 2 beats']);
  });
});

describe('a pick-up', () => {
  const made = song('(pickup 1) E7 | A | D');

  it('is the last beats of a bar, with the end of the pattern', () => {
    const { strikes, bars, ticks } = arrange(made);
    expect(bars[0]).toMatchObject({ tick: 0, ticks: 960, lead: 2880 });
    expect(ticks).toBe(960 + 2 * 3840);
    const [first] = rhythms(made, playedBars(made))[0]!;
    expect(first).toMatchObject({ offset: 2880, ticks: 960 });
    const slots = strikes.filter(({ bar }) => bar === 0).map(({ slot }) => slot);
    expect(slots).toEqual([6]);
  });

  it('is led into by whole bars and the beats that it leaves out', () => {
    const { bars } = arrange(made);
    const length = countInTicks(1, bars[0]!);
    expect(length).toBe(3840 + 2880);
    expect(clickBeats(bars, -length, 1920).map(({ number }) => number)).toEqual([
      1, 2, 3, 4, 1, 2, 3, 4, 1,
    ]);
    expect(countInTicks(0, bars[0]!)).toBe(0);
  });
});

describe('a chord that is struck once and held', () => {
  it('sounds on its landing alone, and rings on beyond the end', () => {
    const performance = arrange(song('A | D~'));
    const last = performance.strikes.filter(({ bar }) => bar === 1);
    expect(last.map(({ tick }) => tick)).toEqual([3840]);
    expect(performance.ticks).toBe(7680);
    expect(performance.tail).toBe(3840);
    const end = Math.max(...voices(performance, METERS['4/4']).map((voice) => voice.end));
    expect(end).toBeCloseTo(6, 6);
  });

  it('is struck where the pattern has no stroke, and lets the next chord go on', () => {
    const performance = arrange(song('A D~ E7 A'));
    expect(performance.strikes.map(({ tick }) => tick)).toEqual([0, 960, 1920, 2880]);
    const early = arrange(song('A | <D~'));
    expect(early.strikes.filter(({ tick }) => tick >= 3360).map(({ tick }) => tick)).toEqual([
      3360,
    ]);
    expect(early.strikes.at(-1)).toMatchObject({ landing: true, chord: 'D' });
  });
});

describe('a chord that stands in for another', () => {
  const made = song('Verse:\nA[2=Amaj7,last=A6] | D\nOrder: Verse x3');

  it('comes at its time, and the first is there at the others', () => {
    const symbols = landings(playedBars(made)).map(({ symbol }) => symbol);
    expect(symbols).toEqual(['A', 'D', 'Amaj7', 'D', 'A6', 'D']);
    expect(songChords(made)).toEqual(['A', 'Amaj7', 'A6', 'D']);
  });

  it('goes to another capo with the rest', () => {
    const moved = commands.takeCapo(2, -2, false).apply(made);
    expect(songChords(moved)).toEqual(['G', 'Gmaj7', 'G6', 'C']);
  });
});

describe('the line of text', () => {
  it('prints back what it says of such bars', () => {
    for (const text of [
      '(pickup 1) E7 | A | (2/4) D | %',
      '(6/8) A . D . . . | (1/4) .',
      'A[2=Am7,last=A6] | <D[3=D7]~ | A . . E7~',
    ]) {
      expect(printed(text)).toBe(text);
      expect(problem(text)).toEqual([]);
    }
    expect(printed('(PICK-UP 2) A D')).toBe('(pickup 2) A D');
  });

  it('says what is wrong with one that cannot be read, and keeps its words', () => {
    expect(problem('(3/5) A')).toEqual([
      '(3/5): “(3/5)” is no meter and no pick-up: write (2/4) or (pickup 1), of 1 to 3 beats.',
    ]);
    expect(problem('A | (pickup 4) D')[0]).toMatch(/^\(pickup 4\): /);
    expect(problem('(2/4)')).toEqual([
      '(2/4): This bar has a meter but no chord: write one, or . to hold.',
    ]);
    expect(problem('A[2]')).toEqual([
      '2: “2” cannot be read: write the time and the chord, “2=Am7” or “last=A6”.',
    ]);
    expect(problem('A[99=D]')[0]).toMatch(/^99=D: /);
    expect(problem('A[2=D')[0]).toMatch(/^A\[2=D: /);
    expect(problem('A[2=Hx]')).toEqual([
      'Hx: “Hx” is not a chord we know; this place stays silent until it is.',
    ]);
    expect(printed('(3/5) A | D')).toBe('(3/5) A | D');
  });
});

describe('the numbers of the bars', () => {
  it('are those of the chord: 1, 2, 3 while it is held', () => {
    const bars = playedBars(song('A | . | . | <D | . | E7 A'));
    expect(barNumbers(bars, landings(bars))).toEqual([1, 2, 3, 1, 2, 1]);
    const { pattern } = song('A');
    expect(barCount(bars[1]!, pattern, 2)).toEqual(['2', '&', '2', '&', '3', '&', '4', '&']);
    expect(barCount(bars[3]!, pattern, 1)[0]).toBe('1');
    const [early] = playedBars(song('(pickup 1) E7'));
    const last = { ...pattern, beats: pattern.beats.slice(0, 1) };
    expect(barCount(early!, last, 1)).toEqual(['4', '&']);
    const again = playedBars(song('A | A | D'));
    expect(barNumbers(again, landings(again))).toEqual([1, 2, 1]);
  });

  it('play a chord in another shape at the times that are said, and sound it there', () => {
    const written = song('A');
    const up = { frets: [null, 0, 7, 6, 5, 5], fingers: [0, 0, 4, 3, 1, 1] };
    const shaped = commands
      .chooseShape("A'", up)
      .apply(commands.setProgression("Verse:\nA[2=A'] | D\nOrder: Verse x2").apply(written));
    const landed = arrange(shaped).landings;
    expect(landed.map(({ symbol }) => symbol)).toEqual(['A', 'D', "A'", 'D']);
    expect(landed[0]!.strings).not.toEqual(landed[2]!.strings);
    expect(landed[2]!.strings).toEqual([null, 45, 57, 61, 64, 69]);
  });
});
