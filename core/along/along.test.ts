import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { newSong, printProgression, readProgression } from '../song';
import { dryMix, USUAL_LEVELS } from '../sound';
import { judgeOnsets } from '../take';
import { barTicks, METERS, pulseTicks, secondsPerTick } from '../time';
import type { BeatMap, HeardLanding } from '../schema';
import { beatMapSchema } from '../schema';
import { tries } from '../properties.test-kit';
import {
  chromaOf,
  doublePulses,
  halvePulses,
  landOn,
  layOn,
  lineOf,
  mapBeats,
  mappedBars,
  movePulse,
  rhythmOf,
  secondsOf,
  sectionsOf,
  setDownbeat,
  suggestChords,
  takeOnMap,
  tickOf,
  TOO_FEW_TAPS,
  trackAgain,
} from '.';

const four = METERS['4/4'];

/** Pulses that drift, as a map. */
const maps: fc.Arbitrary<BeatMap> = fc
  .tuple(
    fc.array(fc.double({ min: 0.25, max: 0.9, noNaN: true }), { minLength: 8, maxLength: 60 }),
    fc.integer({ min: 0, max: 3 }),
  )
  .map(([gaps, one]) => {
    let at = 0.4;
    const pulses = gaps.map((gap) => Number((at += gap).toFixed(4)));
    return { meter: four, pulses, sure: pulses.map(() => 0.8), one, set: [] };
  });

/** A song as it sounds, with the seconds at which its bars begin. */
function recorded(progression: string) {
  const song = newSong({ title: 'Lock', instrument: 'guitar', progression, tempo: 100 });
  const { performance, changes } = arrangement(song);
  const sampleRate = 11_025;
  const sound = dryMix({
    performance,
    meter: song.meter,
    family: 'guitar',
    click: null,
    groove: null,
    levels: USUAL_LEVELS,
    sampleRate,
  });
  const perTick = secondsPerTick(song.tempo, song.meter);
  return { song, changes, perTick, recording: { samples: sound, sampleRate } };
}

describe('a beat map as time', () => {
  it('goes from ticks to seconds and back, also before and after its pulses', () => {
    fc.assert(
      fc.property(maps, fc.integer({ min: -4000, max: 90_000 }), (map, tick) => {
        expect(tickOf(map, secondsOf(map, tick))).toBeCloseTo(tick, 3);
      }),
      tries(100),
    );
  });

  it('has its bars from the one on', () => {
    const map: BeatMap = {
      meter: four,
      pulses: Array.from({ length: 11 }, (_, index) => 1 + index / 2),
      sure: Array.from({ length: 11 }, () => 1),
      one: 2,
      set: [6],
    };
    expect(
      mappedBars(layOn(map, [], []), []).map(({ number, seconds, set }) => [number, seconds, set]),
    ).toEqual([
      [1, 2, false],
      [2, 4, true],
      [3, 6, false],
    ]);
    expect(secondsOf(map, barTicks(four))).toBe(4);
    expect(setDownbeat(map, 7).one).toBe(3);
  });

  it('stays a map whatever is done to it', () => {
    fc.assert(
      fc.property(
        maps,
        fc.nat({ max: 59 }),
        fc.double({ min: -0.2, max: 0.2, noNaN: true }),
        (map, index, by) => {
          const pulse = index % map.pulses.length;
          const list = [
            movePulse(map, pulse, map.pulses[pulse]! + by),
            doublePulses(map),
            halvePulses(map),
            setDownbeat(map, pulse),
          ];
          for (const one of list) expect(beatMapSchema.safeParse(one).success).toBe(true);
        },
      ),
      tries(60),
    );
  });

  it('a pulse that is moved takes those around it along, as far as the next that was set', () => {
    const map: BeatMap = {
      meter: four,
      pulses: Array.from({ length: 20 }, (_, index) => index + 1),
      sure: Array.from({ length: 20 }, () => 0.5),
      one: 0,
      set: [6],
    };
    const moved = movePulse(map, 10, 11.4);
    expect(moved.pulses[10]).toBe(11.4);
    expect(moved.pulses[6]).toBe(7);
    expect(moved.pulses[8]).toBeCloseTo(9.2, 4);
    expect(moved.set).toEqual([6, 10]);
    expect(moved.sure[10]).toBe(1);
    expect(movePulse(map, 10, 30)).toBe(map);
  });
});

