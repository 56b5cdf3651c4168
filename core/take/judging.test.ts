import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { tries } from '../properties.test-kit';
import { noise } from '../random';
import type { Song } from '../schema';
import { beatTicks, pulseTicks, secondsPerTick } from '../time';
import { judgeOnsets, marksOf } from '.';
import { align } from './align';
import { LEAST_TOLERANCE, MAX_TOLERANCE, toleranceOf } from './groups';
import { isRight, LEAD, onsetsOf, shelfSongs, songOn, struggles } from './struggles.test-kit';

/** Tempos of the table; more of them, and the songs of the demo, are in the bench. */
const TEMPOS = [50, 80, 120];
const KNOWN = { begins: LEAD };
const songs = shelfSongs();
const at = (song: Song, tempo: number): Song => ({ ...song, tempo });

describe('what is judged how', () => {
  const rows = new Map<string, { all: number; right: number; said: Map<string, number> }>();
  let [all, right] = [0, 0];
  for (const song of songs) {
    for (const tempo of TEMPOS) {
      const arranged = arrangement(at(song, tempo));
      for (const [index, one] of struggles(arranged.song).entries()) {
        const taken = onsetsOf(arranged, { seed: 7 * index + tempo, ...one.habits });
        const judged = judgeOnsets(arranged, taken, KNOWN);
        const row = rows.get(one.what) ?? { all: 0, right: 0, said: new Map() };
        rows.set(one.what, row);
        const good = isRight(one, judged);
        row.all += 1;
        all += 1;
        if (good) {
          row.right += 1;
          right += 1;
        }
        const { trouble, then } = judged.verdict;
        const said = one.right.length > 1 && then ? `${trouble}, then ${then.trouble}` : trouble;
        row.said.set(said, (row.said.get(said) ?? 0) + 1);
      }
    }
  }

  it('is right in 98 of 100', () => {
    expect(all).toBeGreaterThan(300);
    expect(right / all).toBeGreaterThanOrEqual(0.98);
  });

  it('stands in the docs as it is', async () => {
    const list = (said: Map<string, number>) =>
      [...said]
        .sort(([a, x], [b, y]) => y - x || a.localeCompare(b))
        .map(([word, count]) => `${word} ${count}`)
        .join(', ');
    const lines = [
      '# What a take is judged as',
      '',
      'Made by `core/take/judging.test.ts`: made-up players, told as onsets, on patterns of the shelf in',
      `3/4, 6/8, twelve counts and sixteenths at ${TEMPOS.join(' and ')}. \`npm run bench\` has the songs of the demo, other tempos and sound.`,
      '',
      '| what the player does | takes | right | said |',
      '| --- | --: | --: | --- |',
      ...[...rows].map(
        ([what, row]) => `| ${what} | ${row.all} | ${row.right} | ${list(row.said)} |`,
      ),
      '',
    ];
    await expect(lines.join('\n')).toMatchFileSnapshot('../../docs/judging.md');
  });

  it('leaves who plays in time alone', () => {
    const takes = songs.flatMap((song) =>
      [50, 80, 120].flatMap((tempo) => {
        const arranged = arrangement(at(song, tempo));
        return Array.from({ length: 17 }, (_, index) => {
          const jitter = 1 + (11 * index) / 16;
          return judgeOnsets(arranged, onsetsOf(arranged, { seed: 40 + index, jitter }), KNOWN);
        });
      }),
    );
    const clean = takes.filter(({ verdict }) => verdict.trouble === 'clean');
    expect(takes.length).toBe(204);
    expect(clean.length).toBeGreaterThanOrEqual(0.98 * takes.length);
    for (const { verdict } of clean) expect(verdict.advice).toBe('up');
  });
});

