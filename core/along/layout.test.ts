import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { tries } from '../properties.test-kit';
import { type BeatMap, type LaidPart, recordingMapSchema, type Song } from '../schema';
import { newSong } from '../song';
import { dryMix, USUAL_LEVELS } from '../sound';
import { METERS, pulseTicks, secondsPerTick } from '../time';
import {
  beginSong,
  carryLandings,
  carryLayout,
  chromasOf,
  doublePulses,
  findSong,
  landPresses,
  layOn,
  layPart,
  lineOf,
  mappedBars,
  moveDownbeat,
  oddLandings,
  oddsOfPulses,
  onBeats,
  passagesOn,
  pressesOf,
  secondsOf,
  songSecondsAt,
  songTempo,
  songTickAt,
  stretchesOn,
  takeOnMap,
} from '.';

const four = METERS['4/4'];
const song = (progression: string): Song =>
  newSong({ title: 'Towpath', instrument: 'guitar', progression, tempo: 120 });
const evenly = (pulses: number, one = 0, meter = four): BeatMap => ({
  meter,
  pulses: Array.from({ length: pulses }, (_, pulse) => 1 + pulse / 2),
  sure: Array.from({ length: pulses }, () => 1),
  one,
  set: [],
});
const verses = arrangement({
  ...song('Verse:\nG | C | D | G\nReach:\nEm | C'),
  order: ['Verse', 'Reach', 'Verse'].map((name) => ({ name, times: 1 })),
});
const { bars } = verses;

