import { voices } from '../sound';
import { describe, expect, it } from 'vitest';
import { arrange } from '../arrange';
import { rhythmCommands } from '../edit';
import { newSong } from '../song';
import { newPattern, placeStroke, strum } from '../pattern';
import type { Pattern } from '../schema';
import { METERS } from '../time';
import { readMidiFile as read } from './smf-reader.test-kit';
import { toMidi } from './files';

function song() {
  const pattern = [
    strum('down', 'accent'),
    strum('up'),
    { kind: 'bass', accent: 'normal' } as const,
    { kind: 'miss' } as const,
    { kind: 'chuck', dir: 'down', accent: 'ghost' } as const,
  ].reduce<Pattern>(
    (now, stroke, slot) => placeStroke(now, slot, stroke),
    newPattern(METERS['4/4']),
  );
  const start = newSong({
    title: 'Lantern & lock',
    instrument: 'guitar',
    tempo: 100,
    progression: 'A | <D',
  });
  return { ...start, pattern };
}

describe('the MIDI file', () => {
  it('has the right pitches at the right ticks, read by another reader', () => {
    const { ppq, notes, hanging } = read(toMidi(song()));
    expect(ppq).toBe(960);
    expect(hanging).toBe(0);
    const first = notes.filter((note) => note.channel === 0 && note.tick < 200);
    expect(first.map((note) => note.pitch)).toEqual([45, 52, 57, 61, 64]);
    expect(first[0]!.tick).toBe(0);
    const up = notes.filter((note) => note.channel === 0 && note.tick >= 480 && note.tick < 700);
    expect(up.map((note) => note.pitch)).toEqual([64, 61, 57, 52, 45]);
    const bass = notes.filter((note) => note.tick === 960 && note.channel === 1);
    expect(bass.map((note) => note.pitch)).toEqual([45]);
  });

  it('says the same as the arrangement, note for note', () => {
    const written = voices(arrange(song()), METERS['4/4']);
    const notes = read(toMidi(song())).notes.filter((note) => note.channel < 2);
    const perTick = 60 / 100 / 960;
    const expected = written.map(({ midi, start, end }) => [
      midi,
      Math.round(start / perTick),
      Math.round(end / perTick),
    ]);
    const order = (a: number[], b: number[]) => a[1]! - b[1]! || a[0]! - b[0]!;
    expect(notes.map(({ pitch, tick, end }) => [pitch, tick, end]).sort(order)).toEqual(
      expected.sort(order),
    );
  });

  it('is louder by accent, and puts chucks on the percussion channel', () => {
    const { notes } = read(toMidi(song()));
    const at = (tick: number) =>
      notes.find((note) => note.tick === tick && note.pitch !== 56 && note.pitch < 76)!;
    expect(at(0).velocity).toBeGreaterThan(at(480).velocity);
    const chuck = notes.find((note) => note.channel === 9)!;
    expect(chuck.tick).toBe(1920);
    expect(chuck.velocity).toBeLessThan(at(480).velocity);
  });

  it('carries tempo and meter; the tempo of 6/8 in quarter notes', () => {
    const { meta } = read(toMidi(song()));
    const tempo = (text: string) =>
      [...text].reduce((sum, byte) => sum * 256 + byte.charCodeAt(0), 0);
    expect(tempo(meta.get(0x51)!)).toBe(600_000);
    expect([...meta.get(0x58)!].slice(0, 2).map((byte) => byte.charCodeAt(0))).toEqual([4, 2]);
    const six = newSong({
      title: 'Six',
      instrument: 'ukulele',
      meter: METERS['6/8'],
      tempo: 60,
      progression: 'C',
    });
    expect(tempo(read(toMidi(six)).meta.get(0x51)!)).toBeCloseTo(666_667, -1);
  });

  it('is a whole file even for a song without bars', () => {
    expect(read(toMidi(newSong({ title: 'Empty', instrument: 'guitar' }))).notes).toEqual([]);
  });
});

describe('bars that are not like the others', () => {
  const odd = newSong({
    title: 'Odd',
    instrument: 'guitar',
    tempo: 120,
    progression: '(pickup 1) E7 | A | (6/8) D | E7~',
  });

  it('click in their own meter, and the ring of a held chord goes on beyond the last', () => {
    const { notes, hanging } = read(toMidi(odd));
    expect(hanging).toBe(0);
    const clicks = notes.filter(
      ({ channel, pitch }) => channel === 9 && [56, 76, 77].includes(pitch),
    );
    expect(clicks.map(({ tick }) => tick)).toEqual([
      0, 960, 1920, 2880, 3840, 4800, 5280, 5760, 6240, 6720, 7200, 7680, 8640, 9600, 10560,
    ]);
    // The bell rings on the one of each bar, and a pick-up has none.
    expect(clicks.filter(({ pitch }) => pitch === 56).map(({ tick }) => tick)).toEqual([
      960, 4800, 7680,
    ]);
    const last = notes.filter(({ channel, tick }) => channel === 0 && tick >= 7680);
    expect(last.every(({ tick }) => tick < 7680 + 200)).toBe(true);
    expect(Math.max(...last.map(({ end }) => end))).toBe(7680 + 2 * 3840);
  });

  it('has no sound of a chord after it was struck once and held', () => {
    const { strikes } = arrange(odd);
    expect(strikes.filter(({ bar }) => bar === 3)).toHaveLength(1);
  });
});

describe('a line of notes', () => {
  const place = { section: 0, line: 0, bar: 0 };
  const notes = [
    { at: 0, string: 2, fret: 1 },
    { at: 960, string: 2, fret: 3 },
  ];
  it('has a track and a channel of its own, and is in no other', () => {
    const start = newSong({ title: 'Reed', instrument: 'guitar', progression: 'C | G' });
    const line = rhythmCommands.setTune(place, { notes, meets: 'alone' }).apply(start);
    const own = read(toMidi(line)).notes.filter(({ channel }) => channel === 2);
    expect(own.map(({ pitch }) => pitch)).toEqual([60, 62]);
    expect(read(toMidi(start)).notes.some(({ channel }) => channel === 2)).toBe(false);
  });
});
