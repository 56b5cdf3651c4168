import type { Milliseconds } from '../plain';
import type { Arrangement, Strike } from '../arrange';
import { fretChords, type FrettedChord, isNoChord } from '../neck';
import { itemAt } from '../song';
import { slots } from '../stroke';
import { secondsPerTick } from '../time';
import type { LandingPlace } from '../edit';
import { ANY_HAND, type Hand, pairOf } from './timed';
import { handChange, type HandChange, settingOf, strikesAround } from './windows';

/** One kind of change: from one chord to another, wherever the song makes it. */
export interface ChangeKind {
  from: FrettedChord;
  to: FrettedChord;
  /** How often the song makes it, in which bars (as they are played, from 0), and where it is written. */
  times: number;
  bars: number[];
  places: LandingPlace[];
  /** The landings of it, as indices of the song's changes. */
  landings: number[];
  /** The place where the hand has least time for it. */
  tightest: HandChange;
  /** The tempo at which that is just enough; null where no finger has to move. */
  ceiling: number | null;
  /** Milliseconds that are left at the song's tempo, below zero where they are missing. */
  slack: Milliseconds | null;
  /** True where the player has timed this very change. */
  measured: boolean;
}

/** A chord that says nothing of the hand, with the reason. */
export interface UnknownChord {
  symbol: string;
  why: string;
}

/** What the fretting hand has to do in a song, and at which tempo it can. */
export interface HandReport {
  tempo: number;
  /** The one that holds the song back first. */
  kinds: ChangeKind[];
  /** Fingers that no stroke of the song needs, by chord; chords without any are left out. */
  idle: Map<string, number[]>;
  unknown: UnknownChord[];
  /** The tempo at which the song's tightest change is just possible; null where none is hard. */
  ceiling: number | null;
}

/** Changes in the order in which they hold a song back. */
const byCeiling = (one: { ceiling: number | null }, other: { ceiling: number | null }) =>
  (one.ceiling ?? Infinity) - (other.ceiling ?? Infinity) || 0;

/**
 * What the fretting hand has time for: every kind of change of a song with the time that it has, what it
 * needs and its ceiling, the tightest first.
 * @param hand what is known of the player's hand
 * @example handReport(arrangement(song)).kinds[0].ceiling // 71.4
 */
export function handReport(arranged: Arrangement, hand: Hand = ANY_HAND): HandReport {
  const { song, bars, changes, performance } = arranged;
  const setting = settingOf(arranged, hand);
  const perTick = secondsPerTick(song.tempo, song.meter);
  const hold = fretChords(song);
  const kinds = new Map<string, ChangeKind>();
  const needed = new Map<string, Set<number>>();
  const unknown = new Map<string, UnknownChord>();
  changes.forEach(({ tick, symbol, placement, barEnd }, index) => {
    const to = hold(symbol);
    if (!to && !unknown.has(symbol)) unknown.set(symbol, { symbol, why: whyUnknown(symbol) });
    const before = changes[index - 1];
    const around = strikesAround(performance.strikes, changes, index, perTick);
    if (to) {
      const used = needed.get(symbol) ?? new Set<number>();
      needed.set(symbol, used);
      for (const strike of around.after) {
        const { transition, notes } = strike;
        if (transition) continue;
        for (const finger of saidFingers(arranged, strike)) used.add(finger);
        for (const { string, fret } of notes) {
          if (fret > 0 && to.shape.frets[string] === fret) used.add(to.shape.fingers[string]!);
        }
      }
    }
    const from = before && hold(before.symbol);
    if (!from || !to || before.symbol === symbol) return;
    const change = handChange({ index, tick, from, to }, around, setting);
    const bar = itemAt(bars, tick)?.index ?? 0;
    const written = itemAt(bars, barEnd - 1)!;
    const place = {
      section: written.section,
      line: written.line,
      bar: written.bar,
      at: placement.at,
    };
    const key = `${before.symbol} ${symbol}`;
    const kind = kinds.get(key);
    if (!kind) {
      kinds.set(key, {
        from,
        to,
        times: 1,
        bars: [bar],
        places: [place],
        landings: [index],
        tightest: change,
        ceiling: null,
        slack: null,
        measured: hand.measured.has(pairOf(from.shape, to.shape)),
      });
      return;
    }
    kind.times += 1;
    kind.bars.push(bar);
    kind.landings.push(index);
    if (!kind.places.some((known) => samePlace(known, place))) kind.places.push(place);
    if (ceilingOf(change) < ceilingOf(kind.tightest)) kind.tightest = change;
  });
  const all = [...kinds.values()].map((kind) => ({ ...kind, ...limits(kind.tightest) }));
  all.sort(byCeiling);
  const idle = new Map<string, number[]>();
  for (const [symbol, used] of needed) {
    const off = [1, 2, 3, 4].filter(
      (finger) => hold(symbol)!.shape.fingers.includes(finger) && !used.has(finger),
    );
    if (off.length > 0) idle.set(symbol, off);
  }
  return {
    tempo: song.tempo,
    kinds: all,
    idle,
    unknown: [...unknown.values()],
    ceiling: all[0]?.ceiling ?? null,
  };
}

/** The fingers that a pick says of its strings: they are used, wherever the chord has them. */
function saidFingers({ rhythms }: Arrangement, { kind, tune, tick, bar, slot }: Strike): number[] {
  if (kind !== 'pick' || tune) return [];
  const part = rhythms[bar]?.findLast((one) => one.tick <= tick);
  const stroke = part && slots(part.pattern)[slot]?.stroke;
  return stroke?.kind === 'pick' ? stroke.strings.flatMap(({ held }) => held ?? []) : [];
}

const samePlace = (one: LandingPlace, other: LandingPlace) =>
  one.section === other.section &&
  one.line === other.line &&
  one.bar === other.bar &&
  one.at === other.at;

/** For comparing: beyond every tempo where nothing has to move. */
export function ceilingOf({ tightest }: Pick<HandChange, 'tightest'>): number {
  return tightest?.ceiling ?? Infinity;
}

function limits({ tightest }: HandChange): Pick<ChangeKind, 'ceiling' | 'slack'> {
  if (!tightest) return { ceiling: null, slack: null };
  return { ceiling: tightest.ceiling, slack: tightest.window - tightest.ms };
}

function whyUnknown(symbol: string): string {
  return isNoChord(symbol)
    ? 'no chord is held, so the hand is free'
    : 'there is no shape for it on this neck';
}
