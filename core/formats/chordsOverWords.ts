import type { Ticks } from '../plain';
import { plainSymbol } from '../neck';
import type { Song } from '../schema';
import { landings, passageName, type PlayedBar, playedBars, lyricsByBar } from '../song';

/** Bars of words in one row. */
const IN_ROW = 4;

/**
 * The passages of a song as ChordPro has them, chords in brackets among the words, as they are played: each verse
 * with its own words. Bars without words are in the grids.
 */
export function chordsOverWords(song: Song): string[] {
  const bars = playedBars(song);
  const changes = landings(bars);
  const sung = lyricsByBar(song, bars);
  const rows: string[] = [];
  let passage: PlayedBar[] = [];
  const end = () => {
    const [first] = passage;
    if (first && passage.some(({ index }) => sung[index]!.length > 0)) {
      const name = passageName(song, first).replaceAll(/["{}]/g, '');
      rows.push('', name ? `{start_of_verse: ${name}}` : '{start_of_verse}');
      for (let at = 0; at < passage.length; at += IN_ROW) {
        rows.push(rowOf(passage.slice(at, at + IN_ROW)));
      }
      rows.push('{end_of_verse}');
    }
    passage = [];
  };
  const rowOf = (some: PlayedBar[]): string => {
    const from = some[0]!.tick;
    const to = some.at(-1)!.tick + some.at(-1)!.ticks;
    const inside = ({ tick }: { tick: Ticks }) => tick >= from && tick < to;
    const items = [
      ...changes.filter(inside).map(({ tick, symbol }) => ({ tick, chord: plainSymbol(symbol) })),
      ...some
        .flatMap(({ index }) => sung[index]!)
        .map(({ tick, text }) => ({ tick, text: text.replaceAll(/[[\]{}]/g, '') })),
    ].sort((a, b) => a.tick - b.tick || ('chord' in a ? -1 : 1));
    // A hyphen joins what belongs together: a space stands before a word that begins.
    let row = '';
    let joins = true;
    let waits = '';
    for (const item of items) {
      if ('chord' in item) {
        waits += `[${item.chord}]`;
        continue;
      }
      row += (joins ? '' : ' ') + waits + item.text.replace(/-$/, '');
      joins = item.text.endsWith('-');
      waits = '';
    }
    return row + (waits === '' ? '' : `${row === '' || joins ? '' : ' '}${waits}`);
  };
  for (const bar of bars) {
    if (bar.passage !== passage[0]?.passage) end();
    passage.push(bar);
  }
  end();
  return rows;
}
