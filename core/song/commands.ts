import { produce } from 'immer';
import type { Accent, ArmSchool, Division, Meter, Pattern, Song, Stroke } from '../schema';
import { accentStroke, divideBeat, fitPattern, placeStroke } from '../stroke';
import { printProgression, readProgression } from './progression';

/**
 * A change to a song: what it is called in the undo list, and a pure step from song to song. Parts
 * that did not change keep their identity, so that only what changed is drawn again.
 */
export interface Command {
  name: string;
  apply: (song: Song) => Song;
}

function set(name: string, change: (draft: Song) => void): Command {
  return { name, apply: (song) => produce(song, change) };
}

function onPattern(name: string, change: (pattern: Pattern) => Pattern): Command {
  return { name, apply: (song) => ({ ...song, pattern: change(song.pattern) }) };
}

export const commands = {
  setStroke: (slot: number, stroke: Stroke): Command =>
    onPattern('place a stroke', (pattern) => placeStroke(pattern, slot, stroke)),

  setAccent: (slot: number, accent: Accent): Command =>
    onPattern('change an accent', (pattern) => accentStroke(pattern, slot, accent)),

  divideBeat: (beat: number, division: Division): Command =>
    onPattern('divide a beat', (pattern) => divideBeat(pattern, beat, division)),

  setArmSchool: (school: ArmSchool): Command =>
    onPattern('change the arm', (pattern) => ({ ...pattern, arm: { ...pattern.arm, school } })),

  renamePattern: (name: string): Command =>
    onPattern('rename the pattern', (pattern) => ({ ...pattern, name })),

  /** Takes a pattern from elsewhere, fitted to the song's meter. */
  takePattern: (taken: Pattern): Command => ({
    name: 'take a pattern',
    apply: (song) => ({ ...song, pattern: fitPattern(taken, song.meter) }),
  }),

  setTitle: (title: string): Command => set('rename the song', (song) => void (song.title = title)),

  setTempo: (tempo: number): Command =>
    set('change the tempo', (song) => void (song.tempo = tempo)),

  setCountIn: (bars: number): Command =>
    set('change the count-in', (song) => void (song.countIn = bars)),

  setCapo: (capo: number): Command => set('move the capo', (song) => void (song.capo = capo)),

  setBassSchool: (school: Song['bassSchool']): Command =>
    set('choose the bass strings', (song) => void (song.bassSchool = school)),

  setInstrument: (instrument: Song['instrument']): Command =>
    set('change the instrument', (song) => void (song.instrument = instrument)),

  /** Reads the progression from text; see `readProgression` for what it may hold. */
  setProgression: (text: string): Command => ({
    name: 'write the progression',
    apply: (song) => ({ ...song, sections: readProgression(text, song.meter).sections }),
  }),

  /** Another meter: the progression is read again as it is written, the pattern is fitted. */
  setMeter: (meter: Meter): Command => ({
    name: 'change the meter',
    apply: (song) => ({
      ...song,
      meter,
      sections: readProgression(printProgression(song.sections, song.meter), meter).sections,
      pattern: fitPattern(song.pattern, meter),
    }),
  }),
};
