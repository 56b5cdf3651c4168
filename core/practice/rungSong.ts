import type { Arrangement } from '../arrange';
import type { Hands, Placement, RungId, Song, Stroke } from '../schema';
import { isNoChord } from '../neck';
import type { PlayedBar } from '../song';
import { MISS, type Slot } from '../stroke';
import { layersOf, openSong, partOf, plainSong, ticksOf } from './ladder';
import { onDamped, type Remake, remade, REST, strokeAt, WHOLE_DOWN } from './unfold';

/**
 * A rung as a song of its own: as long as the song, bar for bar, so that it is drawn, heard and judged like any
 * other.
 * @param hands which hand plays: one alone has the strings damped, or the landings only
 * @throws RangeError where the song has no bars
 * @example rungSong(arrangement(song), 'landings').sections.length // one a passage of the song
 */
export function rungSong(arranged: Arrangement, id: RungId, hands: Hands = 'both'): Song {
  const { song } = arranged;
  if (arranged.bars.length === 0) throw new RangeError('a song without bars has no rungs');
  const rung = bothHands(arranged, id);
  if (hands === 'both') return rung;
  return hands === 'strumming' ? strummingAlone(arranged, id) : frettingAlone(arranged, song);
}

const asWritten = ({ content }: PlayedBar): Placement[] => content.chords;
const none = (): Placement[] => [];

function bothHands(arranged: Arrangement, id: RungId): Song {
  const { song } = arranged;
  if (id === 'song') return song;
  if (id === 'plain') return plainSong(song);
  if (id === 'open strokes') return openSong(song, 1);
  const layers = layersOf(arranged);
  const { base, bars } = layers;
  const kept = ticksOf(layers, id);
  const thinned: Remake['stroke'] = (slot, strike) =>
    strike && kept.has(strike.tick) ? strokeAt(slot) : MISS;
  const make = (stroke: Remake['stroke'], chords: Remake['chords'] = asWritten) =>
    remade(base.song, bars, { stroke, chords, stops: chords === asWritten });
  switch (id) {
    case 'arm':
      return make(() => MISS, none);
    case 'chords':
      return frettingAlone(arranged, song);
    case 'one before':
      return { ...make(thinned), openStrokes: 1, travel: 'open' };
    case 'two before':
      return { ...make(thinned), openStrokes: 2, travel: 'open' };
    case 'landings':
    case 'strong beats':
    case 'beats':
      return make(thinned);
    case 'damped':
      return make((slot, strike) => (strike ? onDamped(strokeAt(slot)) : byTheArm(slot)), none);
    case 'one chord':
      return make(whole, oneChord(arranged));
    case 'thumb':
    case 'fingers':
      return make(
        (slot, strike) => (strike ? (partOf(strokeAt(slot), id) ?? MISS) : byTheArm(slot)),
        oneChord(arranged),
      );
  }
}

/** A slot in which nothing is struck: the arm passes where the fretting hand would sound it. */
const byTheArm = ({ stroke }: Slot): Stroke => (stroke.kind === 'legato' ? MISS : stroke);

const whole: Remake['stroke'] = (slot, strike) =>
  strike ? strokeAt(slot) : slot.stroke.kind === 'hold' ? REST : MISS;

/** The chord that is held longest of all, from the first bar on. */
function oneChord({ changes, bars }: Arrangement): Remake['chords'] {
  const last = bars.at(-1)!;
  const held = new Map<string, number>();
  changes.forEach(({ tick, symbol }, index) => {
    const until = changes[index + 1]?.tick ?? last.tick + last.ticks;
    if (!isNoChord(symbol)) held.set(symbol, (held.get(symbol) ?? 0) + until - tick);
  });
  const [symbol] = [...held].sort((a, b) => b[1] - a[1])[0] ?? [];
  return (bar) => (bar.index === 0 && symbol !== undefined ? [{ at: 0, push: 0, symbol }] : []);
}

/** The strumming hand alone: the same strokes on damped strings, and no chord to think of. */
function strummingAlone(arranged: Arrangement, id: RungId): Song {
  const layers = layersOf(arranged);
  const { base, bars } = layers;
  const kept = ticksOf(layers, id);
  const stroke: Remake['stroke'] = (slot, strike) =>
    strike && kept.has(strike.tick) ? onDamped(strokeAt(slot)) : MISS;
  return remade(base.song, bars, { stroke, chords: none });
}

/** The fretting hand alone: one stroke as each chord lands, which rings until the next. */
function frettingAlone(arranged: Arrangement, song: Song): Song {
  const { bars, landings } = layersOf(arranged);
  const stroke: Remake['stroke'] = (_, strike) =>
    strike && landings.has(strike.tick) ? WHOLE_DOWN : REST;
  return remade(openSong(song, 0), bars, { stroke, chords: asWritten, stops: true });
}