describe('a stroke in its territory', () => {
  it('is reported with its shift, whatever third of the strokes is shifted', () => {
    fc.assert(
      fc.property(fc.constantFrom(...songs), fc.nat(10_000), (song, seed) => {
        const { performance } = arrangement(song);
        const places = performance.strikes.map(({ seconds }) => seconds);
        const random = noise(seed);
        const even = () => (random() + 1) / 2;
        const gap = (index: number) => (places[index + 1] ?? Infinity) - places[index]!;
        const shifts = places.map((_, index) => {
          if (even() > 1 / 3 || index === 0 || index === places.length - 1) return 0;
          const [back, on] = [gap(index - 1) / 2, gap(index) / 2];
          return 0.96 * (even() * (back + on) - back);
        });
        const heard = places.map((seconds, index) => ({
          seconds: LEAD + 0.04 + seconds + shifts[index]!,
          strength: 1,
        }));
        const perTick = secondsPerTick(song.tempo, song.meter);
        const beat = Math.max(beatTicks(song.meter), pulseTicks(song.meter) / 3) * perTick;
        const meant = places.map((seconds) => ({ seconds }));
        const found = align(heard, meant, beat, LEAD)!;
        expect(found.matches).toHaveLength(places.length);
        for (const { heard: index, expected } of found.matches) {
          const off = heard[index]!.seconds - found.at(expected);
          expect(Math.abs(off - shifts[expected]!)).toBeLessThan(0.005);
        }
      }),
      tries(20),
    );
  });

  it('is marked while it is played as it is judged', () => {
    const { performance } = arrangement(songs[0]!);
    const { strikes } = performance;
    const struck = strikes.map((strike, index) => strike.tick + (index % 3 === 1 ? 150 : 0));
    const marks = marksOf(strikes, [...struck, strikes[0]!.tick + 20], 60);
    expect(marks.map(({ is }) => is)).toEqual([
      ...struck.map((_, index) => (index % 3 === 1 ? 'late' : 'in time')),
      'added',
    ]);
    expect(marks.filter(({ landing }) => landing).length).toBe(performance.landings.length - 1);
  });
});

describe('what follows from a verdict', () => {
  const song = at(songOn('Rolling sixteenths'), 80);
  const arranged = arrangement(song);
  const judged = (habits: object) =>
    judgeOnsets(arranged, onsetsOf(arranged, { seed: 3, jitter: 6, ...habits }), KNOWN);

  it('counts strokes, those that were meant', () => {
    const { verdict, counted } = judged({ leavesOut: { what: { slot: 3 }, share: 1 } });
    expect(counted).toMatchObject({ meant: 96, soft: 0, heard: 88 });
    expect(verdict.sentence).toBe(
      `The a of 1 is left out each time. ${counted!.good} of 96 strokes within 30 ms.`,
    );
    expect(verdict.strokes).toHaveLength(8);
    expect(verdict.advice).not.toBe('up');
  });

  it('says first that the tempo was another, and does not call it uneven', () => {
    for (const pace of [0.5, 0.8, 1.3, 2]) {
      const { verdict, playedAt } = judged({ pace });
      expect(verdict.sentence).toMatch(`You played at ${Math.round(80 * pace)}; 80 was asked.`);
      expect(verdict.then).toBeUndefined();
      expect(playedAt).toBeCloseTo(80 * pace, 0);
    }
  });

  it('tells each stop with its length, and at what tempo the hand can do the change', () => {
    const { verdict, slips } = judged({ landingsLate: 400, afterLate: 'goes on' });
    expect(verdict).toMatchObject({ trouble: 'waits', hand: 'fretting', advice: 'down' });
    expect(slips).toHaveLength(7);
    for (const { seconds } of slips) expect(seconds).toBeCloseTo(0.4, 1);
    expect(verdict.sentence).toMatch(/Your hand needs \d+ ms there, the song gives \d+\./);
    expect(verdict.tempo).toBeLessThan(76);
    expect(verdict.loop).not.toBeNull();
  });

  it('names two troubles, what a teacher would mend first and what comes then', () => {
    const { verdict } = judged({ landingsLate: 90, drift: 5 });
    expect(verdict.trouble).toBe('landings');
    expect(verdict.then?.trouble).toBe('rushing');
  });
});

describe('in time', () => {
  it('follows the shortest gap, between what an ear notices and what another player does', () => {
    const every = (gap: number) => Array.from({ length: 9 }, (_, at) => at * gap);
    expect(toleranceOf(every(0.1))).toBe(LEAST_TOLERANCE);
    expect(toleranceOf(every(0.3))).toBe(36);
    expect(toleranceOf(every(1))).toBe(MAX_TOLERANCE);
    expect([LEAST_TOLERANCE, MAX_TOLERANCE]).toEqual([30, 45]);
  });
});
