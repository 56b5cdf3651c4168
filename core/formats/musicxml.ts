import { create, fragment } from 'xmlbuilder2';
import type { XMLBuilder } from 'xmlbuilder2/lib/interfaces';
import type { Song } from '../schema';
import { type Key, noteName, transposeChord, usesFlats } from '../neck';
import { arrange, type CountedBar, type Performance } from '../arrange';
import {
  passageName,
  type PlayedBar,
  playedBars,
  songKey,
  joinedWords,
  type SungPiece,
  lyricsByBar,
} from '../song';
import { beatTicks, isCompound, meterName, pulseTicks, TICKS_PER_QUARTER } from '../time';
import { OWN_FIELD, ownRows } from './own';
import {
  harmony,
  isPercussive,
  type Naming,
  stepOf,
  writeRest,
  joinedStrikes,
  writeStroke,
  type WrittenStrike,
  type Lyric,
} from './musicxmlNotes';
import { nearestNotated, noteValues, type NoteValue } from '../time';

/**
 * The arranged song as MusicXML 4.0: one part in tablature, written out as it is played. Strings ring
 * until the next stroke or the end of the bar. Strokes carry their direction as the bow signs that players
 * of plucked strings share, chucks and taps are notes without pitch.
 */

const DOCTYPE = {
  pubID: '-//Recordare//DTD MusicXML 4.0 Partwise//EN',
  sysID: 'http://www.musicxml.org/dtds/partwise.dtd',
};

/** Sharps of the key, flats below zero. */
function fifths({ tonic, minor }: Key): number {
  const major = minor ? (tonic + 3) % 12 : tonic;
  const sharps = (major * 7) % 12;
  return sharps > 6 ? sharps - 12 : sharps;
}

interface Writing extends Naming {
  song: Song;
  performance: Performance;
}

function attributes(
  measure: XMLBuilder,
  bar: CountedBar,
  before: CountedBar | undefined,
  { song }: Writing,
  key: Key,
): void {
  const fraction = ({ meter }: CountedBar) => `${meter.beats}/${meter.unit}`;
  if (before && fraction(before) === fraction(bar)) return;
  const all = measure.ele('attributes');
  if (!before) {
    all.ele('divisions').txt(String(TICKS_PER_QUARTER));
    const signed = all.ele('key');
    signed.ele('fifths').txt(String(fifths(key)));
    signed.ele('mode').txt(key.minor ? 'minor' : 'major');
  }
  const time = all.ele('time');
  time.ele('beats').txt(String(bar.meter.beats));
  time.ele('beat-type').txt(String(bar.meter.unit));
  if (before) return;
  const clef = all.ele('clef');
  clef.ele('sign').txt('TAB');
  clef.ele('line').txt('5');
  const staff = all.ele('staff-details');
  staff.ele('staff-lines').txt(String(song.instrument.strings.length));
  song.instrument.strings.forEach((open, index) => {
    const name = stepOf(noteName(open % 12, false));
    const tuning = staff.ele('staff-tuning', { line: String(index + 1) });
    tuning.ele('tuning-step').txt(name.step);
    if (name.alter !== 0) tuning.ele('tuning-alter').txt(String(name.alter));
    tuning.ele('tuning-octave').txt(String(Math.floor((open + song.instrument.offset) / 12) - 1));
  });
  if (song.capo > 0) staff.ele('capo').txt(String(song.capo));
}

/** What a metronome mark calls a note of so many ticks, its dot taken off. */
const BEAT_UNITS: Record<number, string> = {
  1920: 'half',
  960: 'quarter',
  480: 'eighth',
  240: '16th',
};

function tempoMark(measure: XMLBuilder, { song }: Writing): void {
  const compound = isCompound(song.meter);
  const pulse = pulseTicks(song.meter);
  const quarters = (song.tempo * pulse) / TICKS_PER_QUARTER;
  const direction = measure.ele('direction', { placement: 'above' });
  const mark = direction.ele('direction-type').ele('metronome');
  mark.ele('beat-unit').txt(BEAT_UNITS[(pulse * (compound ? 2 : 3)) / 3] ?? 'quarter');
  if (compound) mark.ele('beat-unit-dot');
  mark.ele('per-minute').txt(String(Number(song.tempo.toFixed(2))));
  const sound = direction.ele('sound', { tempo: String(Number(quarters.toFixed(2))) });
  const { feel } = song.pattern;
  if (!feel || feel.percent === 50) return;
  const swing = sound.ele('swing');
  swing.ele('first').txt(String(feel.percent));
  swing.ele('second').txt(String(100 - feel.percent));
  swing.ele('swing-type').txt(feel.on === 'eighths' ? 'eighth' : '16th');
}

