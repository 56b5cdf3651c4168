import type { Ticks } from '../plain';
import type { Landing, PlayedBar } from '../song';
import { EIGHTH, SIXTEENTH } from '../time';
import type { Command } from './commands';
import { rhythmCommands } from './rhythmCommands';

/**
 * What makes a chord land at another moment of the song. Inside its bar it is planted there, a push staying a push; over
 * the bar line it is pushed, by an eighth or a sixteenth, and from there it comes back to its place.
 * @param bars of the song as it is played, and the landing of one of them
 * @param to ticks of the song
 * @returns the command; or in a sentence why it cannot land there
 * @example plantChord(playedBars(song), landings(playedBars(song))[1]!, 3360) // pushes it to the & of 4 before
 */
export function plantChord(bars: PlayedBar[], landing: Landing, to: Ticks): Command | string {
  const { placement, tick, symbol } = landing;
  const { at, push } = placement;
  const owner = bars.find(
    (bar) => bar.content.chords.includes(placement) && Math.max(0, bar.tick + at - push) === tick,
  );
  if (!owner) return `${symbol} is not written here.`;
  const { section, line, bar } = owner;
  const early = owner.tick - to;
  if (early <= 0) {
    if (at === 0 && push > 0 && early === 0) {
      return rhythmCommands.setPush([{ section, line, bar, at }], 0);
    }
    if (to >= owner.tick + owner.ticks) {
      return `${symbol} is written in this bar. Write it in the next one to land there.`;
    }
    return rhythmCommands.moveChord({ section, line, bar }, at, to - owner.tick + push);
  }
  if (owner.tick === 0) return `Nothing comes before the first bar: ${symbol} stays on it.`;
  if (at > 0) return `${symbol} comes in the middle of its bar; it cannot land before it.`;
  if (early !== EIGHTH && early !== SIXTEENTH) {
    return `${symbol} can land an eighth or a sixteenth before its bar. Write it in the bar before to land earlier.`;
  }
  return rhythmCommands.setPush([{ section, line, bar, at }], early);
}