describe('beats that are found', () => {
  const { recording, perTick } = recorded('G | Em | C | D | G | Em | C | D');
  const pulse = pulseTicks(four) * perTick;

  it('go through the whole recording from a few taps', () => {
    const taps = [0, 1, 2, 3, 4, 5].map((beat) => (4 + beat) * pulse + 0.02 * ((beat % 3) - 1));
    const map = mapBeats(recording, taps, four);
    if (typeof map === 'string') throw new Error(map);
    const bars = mappedBars(layOn(map, [], []), []).map(({ seconds }) => seconds);
    for (let bar = 0; bar < 8; bar += 1) {
      const off = Math.min(...bars.map((seconds) => Math.abs(seconds - bar * 4 * pulse)));
      expect(off, `bar ${bar}`).toBeLessThan(0.035);
    }
    // A bar that was put elsewhere stays there when the rest is found anew.
    const at = map.pulses[8]! + 0.03;
    const again = trackAgain(recording, movePulse(map, 8, at));
    if (typeof again === 'string') throw new Error(again);
    expect(Math.min(...again.pulses.map((one) => Math.abs(one - at)))).toBeLessThan(1e-6);
  });

  it('end in the bar in which the music ends, though the recording goes on', () => {
    const { samples, sampleRate } = recording;
    const quiet = new Float32Array(samples.length + 8 * sampleRate);
    quiet.set(samples);
    // A hiss, as a room has it, also after the last chord.
    for (let at = 0; at < quiet.length; at += 1) {
      quiet[at] = quiet[at]! + 0.002 * Math.sin(at * at * 0.37);
    }
    const taps = [0, 1, 2, 3, 4, 5].map((beat) => (4 + beat) * pulse);
    const map = mapBeats({ samples: quiet, sampleRate }, taps, four);
    if (typeof map === 'string') throw new Error(map);
    expect(map.pulses.at(-1)!).toBeLessThan(33.5 * pulse);
    expect(map.pulses.at(-1)!).toBeGreaterThan(31.5 * pulse);
  });

  it('are not made up', () => {
    expect(mapBeats(recording, [0, 1, 2], four)).toBe(TOO_FEW_TAPS);
    expect(mapBeats(recording, [0, 0.01, 0.02, 0.03], four)).toBe(TOO_FEW_TAPS);
    const nothing = { samples: new Float32Array(0), sampleRate: 44_100 };
    expect(typeof mapBeats(nothing, [0, 0.5, 1, 1.5], four)).toBe('string');
  });
});

describe('landings', () => {
  const map: BeatMap = {
    meter: four,
    pulses: Array.from({ length: 33 }, (_, index) => 1 + index / 2),
    sure: Array.from({ length: 33 }, () => 1),
    one: 0,
    set: [],
  };

  it('a press goes to the nearest slot, less what presses are late', () => {
    expect(landOn(map, 3.04)).toEqual({ tick: 3840, moved: -40 });
    expect(landOn(map, 3.19, 0.18)).toEqual({ tick: 3840, moved: -190 });
    expect(landOn(map, 2.74).tick).toBe(3360);
  });

  it('become the line of the song, splits and pushes included', () => {
    const landings: HeardLanding[] = [
      { tick: 0, moved: 0, symbol: 'A' },
      { tick: 3360, moved: 0, symbol: 'D' },
      { tick: 7680, moved: 0, symbol: 'A' },
      { tick: 9600, moved: 0, symbol: 'E7' },
      { tick: 11_520, moved: 0, symbol: null },
      { tick: 11_280, moved: 0, symbol: 'A' },
    ];
    expect(lineOf(map, landings)).toBe('A | <D | A E7 | <<A');
    const read = readProgression(lineOf(map, landings), four).sections;
    expect(printProgression(read, four)).toBe('A | <D | A E7 | <<A');
  });

  it('any line comes back from its own landings', () => {
    const chord = fc.constantFrom('A', 'D', 'E7', 'F#m', 'Bm');
    const slot = fc.uniqueArray(fc.integer({ min: 0, max: 31 }), { minLength: 1, maxLength: 10 });
    fc.assert(
      fc.property(slot, fc.array(chord, { minLength: 10, maxLength: 10 }), (slots, names) => {
        const landings = slots
          .sort((a, b) => a - b)
          .map((at, index) => ({ tick: at * 480, moved: 0, symbol: names[index]! }))
          .filter(({ symbol }, index, all) => symbol !== all[index - 1]?.symbol);
        const song = { ...newSong({ title: 'T', instrument: 'guitar', progression: 'A' }) };
        const made = { ...song, sections: sectionsOf(map, landings) };
        const back = arrangement(made).changes.map(({ tick, symbol }) => [tick, symbol]);
        // A push that falls on a place that has a chord already is the one that is left out.
        expect(landings.map(({ tick, symbol }) => [tick, symbol])).toEqual(
          expect.arrayContaining(back),
        );
        expect(back.length).toBeGreaterThanOrEqual(landings.length - 2);
      }),
      tries(60),
    );
  });
});