function words(measure: XMLBuilder, kind: 'rehearsal' | 'words', text: string): void {
  measure.ele('direction', { placement: 'above' }).ele('direction-type').ele(kind).txt(text);
}

/**
 * Pieces of the file that are written once and used wherever they come again: a song says the same few
 * strokes on the same few chords in most of its bars.
 */
function writtenOnce(): (key: string, write: (parent: XMLBuilder) => void) => string {
  const known = new Map<string, string>();
  return (key, write) => {
    const same = known.get(key);
    if (same !== undefined) return same;
    const parent = fragment();
    write(parent);
    const text = parent.end();
    known.set(key, text);
    return text;
  };
}

/** What is written once, and the strikes and landings of each bar. */
interface Bars {
  piece: ReturnType<typeof writtenOnce>;
  strikes: WrittenStrike[][];
  landings: Performance['landings'][];
  /** What is sung in each bar. */
  sung: SungPiece[][];
  /** True once a stroke was written beside its time, and that was said. */
  nearestSaid: boolean;
}

function byBar(song: Song, bars: PlayedBar[], { strikes, landings }: Performance): Bars {
  const inBars: Bars = {
    piece: writtenOnce(),
    strikes: bars.map(() => []),
    landings: bars.map(() => []),
    sung: lyricsByBar(song, bars),
    nearestSaid: false,
  };
  for (const strike of joinedStrikes(strikes)) inBars.strikes[strike.bar]?.push(strike);
  let index = 0;
  for (const landing of landings) {
    while (bars[index] && landing.tick >= bars[index]!.tick + bars[index]!.ticks) index += 1;
    inBars.landings[index]?.push(landing);
  }
  return inBars;
}

/** The notes of a bar; strokes at odd times are written to the nearest 64th, which is said once. */
function writeBar(bar: PlayedBar, writing: Writing, bars: Bars): string {
  const { piece } = bars;
  const beat = beatTicks(bar.meter);
  // Chords are named as they sound, as the pitches of the notes are: a capo makes them higher than they are held.
  const { song, flats } = writing;
  const sounding = (symbol: string) => transposeChord(symbol, song.capo, flats);
  const pieces = bars.landings[bar.index]!.map(({ tick, symbol }) =>
    piece(`chord ${tick - bar.tick} ${symbol}`, (parent) =>
      harmony(parent, sounding(symbol), tick - bar.tick),
    ),
  );
  const strikes = bars.strikes[bar.index]!;
  const places = strikes.map(({ tick }) => {
    const at = tick - bar.tick;
    return Math.min(bar.ticks, nearestNotated(at));
  });
  const moved = strikes.some(({ tick }, index) => tick - bar.tick !== places[index]);
  if (moved && !bars.nearestSaid) {
    bars.nearestSaid = true;
    pieces.push(piece('nearest', (parent) => words(parent, 'words', NEAREST)));
  }
  const waiting = wordsIn(bar, bars);
  /** Words that are due by now: a note of their own time has them, else the next, and the last all that are left. */
  const due = (at: number, { ticks }: NoteValue): Lyric | null => {
    const last = at + ticks >= bar.ticks;
    const count = last ? -1 : waiting.findIndex(({ at: place }) => place > at);
    const here = waiting.splice(0, count < 0 ? waiting.length : count);
    return lyricOf(here);
  };
  const rest = (value: NoteValue, at: number) => {
    const lyric = due(at, value);
    return piece(`rest ${valueKey(value)} ${JSON.stringify(lyric)}`, (parent) =>
      writeRest(parent, value, lyric),
    );
  };
  const rests = (from: number, to: number) => {
    // Under words a rest begins where they are sung.
    const cuts = waiting.map(({ at }) => at).filter((at) => at > from && at < to);
    [from, ...cuts].forEach((start, index) => {
      let at = start;
      for (const value of noteValues(start, (cuts[index] ?? to) - start, beat)) {
        pieces.push(rest(value, at));
        at += value.ticks;
      }
    });
  };
  rests(0, places[0] ?? bar.ticks);
  strikes.forEach((strike, index) => {
    const from = places[index]!;
    const held = bar.content.chords.some(
      ({ fermata, at, push }) => fermata && bar.tick + at - push === strike.tick,
    );
    const values = noteValues(from, (places[index + 1] ?? bar.ticks) - from, beat);
    let at = from;
    values.forEach((value, part) => {
      const here = at;
      at += value.ticks;
      const ties: ('start' | 'stop')[] = [];
      if (part > 0) ties.push('stop');
      if (part < values.length - 1) ties.push('start');
      // What has no pitch does not ring on, and a chord that cannot be read is silent.
      const silent = strike.notes.length === 0 && (part > 0 || !isPercussive(strike));
      if (silent) return pieces.push(rest(value, here));
      const fermata = held && part === 0;
      const lyric = due(here, value);
      const key = `${strikeKey(strike)} ${fermata} ${valueKey(value)} ${ties.join()} ${JSON.stringify(lyric)}`;
      return pieces.push(
        piece(key, (parent) =>
          writeStroke(parent, { strike, fermata }, value, ties, writing, lyric),
        ),
      );
    });
  });
  return pieces.join('\n');
}

