import { plainSymbol } from '../neck';
import type { Section, Song } from '../schema';
import { barMover, hasLyrics, landings, passageName, passagesOf, playedBars } from '../song';
import { beatTicks, sameMeter } from '../time';
import { OWN_DIRECTIVE } from './chordpro';
import { ownRows } from './own';
import { meterOfBeats } from './written';
import { chordsOverWords } from './chordsOverWords';

/** A section without the chords that stand in for others: a grid shows one time round. */
function asWritten(section: Section): Section {
  return {
    ...section,
    lines: section.lines.map((line) => ({
      ...line,
      bars: line.bars.map((bar) => ({
        ...bar,
        chords: bar.chords.map(({ substitutes: _, ...chord }) => chord),
      })),
    })),
  };
}

/** The sections that are played in other keys too, once in each, as they are there. */
function inOtherKeys(song: Song): Section[] {
  const inKey = barMover(song);
  const seen = new Set<string>();
  return passagesOf(song).flatMap(({ section: index, shift }) => {
    const key = `${index} ${shift}`;
    if (shift === 0 || seen.has(key)) return [];
    seen.add(key);
    const section = song.sections[index]!;
    const lines = section.lines.map((line) => ({
      ...line,
      bars: line.bars.map((bar) => inKey(bar, shift)),
    }));
    return [{ ...section, name: passageName(song, { section: index, shift }), lines }];
  });
}

/**
 * The song as ChordPro: a grid for each section, a cell for each beat, and the line of text itself in a
 * directive of our own, from which it is read back as it was.
 * @example toChordPro(song).split('\n')[0] // '{title: Towpath}'
 */
export function toChordPro(song: Song): string {
  const { beats, unit } = song.meter;
  const head = [
    `{title: ${song.title.replaceAll(/[{}]/g, '')}}`,
    `{tempo: ${song.tempo}}`,
    `{time: ${beats}/${unit}}`,
    ...(song.capo > 0 ? [`{capo: ${song.capo}}`] : []),
  ];
  const sections = [...song.sections, ...inOtherKeys(song)];
  const bars = playedBars({ sections: sections.map(asWritten), meter: song.meter });
  const changes = landings(bars);
  const grids = sections.flatMap((section, index) => {
    const inside = bars.filter((bar) => bar.section === index);
    const rows: string[] = [];
    const first = inside[0];
    // A section says the chord that still sounds when it begins: it may be played on its own.
    const sounding = first ? changes.findLast(({ tick }) => tick <= first.tick)?.symbol : undefined;
    for (let at = 0; at < inside.length; at += 4) {
      const cells = inside.slice(at, at + 4).map((bar) => {
        const beat = beatTicks(bar.meter);
        return Array.from({ length: bar.ticks / beat }, (_, count) => {
          const from = bar.tick + count * beat;
          // A push is written in the beat that it belongs to.
          const landing = changes.find(
            ({ tick, push }) => tick + push >= from && tick + push < from + beat,
          );
          const begins = bar === first && count === 0;
          const symbol = landing?.symbol ?? (begins ? sounding : undefined);
          return symbol === undefined ? '.' : plainSymbol(symbol);
        }).join(' ');
      });
      rows.push(`| ${cells.join(' | ')} |`);
    }
    const name = section.name.replaceAll(/["{}]/g, '');
    const start = name ? `{start_of_grid: ${name}}` : '{start_of_grid}';
    return ['', start, ...rows, '{end_of_grid}'];
  });
  const plain = (row: string) => row.replaceAll(/[{}]/g, '');
  const sung = hasLyrics(song) ? chordsOverWords(song) : [];
  const usual = meterOfBeats(beats, unit);
  const signed = usual !== null && sameMeter(song.meter, usual);
  const own = ownRows(song)
    .map((row) => plain(row.replace(' ', ': ')))
    .filter((row) => !(signed && row.startsWith('meter:')))
    .map((row) => `{${OWN_DIRECTIVE}${row}}`);
  return [...head, ...grids, ...sung, '', ...own, ''].join('\n');
}