describe('chords that are suggested', () => {
  it('are the ones that were played, in most bars', () => {
    const { recording, changes, perTick } = recorded('G | Em | C | D7 | Am | F | C | G');
    const right = changes.filter(({ tick, symbol }, index) => {
      const until = changes[index + 1]?.tick ?? tick + 3840;
      const chroma = chromaOf(recording, tick * perTick, until * perTick);
      return suggestChords(chroma).some((guess) => guess.symbol === symbol);
    });
    expect(right.length).toBeGreaterThanOrEqual(7);
  });

  it('say how sure they are, and are not sure of silence', () => {
    const nothing = { samples: new Float32Array(22_050), sampleRate: 22_050 };
    const guesses = suggestChords(chromaOf(nothing, 0, 1));
    expect(guesses).toHaveLength(3);
    expect(Math.max(...guesses.map(({ sure }) => sure))).toBeLessThan(0.5);
    expect(guesses.reduce((sum, { sure }) => sum + sure, 0)).toBeCloseTo(1, 6);
  });
});

describe('a rhythm that is heard', () => {
  it('is what most of its bars strike, with the arm’s own directions', () => {
    const { recording, song, perTick } = recorded('G | Em | C | D | G | Em | C | D');
    const pulse = pulseTicks(four) * perTick;
    const map: BeatMap = {
      meter: four,
      pulses: Array.from({ length: 33 }, (_, beat) => Number((beat * pulse).toFixed(4))),
      sure: Array.from({ length: 33 }, () => 1),
      one: 0,
      set: [],
    };
    const heard = rhythmOf(recording, map, 0, 8, song.pattern)!;
    const strikes = song.pattern.beats.flatMap(({ slots }) =>
      slots.map(({ kind }) => kind !== 'miss'),
    );
    const found = heard.pattern.beats.flatMap(({ slots }) =>
      slots.map(({ kind }) => kind !== 'miss'),
    );
    expect(found).toEqual(strikes);
    const silence = { samples: new Float32Array(22_050 * 8), sampleRate: 22_050 };
    expect(rhythmOf(silence, map, 0, 4, song.pattern)).toBeNull();
  });
});

describe('a take along with a recording', () => {
  it('is judged against its beats: who goes with its drift is clean, who is late is late', () => {
    const progression = 'G | . | Em | C . D . | G | C | . | D x2';
    const song = newSong({ title: 'Lock', instrument: 'guitar', progression, tempo: 100 });
    const arranged = arrangement(song);
    let at = 1;
    const pulses = Array.from({ length: 65 }, (_, beat) => (at += 0.6 + 0.03 * Math.sin(beat / 3)));
    const map: BeatMap = { meter: four, pulses, sure: pulses.map(() => 1), one: 0, set: [] };
    const take = (late: (landing: boolean) => number) =>
      takeOnMap(
        layOn(map, [], arranged.bars),
        arranged.performance.strikes.map(({ tick, dir, landing }, index) => ({
          seconds: secondsOf(map, tick) + 0.006 * ((index % 3) - 1) + late(landing),
          direction: dir,
        })),
        song,
      );
    const clean = judgeOnsets(
      arranged,
      take(() => 0),
    );
    expect(clean.verdict.trouble).toBe('clean');
    const late = judgeOnsets(
      arranged,
      take((landing) => (landing ? 0.08 : 0)),
    );
    expect(late.verdict.trouble).toBe('landings');
    expect(late.drift).toBeLessThan(2);
  });
});