describe('a song on a recording', () => {
  it('begins with the first bar where nothing is said', () => {
    const laid = layOn(evenly(60, 2), [], bars);
    expect(songTickAt(laid, 2)).toBe(0);
    expect(songTickAt(laid, 1.9)).toBeNull();
    expect(songSecondsAt(laid, 3840)).toBe(4);
    expect(mappedBars(laid, bars).map(({ song: bar, seconds }) => [bar, seconds])).toEqual([
      ...bars.map(({ index }) => [index + 1, 2 + 2 * index]),
      ...[22, 24, 26, 28, 30].map((seconds) => [null, seconds]),
    ]);
  });

  it('begins after an intro, a pick-up before its bar line', () => {
    const withPickUp = arrangement({
      ...song('A | D'),
      sections: [
        {
          name: '',
          lines: [
            {
              times: 1,
              bars: [
                { chords: [{ at: 0, push: 0, symbol: 'A' }], pickup: 1 },
                { chords: [{ at: 0, push: 0, symbol: 'D' }] },
                { chords: [{ at: 0, push: 0, symbol: 'A' }] },
              ],
            },
          ],
        },
      ],
    });
    const laid = layOn(evenly(40), beginSong([], 8, withPickUp.bars), withPickUp.bars);
    expect(songSecondsAt(laid, 960)).toBe(5);
    expect(songTickAt(laid, 4.5)).toBe(0);
    expect(songTickAt(laid, 4.4)).toBeNull();
    expect(mappedBars(laid, withPickUp.bars).map((bar) => bar.song)).toEqual([
      null,
      null,
      2,
      3,
      ...Array.from({ length: 6 }, () => null),
    ]);
  });

  it('may rest, come back and go round once more', () => {
    const layout: LaidPart[] = [
      { pulse: 0, bar: null },
      { pulse: 8, bar: 0 },
      { pulse: 24, bar: null },
      { pulse: 32, bar: 0 },
      { pulse: 48, bar: 4 },
    ];
    const laid = layOn(evenly(90), layout, bars);
    expect([1, 5, 12.9, 13, 17, 25].map((at) => songTickAt(laid, at))).toEqual([
      null,
      0,
      15_168,
      null,
      0,
      15_360,
    ]);
    expect(songSecondsAt(laid, 0)).toBe(5);
    expect(songSecondsAt(laid, 0, 18)).toBe(17);
    expect(songTempo(laid, 0, 4 * 3840)).toBeCloseTo(120, 6);
    expect(
      passagesOn(laid, verses).map(({ section, time, from }) => [section, time, from]),
    ).toEqual([
      ['Verse', 1, 5],
      ['Verse', 1, 17],
      ['Reach', 1, 25],
      ['Verse', 2, 29],
    ]);
    const chords = stretchesOn(laid, verses).map(({ symbol }) => symbol);
    expect(chords.slice(0, 6)).toEqual(['G', 'C', 'D', 'G', 'G', 'C']);
    // A take is of the song as it goes on: what comes once more is not judged twice.
    const taken = [1, 4.95, 5, 7, 14, 17, 25].map((seconds) => ({ seconds, direction: null }));
    expect(takeOnMap(laid, taken, verses.song).map(({ seconds }) => seconds)).toEqual([0, 0, 2, 8]);
  });

  const layouts = fc
    .uniqueArray(fc.nat({ max: 80 }), { minLength: 1, maxLength: 6 })
    .chain((pulses) =>
      fc
        .array(fc.option(fc.nat({ max: bars.length - 1 })), {
          minLength: pulses.length,
          maxLength: pulses.length,
        })
        .map((at) => pulses.sort((a, b) => a - b).map((pulse, i) => ({ pulse, bar: at[i]! }))),
    );

  it('covers the recording once, and says the second of every tick that it says', () => {
    fc.assert(
      fc.property(layouts, fc.integer({ min: 0, max: 7 }), (layout, one) => {
        const map = evenly(90, one);
        expect(recordingMapSchema.safeParse({ map, landings: [], layout }).success).toBe(true);
        const laid = layOn(map, layout, bars);
        expect(laid.pieces[0]!.from).toBe(-Infinity);
        expect(laid.pieces.at(-1)!.to).toBe(Infinity);
        laid.pieces.slice(1).forEach(({ from }, at) => expect(from).toBe(laid.pieces[at]!.to));
        for (let seconds = 0.8; seconds < 46; seconds += 0.9) {
          const tick = songTickAt(laid, seconds);
          if (tick === null) continue;
          expect(songSecondsAt(laid, tick, seconds)).toBeCloseTo(seconds, 6);
        }
        const lines = mappedBars(laid, bars);
        lines.slice(1).forEach((bar, at) => expect(bar.pulse).toBeGreaterThan(lines[at]!.pulse));
      }),
      tries(100),
    );
  });

  it('stays where it is in time when the beats are counted anew', () => {
    const map = evenly(60);
    const layout = layPart([{ pulse: 8, bar: 0 }], { pulse: 24, bar: null });
    expect(carryLayout(layout, map, doublePulses(map))).toEqual([
      { pulse: 16, bar: 0 },
      { pulse: 48, bar: null },
    ]);
    expect(beginSong(layout, 12, bars)).toEqual([
      { pulse: 12, bar: 0 },
      { pulse: 24, bar: null },
    ]);
    expect(moveDownbeat(layout, 13, mappedBars(layOn(map, layout, bars), bars))[0]!.pulse).toBe(9);
    const landed = [{ tick: 3840, moved: 5, symbol: 'A' }];
    const [twice] = carryLandings(landed, map, doublePulses(map));
    expect(secondsOf(doublePulses(map), twice!.tick)).toBe(secondsOf(map, 3840));
  });

  it('gives its line from where the song begins', () => {
    const landings = ['Am', 'G', 'C'].map((symbol, bar) => ({
      tick: bar * 3840,
      moved: 0,
      symbol,
    }));
    expect(lineOf(evenly(40), landings, 3840)).toBe('G | C');
  });
});

