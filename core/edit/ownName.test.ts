import { describe, expect, it } from 'vitest';
import { said } from '../pattern/said.test-kit';
import type { Pattern, Song } from '../schema';
import { newSong } from '../song';
import { commands, everySecondBar, onRhythm, patternOf, rhythmCommands, rhythmWords } from '.';
import type { RhythmTarget } from './rules';

const start = newSong({
  title: 'Weir',
  instrument: 'guitar',
  progression: 'Verse:\nG | Em | % | C | D\nReach:\nEm | C',
});
const bar = (at: number, section = 0): RhythmTarget => ({ of: 'bar', section, line: 0, bar: at });
const PICKED = 'R 3, 2 1, R 3, 2 1';
const sayOn = (song: Song, target: RhythmTarget, words: string) =>
  rhythmCommands.sayRhythm(target, said(words)).apply(song);
const nameOf = (song: Song, target: RhythmTarget) => patternOf(song, target)?.name;

describe('what a rhythm is called that is not the song’s', () => {
  it.each([
    [PICKED, 'picked'],
    ['bass miss, down up, bass miss, down up', 'bass and strum'],
    ['x miss, x miss, down x, x miss', 'chucked'],
    ['down miss, chuck up, down miss, chuck up', 'strummed, chucks'],
    ['roll4 miss, down up, down up, down up', 'rolled'],
    ['down down, down down, down down, down down', 'downs'],
    ['down hold, hold hold, hold hold, hold hold', 'struck once'],
    ['down miss, down up, miss up, down up', 'strummed'],
    ['miss, miss, miss, miss', 'silent'],
  ])('is what its strokes are: %s', (words, name) => {
    expect(rhythmWords(said(words))).toBe(name);
  });

  it('says whose it is: the chord that is held there, the section, the chord', () => {
    expect(nameOf(sayOn(start, bar(1), PICKED), bar(1))).toBe('Em, picked');
    expect(nameOf(sayOn(start, bar(2), PICKED), bar(2))).toBe('Em, picked');
    const section: RhythmTarget = { of: 'section', section: 1 };
    expect(nameOf(sayOn(start, section, PICKED), section)).toBe('Reach, picked');
    const chord: RhythmTarget = { of: 'chord', symbol: 'D' };
    expect(nameOf(sayOn(start, chord, PICKED), chord)).toBe('D, picked');
  });

  it('is never that of other strokes, and always that of the same', () => {
    const once = sayOn(start, bar(1), PICKED);
    const other = sayOn(once, bar(2), '6 3, 2 1, 6 3, 2 1');
    expect(nameOf(other, bar(2))).toBe('Em, picked 2');
    expect(nameOf(sayOn(once, bar(0, 1), PICKED), bar(0, 1))).toBe('Em, picked');
  });

  it('changes with the strokes, unless the player has given one', () => {
    const once = sayOn(start, bar(1), 'x x, x x, x x, x x');
    expect(nameOf(sayOn(once, bar(1), PICKED), bar(1))).toBe('Em, picked');
    const mine = onRhythm(bar(1), commands.renamePattern('Creak')).apply(once);
    expect(nameOf(mine, bar(1))).toBe('Creak');
    expect(nameOf(sayOn(mine, bar(1), PICKED), bar(1))).toBe('Creak');
  });

  it('leaves the song’s name to the song when a bar that began with it is changed', () => {
    const given = rhythmCommands.setRhythm(bar(3), start.pattern).apply(start);
    expect(nameOf(given, bar(3))).toBe(start.pattern.name);
    const edited = onRhythm(bar(3), commands.setStroke(0, { kind: 'miss' })).apply(given);
    expect(nameOf(edited, bar(3))).toBe('C, downs');
    expect(edited.pattern).toEqual(start.pattern);
  });
});

describe('the same rhythm elsewhere', () => {
  const picked: Pattern = { ...said(PICKED), name: 'Picked' };

  it('goes on every second bar of the section, on both sides of the one', () => {
    const targets = everySecondBar(start, { section: 0, line: 0, bar: 2 });
    expect(targets).toEqual([bar(0), bar(2), bar(4)]);
    const laid = rhythmCommands.layRhythm(targets, picked).apply(start);
    expect(targets.every((target) => nameOf(laid, target) === 'Picked')).toBe(true);
    expect(patternOf(laid, bar(1))).toBeNull();
  });
});
