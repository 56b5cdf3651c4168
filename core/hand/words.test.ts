import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { INSTRUMENTS } from '../neck';
import { said } from '../pattern/said.test-kit';
import type { Shape, Song } from '../schema';
import { newSong } from '../song';
import { describeKind, describeMove, handReport, quickestSet, songHand } from '.';
import { changeDuration } from './need';

const song = (
  progression: string,
  tempo = 88,
  words = 'down up, down up, down up, down up',
): Song => ({
  ...newSong({ title: 'Weir', instrument: 'guitar', progression, tempo }),
  pattern: said(words),
});
const shape = (frets: (number | null)[], fingers: number[]): Shape => ({ frets, fingers });
const C = shape([null, 3, 2, 0, 1, 0], [0, 3, 2, 0, 1, 0]);
const F = shape([1, 3, 3, 2, 1, 1], [1, 3, 4, 2, 1, 1]);
const EM = shape([0, 2, 2, 0, 0, 0], [0, 2, 3, 0, 0, 0]);
const guitar = INSTRUMENTS.guitar;
const moves = (from: Shape, to: Shape) =>
  changeDuration(from, to, 65).fingers.map(
    (finger) => `${finger.move.finger} ${describeMove(guitar, finger)}`,
  );

describe('what fingers do, in words', () => {
  it('names strings and frets, and how many a barre lies over', () => {
    expect(moves(C, F)).toEqual([
      '1 lies down over 6 strings at fret 1',
      '2 moves to the G string, fret 2',
      '3 stays on the A string, fret 3',
      '4 lands on the D string, fret 3',
    ]);
    expect(moves(F, C)[0]).toBe('1 gets up to the B string, fret 1');
    expect(moves(EM, shape([0, 0, 0, 0, 0, 0], [0, 0, 0, 0, 0, 0]))).toEqual([
      '2 lifts off the A string, fret 2',
      '3 lifts off the D string, fret 2',
    ]);
  });

  it('says what a change has to spare, or is short of', () => {
    const hard = handReport(arrangement(song('C | F', 140))).kinds[0]!;
    expect(describeKind(hard, 140)).toMatch(/^C to F: \d+ ms short at 140, possible up to \d+$/);
    const easy = handReport(arrangement(song('C | F', 40))).kinds[0]!;
    expect(describeKind(easy, 40)).toMatch(/^C to F: \d+ ms to spare at 40, possible up to \d+$/);
    const bass = handReport(
      arrangement(song('C | Am', 90, 'bass miss, miss miss, bass miss, miss miss')),
    );
    expect(describeKind(bass.kinds[0]!, 90)).toBe('C to Am: always works');
  });
});

describe('the changes as plain data', () => {
  it('can be sent as they are, name their bars from one and where time is least', () => {
    const found = songHand(arrangement(song('C | F | C | F . C .', 120)));
    expect(JSON.parse(JSON.stringify(found))).toEqual(found);
    const into = found.changes.find(({ from }) => from === 'C')!;
    expect(into).toMatchObject({ to: 'F', times: 2, bars: [2, 4], measured: false });
    expect(into.bars).toContain(into.bar);
    expect(into.fingers.find(({ finger }) => finger === into.tightest)!.ceiling).toBe(into.ceiling);
    for (const { ceiling, gain } of into.advice) {
      if (ceiling !== null && gain !== null && gain !== 0) {
        expect(gain).toBeCloseTo(ceiling - into.ceiling!, 6);
      }
    }
  });

  it('give no advice where there is room to spare, and two things together where one is not enough', () => {
    expect(
      songHand(arrangement(song('C | Am', 40))).changes.flatMap(({ advice }) => advice),
    ).toEqual([]);
    const sixteenths = 'down up down up, down up down up, down up down up, down up down up';
    const labels = songHand(arrangement(song('D | G', 200, sixteenths))).changes[0]!.advice.map(
      ({ label }) => label,
    );
    expect(labels.at(-1)).toMatch(/^Play it at \d+$/);
    expect(labels.some((label) => label.includes(', and '))).toBe(true);
  });

  it('say nothing of a song without bars', () => {
    const found = songHand(arrangement(song('')));
    expect(found).toMatchObject({ changes: [], ceiling: null, anchors: [], idle: [] });
  });
});

describe('the set with the highest ceiling', () => {
  it('is never slower than what the song has, and leaves locked shapes', () => {
    const plain = song('C | F | G | Am | F | C', 130);
    const found = quickestSet(arrangement(plain));
    expect(found.after ?? Infinity).toBeGreaterThanOrEqual(found.before!);
    const locked: Song = {
      ...plain,
      chosenShapes: [{ symbol: 'F', shape: F, locked: true }],
    };
    const kept = quickestSet(arrangement(locked)).shapes.get('F');
    if (kept) expect(kept.frets).toEqual(F.frets);
  });
});