/** A song as it sounds after so many bars of sticks. */
function heard(of: Song, intro: number) {
  const { performance, ...arranged } = arrangement(of);
  const sampleRate = 11_025;
  const sound = dryMix({
    performance,
    meter: of.meter,
    family: 'guitar',
    click: null,
    groove: null,
    levels: USUAL_LEVELS,
    sampleRate,
  });
  const pulse = pulseTicks(of.meter) * secondsPerTick(of.tempo, of.meter);
  const each = of.meter.beats;
  const before = Math.round(intro * each * pulse * sampleRate);
  const samples = new Float32Array(before + sound.length);
  samples.set(sound, before);
  for (let stick = 0; stick < intro * each; stick += 1) {
    const from = Math.round(stick * pulse * sampleRate);
    for (let at = 0; at < 200; at += 1) {
      samples[from + at] = 0.3 * Math.sin(at * at) * Math.exp(-at / 60);
    }
  }
  const count = Math.round(performance.ticks / pulseTicks(of.meter)) + intro * each;
  const pulses = Array.from({ length: count + 1 }, (_, at) => at * pulse);
  const map = { meter: of.meter, pulses, sure: pulses.map(() => 1), one: 0, set: [] };
  return { map, odds: oddsOfPulses(chromasOf({ samples, sampleRate }, map)), arranged };
}

describe('the song is found by its chords', () => {
  it.each([1, 2, 3])('after %i bars of sticks', (intro) => {
    const { map, odds, arranged } = heard(song('G | Em | C | D7 | Am | F | C . D . | G'), intro);
    expect(findSong(map, odds, arranged, 0)).toEqual([
      { pulse: 0, bar: null },
      { pulse: intro * 4, bar: 0 },
    ]);
  });

  it('with a passage that comes once more than the song has it', () => {
    const parts = 'Verse:\nG | Em | C | D\nReach:\nAm | F | Bm | E';
    const written = song(parts);
    const order = ['Verse', 'Verse', 'Reach'].map((name) => ({ name, times: 1 }));
    const { map, odds } = heard({ ...written, order }, 0);
    expect(findSong(map, odds, arrangement(written), 0)).toEqual([
      { pulse: 0, bar: 0 },
      { pulse: 16, bar: 0 },
    ]);
  });

  it('says nothing where the song lies on the first bar, or its chords are others', () => {
    const { map, odds, arranged } = heard(song('G | Em | C | D7'), 0);
    expect(findSong(map, odds, arranged, 0)).toBeNull();
    expect(findSong(map, odds, arrangement(song('F#m | G#m | Bb | Eb')), 0)).toBeNull();
    expect(findSong(map, [], arranged, 0)).toBeNull();
    // A song that is only begun is found in any recording that has its chord: that says nothing.
    const { map: long, odds: all } = heard(song('G | Em | C | D7 | Am | F | C | G'), 0);
    expect(findSong(long, all, arrangement(song('Am')), 0)).toBeNull();
    expect(findSong(long, all, arrangement(song('Am | F')), 0)).toBeNull();
    const capo = arrangement(song('F | Dm | Bb | C7'));
    expect(findSong(map, odds, capo, 2)).toBeNull();
  });
});

describe('presses of one player', () => {
  const map = evenly(60);
  const pressed = (ticks: number[], late: number) =>
    ticks.map((tick, at) => ({
      seconds: secondsOf(map, tick) + late + 0.02 * Math.sin(at * 7),
      symbol: null,
    }));

  it('land where they were meant, however late they all are', () => {
    const ticks = [0, 3840, 7680, 9600, 11_040, 15_360, 19_200];
    for (const late of [0, 0.04, 0.06, 0.08, 0.1]) {
      const landed = landPresses(map, pressed(ticks, late));
      expect(landed.map(({ tick }) => tick)).toEqual(ticks);
      // The presses themselves are kept, so that more of them can put the first ones right.
      expect(landPresses(map, pressesOf(map, landed)).map(({ tick }) => tick)).toEqual(ticks);
    }
  });

  it('are asked about where they lie alone between the beats', () => {
    const landings = [0, 3840, 4080, 7680, 10_560].map((tick) => ({
      tick,
      moved: 0,
      symbol: null,
    }));
    const odd = oddLandings(map, landings);
    expect(odd.map(({ tick }) => tick)).toEqual([4080]);
    const alone = landings.filter(({ tick }) => tick !== 3840);
    expect(onBeats(map, alone, odd).map(({ tick }) => tick)).toEqual([0, 3840, 7680, 10_560]);
    expect(onBeats(map, landings, odd)).toEqual(landings);
  });
});
