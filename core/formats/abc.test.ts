import abcjs from 'abcjs';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { said } from '../pattern/said.test-kit';
import type { Song } from '../schema';
import { newSong } from '../song';
import { toAbc } from './abc';

interface ReadNote {
  el_type: string;
  duration?: number;
  chord?: { name: string }[];
  decoration?: string[];
  rest?: unknown;
  startTriplet?: number;
  tripletMultiplier?: number;
  endTriplet?: boolean;
  startTie?: unknown;
  pitches?: { startTie?: unknown; endTie?: unknown }[];
}

/** What another reader finds: each bar's notes, with the whole note as 1. */
function bars(song: Song): ReadNote[][] {
  const [tune] = abcjs.parseOnly(toAbc(song)) as unknown as {
    warnings?: string[];
    lines: { staff?: { voices: ReadNote[][] }[] }[];
  }[];
  expect(tune!.warnings).toBeUndefined();
  const all = tune!.lines.flatMap(({ staff }) => staff?.[0]?.voices[0] ?? []);
  const found: ReadNote[][] = [[]];
  let times = 1;
  for (const one of all) {
    if (one.el_type === 'bar') found.push([]);
    else if (one.el_type === 'note') {
      // Inside a triplet this reader tells lengths as they are written.
      times = one.startTriplet ? one.tripletMultiplier! : times;
      found.at(-1)!.push({ ...one, duration: (one.duration ?? 0) * times });
      if (one.endTriplet) times = 1;
    }
  }
  return found.filter((bar) => bar.length > 0);
}

function song(progression: string, words: string): Song {
  const start = newSong({
    title: 'Weir “and” sluice % 1',
    instrument: 'guitar',
    progression,
    tempo: 92,
  });
  return { ...start, pattern: said(words) };
}

describe('a song as ABC', () => {
  const weir = song('Verse:\nG | Bm | C . <D . | G', 'down miss, DOWN up, miss up, chuck up');

  it('has every bar as long as it is, and every chord where it lands, for another reader', () => {
    const read = bars(weir);
    const arranged = arrangement(weir);
    expect(read).toHaveLength(arranged.bars.length);
    for (const bar of read) {
      expect(bar.reduce((sum, { duration = 0 }) => sum + duration, 0)).toBeCloseTo(1, 6);
    }
    const landings = read.flatMap((bar, index) => {
      let at = index;
      return bar.flatMap((one) => {
        const now = at;
        at += one.duration ?? 0;
        return (one.chord ?? []).map(({ name }) => [now * 3840, name]);
      });
    });
    expect(landings).toEqual(
      arranged.performance.landings.map(({ tick, symbol }) => [tick, symbol]),
    );
  });

  it('has the signs of down and up, and damped strokes apart', () => {
    const [first] = bars(weir);
    const struck = first!.filter(({ decoration }) => decoration);
    expect(struck.map(({ decoration }) => decoration)).toEqual([
      ['downbow'],
      ['accent', 'downbow'],
      ['upbow'],
      ['upbow'],
      ['downbow'],
      ['upbow'],
    ]);
    expect(toAbc(weir)).toContain('!style=x!v');
  });

  it('writes triplets, dotted lengths and rests', () => {
    const odd = song('G | C', 'down miss up, down, miss miss up miss, down up');
    for (const bar of bars(odd)) {
      expect(bar.reduce((sum, { duration = 0 }) => sum + duration, 0)).toBeCloseTo(1, 6);
    }
    const late = song('G | C', 'miss, miss, down, up');
    expect(bars(late)[0]![0]!.rest).toBeDefined();
  });
});