/** The words of a bar where its notes are, and whether the one before goes on into each. */
function wordsIn(bar: PlayedBar, { sung }: Bars): { at: number; text: string; goesOn: boolean }[] {
  let before = sung[bar.index - 1]?.at(-1)?.text ?? '';
  return sung[bar.index]!.map(({ tick, text }) => {
    const goesOn = before.endsWith('-');
    before = text;
    return { at: nearestNotated(tick - bar.tick), text, goesOn };
  });
}

/** Words that one note has; a hyphen at the end goes on into the next. */
function lyricOf(words: { text: string; goesOn: boolean }[]): Lyric | null {
  const [first] = words;
  if (!first) return null;
  const text = joinedWords(words.map((word) => word.text));
  const on = text.endsWith('-');
  const syllabic = first.goesOn ? (on ? 'middle' : 'end') : on ? 'begin' : 'single';
  return { syllabic, text: text.replace(/-$/, '') || text };
}

const NEAREST = 'odd times are written to the nearest 64th';

const valueKey = ({ ticks, dots, triplet }: NoteValue) => `${ticks}.${dots}.${triplet}`;

/** What tells the notes of one stroke from those of another. */
function strikeKey({ kind, dir, accent, palm, tap, notes, onward }: WrittenStrike): string {
  const strings = notes.map(
    ({ string, fret, midi, legato }) =>
      `${string}.${fret}.${midi}.${legato?.how ?? ''}.${onward.get(string) ?? ''}`,
  );
  return `${kind} ${dir} ${accent} ${palm} ${tap} ${strings.join()}`;
}

/** Where the bars go in the text of the document. */
const BARS_MARK = 'bars';

/**
 * Times that no note values fill are written to the nearest, and the file says so.
 * @returns the song as a MusicXML 4.0 document
 * @example toMusicXml(song).includes('<score-partwise version="4.0">') // true
 */
export function toMusicXml(song: Song): string {
  const performance = arrange(song);
  const bars = playedBars(song);
  const key = songKey(song);
  const strings = song.instrument.strings.length;
  const writing: Writing = { song, performance, flats: usesFlats(key), strings };

  const document = create({ version: '1.0', encoding: 'UTF-8' }).dtd(DOCTYPE);
  const score = document.ele('score-partwise', { version: '4.0' });
  score.ele('work').ele('work-title').txt(song.title);
  const identified = score.ele('identification');
  identified.ele('encoding').ele('software').txt('Plucky Wrist');
  const own = identified.ele('miscellaneous');
  for (const row of ownRows(song)) own.ele('miscellaneous-field', { name: OWN_FIELD }).txt(row);
  const listed = score.ele('part-list').ele('score-part', { id: 'P1' });
  listed.ele('part-name').txt(song.instrument.name);
  score.ele('part', { id: 'P1' }).com(BARS_MARK);
  const begins = bars[0]?.lead ? 0 : 1;
  const inBars = byBar(song, bars, performance);
  const measures = bars.map((bar, index) => {
    const implicit = bar.lead > 0 ? { implicit: 'yes' } : {};
    const measure = fragment().ele('measure', { number: String(index + begins), ...implicit });
    attributes(measure, bar, bars[index - 1], writing, key);
    if (index === 0) tempoMark(measure, writing);
    if (bar.passage !== bars[index - 1]?.passage) {
      const name = passageName(song, bar);
      if (name) words(measure, 'rehearsal', name);
    }
    const own = bar.meter.cycle && index === 0 ? meterName(bar.meter) : null;
    if (own) words(measure, 'words', own);
    measure.com(BARS_MARK);
    if (index === bars.length - 1) {
      measure.ele('barline', { location: 'right' }).ele('bar-style').txt('light-heavy');
    }
    return around(measure.toString(), [writeBar(bar, writing, inBars)]);
  });
  return around(document.end({ prettyPrint: true }), measures);
}

/** Puts pieces in the place of the mark; what they hold is never looked through. */
function around(text: string, pieces: string[]): string {
  const mark = `<!--${BARS_MARK}-->`;
  const at = text.indexOf(mark);
  return [text.slice(0, at), ...pieces, text.slice(at + mark.length)].join('\n');
}
