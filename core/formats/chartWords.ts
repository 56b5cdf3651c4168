import type { Ticks } from '../plain';
import { commands } from '../edit';
import { assignFingers, fretChord } from '../neck';
import type { Section, Song } from '../schema';
import { sameMeter } from '../time';
import { barLength, cleanWord, type Piece, readWords, withWords } from '../song';
import type { ChartPiece, ChartReading } from './chart';

/**
 * A song that was made of the progression of a chart, with the words of the chart under its bars: what is sung from a
 * chord on lies where that chord lands. Lines that no longer have so many chords are left without words.
 * @param song with its bars as `chartProgression` wrote them
 * @example withChartWords(song, readChart('[G]Down the [C]towpath').chart).title // 'Towpath', say
 */
export function withChartWords(song: Song, chart: ChartReading): Song {
  const sections = song.sections.map((section, index) => {
    const lines = section.lines.map((line, at) => {
      const lengths = line.bars.map((bar) => barLength(bar, song.meter));
      let { bars } = line;
      for (const own of chart.ownWords) {
        if (own.section !== index || own.line !== at) continue;
        const read = readWords(own.text, lengths);
        if ('bars' in read) bars = withWords(bars, own.verse, read.bars);
      }
      if (chart.progression === null) {
        const from = chart.sections.find(({ name }) => name === section.name)?.lines[at];
        (from?.verses ?? []).slice(0, VERSES).forEach((verse, time) => {
          const placed = placedIn(line.bars, verse, lengths);
          if (placed) bars = withWords(bars, time + 1, placed);
        });
      }
      return bars === line.bars ? line : { ...line, bars };
    });
    return { ...section, lines };
  });
  return { ...song, sections };
}

/**
 * A song that was made of the progression of a chart, with what else the chart says: its words, its rhythm, and how its
 * chords are held.
 * @example withChart(song, readChart('[G]Down').chart).pattern // the song's own: a chart of words has none
 */
export function withChart(song: Song, chart: ChartReading): Song {
  const { pattern } = chart;
  const suits = pattern !== null && sameMeter(pattern.meter, song.meter);
  const strummed = suits ? { ...song, pattern } : song;
  return withShapes(withPlayed(withChartWords(strummed, chart), chart), chart);
}

/** The song with what the chart says is played in its bars, where its lines still have as many of them. */
function withPlayed(song: Song, chart: ChartReading): Song {
  if (chart.strings !== song.instrument.strings.length) return song;
  const sections = song.sections.map((section) => {
    const read = chart.sections.find(({ name }) => name === section.name)?.lines;
    const lines = section.lines.map((line, at) => {
      const played = read?.[at]?.played;
      if (!played || played.length !== line.bars.length) return line;
      const bars = line.bars.map((bar, index) => {
        const { pattern, tune } = played[index]!;
        const fits = pattern && sameMeter(pattern.meter, bar.meter ?? song.meter);
        if (!fits && !tune) return bar;
        return { ...bar, rules: { ...(fits && { pattern }), ...(tune && { tune }) } };
      });
      return { ...line, bars };
    });
    return { ...section, lines };
  });
  return { ...song, sections };
}

/** The song with its chords held as the chart holds them, where that can be done on its instrument. */
function withShapes(song: Song, { shapes, strings }: ChartReading): Song {
  const count = song.instrument.strings.length;
  if (strings !== count) return song;
  return shapes.reduce((before, { symbol, frets }) => {
    const own = Array.from({ length: count }, (_, string) => frets.get(count - string) ?? null);
    const held = fretChord(symbol, before)?.shape.frets;
    // A stroke that leaves strings out of the shape that is held says nothing new.
    const part = own.every((fret, string) => fret === null || fret === held?.[string]);
    if (!held || part) return before;
    const fingers = assignFingers(own, true);
    if (!fingers || own.some((fret) => (fret ?? 0) > MAX_FRET)) return before;
    return commands.addOwnShape(symbol, { frets: own, fingers }).apply(before);
  }, song);
}
const MAX_FRET = 24;

/** Verses that are read for one line. */
const VERSES = 8;

/** Pieces of a verse in the bars of its line; null where they do not fit them. */
function placedIn(
  bars: Section['lines'][number]['bars'],
  verse: ChartPiece[],
  lengths: { ticks: Ticks }[],
): Piece[][] | null {
  const chords = bars.flatMap((bar, index) =>
    bar.chords.map(({ at, push }) => ({ bar: index, at: Math.max(0, at - push) })),
  );
  const rows: Piece[][] = bars.map(() => []);
  for (const piece of verse) {
    const first = { bar: 0, at: 0 };
    const place = 'chord' in piece ? (piece.chord < 0 ? first : chords[piece.chord]) : piece;
    const row = place && rows[place.bar];
    const text = cleanWord(piece.text);
    if (!place || !row) return null;
    if (text === '' || place.at >= lengths[place.bar]!.ticks) continue;
    const there = row.find(({ at }) => at === place.at);
    if (there) there.text = cleanWord(`${there.text} ${text}`);
    else row.push({ at: place.at, text });
  }
  return rows.map((row) => row.sort((a, b) => a.at - b.at));
}
