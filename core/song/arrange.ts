import type { Pattern, Song } from '../schema';
import { type HeldChord, holdChord } from '../neck';
import { armReport, type Slot, type SoundingStroke } from '../stroke';
import { secondsPerTick } from '../time';
import { countedBar } from './click';
import type { Performance, Strike } from './performance';
import { firstFrom, itemAt, type Landing, landings, playedBars, songTicks } from './timeline';
import { clearOfLandings, withOpenStrokes, withRuns } from './arrivals';
import { openOf, playedIn, type Playing, playingOf, passageLevels } from './playing';
import { rhythms } from './rhythm';
import { feelAt, feelsOf, lateIn } from './swing';
import { bassStruck, rakeSeconds, type Touch, type TouchContext, touchOf } from './touch';
import { slotsOfBars } from './turns';

/** A touch that was worked out before, and for what. */
interface Known {
  velocity: number;
  ticks: number;
  lastBass: TouchContext['lastBass'];
  touch: Touch;
}

/**
 * Puts the pattern and the chords together: every strike of the song with its time, strings and
 * loudness. Which pattern carries a bar is for `rhythms` to say. Sound, drawing and files all read this
 * one list.
 *
 * A chord that cannot be read sounds nothing; its chucks still do. Misses and holds are not in
 * the list.
 *
 * @example arrange(song).strikes[0] // { kind: 'strum', tick: 0, chord: 'A', notes: [5 strings], ... }
 */
export function arrange(song: Song): Performance {
  const { tempo, meter } = song;
  const bars = playedBars(song);
  const changes = landings(bars);
  const perTick = secondsPerTick(tempo, meter);
  const parts = rhythms(song, bars);
  const rakes = new Map<Pattern, number>();
  const rakeOf = (played: Pattern) => {
    const known = rakes.get(played) ?? rakeSeconds(armReport(played, tempo).rate);
    rakes.set(played, known);
    return known;
  };
  const held = new Map<string, HeldChord | null>();
  const hold = (symbol: string) => {
    if (!held.has(symbol)) held.set(symbol, holdChord(symbol, song));
    return held.get(symbol) ?? null;
  };
  // The same stroke on the same chord sounds the same strings, however often it comes.
  const struck = new Map<SoundingStroke, Map<string | undefined, Known[]>>();
  const touch = (
    stroke: SoundingStroke,
    symbol: string | undefined,
    asked: Omit<Known, 'touch'>,
    rake: number,
  ): Touch => {
    const onChords = struck.get(stroke) ?? new Map<string | undefined, Known[]>();
    struck.set(stroke, onChords);
    const known = onChords.get(symbol) ?? [];
    onChords.set(symbol, known);
    const same = known.find(
      ({ velocity, ticks, lastBass }) =>
        velocity === asked.velocity && ticks === asked.ticks && lastBass === asked.lastBass,
    );
    if (same) return same.touch;
    const { velocity, lastBass } = asked;
    const chord = symbol === undefined ? null : hold(symbol);
    const slotSeconds = asked.ticks * perTick;
    const context = { held: chord, options: song, velocity, rake, slotSeconds, lastBass };
    const fresh = touchOf(stroke, context);
    known.push({ ...asked, touch: fresh });
    return fresh;
  };
  const played = new Map<Slot, Playing | null>();
  const playing = (slot: Slot, from: Pattern) => {
    const known = played.get(slot);
    if (known !== undefined) return known;
    const fresh = playingOf(from, slot);
    played.set(slot, fresh);
    return fresh;
  };

  const feels = feelsOf(parts);
  const lateAt = (tick: number) => {
    const bar = itemAt(bars, tick);
    return bar ? lateIn(bar, tick, feelAt({ feels }, tick)) : 0;
  };

  const strikes: Strike[] = [];
  let change = -1;
  let arrived = true;
  let lastBass: TouchContext['lastBass'] = null;
  let heard = 0;
  const levels = passageLevels(song, bars);
  const travels = song.openStrokes || changes.some(({ placement }) => placement.openStrokes);
  const origins: { now: Playing; slot: Slot; pattern: Pattern; symbol: string | undefined }[] = [];
  for (const { slot, tick, bar, pattern: from } of slotsOfBars(bars, parts, changes)) {
    while (change + 1 < changes.length && changes[change + 1]!.tick <= tick) {
      change += 1;
      arrived = false;
      lastBass = null;
    }
    const level = levels[bar.passage];
    const landing: Landing | undefined = changes[change];
    const fermata = landing?.placement.fermata && tick < landing.barEnd;
    const under = fermata ? (arrived ? 'held' : 'struck') : null;
    const now = playedIn(playing(slot, from), bar, tick, level, under);
    if (!now) continue;
    const { stroke } = now;
    const velocity = level ? level.of(now.velocity, tick) : now.velocity;
    const asked = { velocity, ticks: slot.ticks, lastBass };
    const { notes, damps } = touch(stroke, landing?.symbol, asked, rakeOf(from));
    if (travels) origins.push({ now, slot, pattern: from, symbol: landing?.symbol });
    lastBass = bassStruck(stroke, lastBass);
    // Beats in three are even by themselves. A straight stroke never overtakes a swung one before it.
    const even = from.beats[slot.beat]!.division % 3 === 0;
    const late = Math.max(even ? 0 : lateIn(bar, tick, from.feel), heard - tick);
    heard = tick + late;
    strikes.push({
      kind: now.kind,
      dir: now.dir,
      accent: now.accent,
      tick,
      ticks: slot.ticks,
      late,
      seconds: (tick + late) * perTick,
      bar: bar.index,
      slot: slot.index,
      chord: landing?.symbol ?? null,
      landing: landing !== undefined && !arrived,
      transition: now.transition,
      run: false,
      palm: now.palm,
      flesh: now.flesh,
      tap: now.tap,
      velocity,
      notes,
      damps,
    });
    arrived = true;
  }

  const opened = (index: number): Strike | null => {
    const { now, slot, pattern: from, symbol } = origins[index]!;
    const { stroke } = now;
    if (stroke.kind !== 'strum' && stroke.kind !== 'pick') return null;
    const strike = strikes[index]!;
    const asked = { velocity: strike.velocity, ticks: slot.ticks, lastBass: null };
    const { notes } = touch(openOf(stroke), symbol, asked, rakeOf(from));
    return { ...strike, transition: true, notes };
  };
  const travelled = withOpenStrokes(song, strikes, changes, opened);
  const { strikes: met, lostRuns } = withRuns(song, travelled, bars, changes, hold, lateAt);

  const ticks = songTicks(bars);
  const arriving = changes.map(({ tick, symbol, push }) => {
    const next = met[firstFrom(met, tick)];
    // A chord never lands after the strike that it comes with, or the next.
    const late = next ? Math.min(lateAt(tick), next.tick + next.late - tick) : lateAt(tick);
    return { tick, symbol, push, late };
  });
  const all = clearOfLandings(met, arriving, perTick);
  return {
    tempo,
    ticks,
    seconds: ticks * perTick,
    tail: changes.at(-1)?.placement.fermata ? bars.at(-1)!.ticks : 0,
    bars: bars.map(countedBar),
    feels,
    landings: arriving,
    strikes: all,
    lostRuns,
  };
}
