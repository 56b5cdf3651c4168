import type { SecondsPerTick, Ticks } from '../plain';
import type { Accent, Direction, Song, TuneMeets, TuneNote } from '../schema';
import type { FretOptions } from '../neck';
import type { PlayedBar } from '../song';
import { armPasses, patternTicks, type SoundingStroke } from '../stroke';
import type { Strike, StrikeNote } from './performance';
import type { RhythmPart } from './rhythm';
import { stringAt, VELOCITIES } from './voicing';

/** Lines of single notes, and how they meet the pattern. */

/** A single note among strums is played out a little. */
const NOTE_VELOCITY = 1.15;
/** Seconds between the strings of a rake that ends on a note. */
const RAKE_STEP = 0.018;

interface TuneContext {
  options: FretOptions;
  rhythms: RhythmPart[][];
  perTick: SecondsPerTick;
  lateAt: (tick: Ticks) => Ticks;
  chordAt: (tick: Ticks) => { symbol: string; frets: (number | null)[] } | null;
  /** Told what a note is, so that the fretting hand can sound it. */
  tell: (strike: Strike, stroke: SoundingStroke) => void;
  /** Takes a note that cannot be played, and why. */
  lose: (tick: Ticks, message: string) => void;
}

/** How the line of a bar meets its pattern: the nearest rule. */
export function melodyMix(song: Song, bar: PlayedBar): TuneMeets {
  const own = bar.content.rules?.tune?.meets;
  return own ?? song.sections[bar.section]?.rules?.meets ?? song.meets ?? 'in place';
}

/** The way of the arm at a tick: that of the pass which is nearest to it. */
function armAt(row: RhythmPart[], tick: Ticks): Direction {
  const part = row.findLast((one) => one.tick <= tick) ?? row[0];
  if (!part) return 'down';
  const length = patternTicks(part.pattern);
  const into = (tick - part.tick + part.offset) % length;
  return armPasses(part.pattern).findLast((pass) => pass.tick <= into)?.dir ?? 'down';
}

/** Notes that sound at once, together; those of one time come one after another in a line. */
function atOnce(notes: TuneNote[]): TuneNote[][] {
  const groups: TuneNote[][] = [];
  for (const note of notes) {
    const last = groups.at(-1);
    if (last?.[0]!.at === note.at) last.push(note);
    else groups.push([note]);
  }
  return groups;
}

const ACCENTS = ['ghost', 'normal', 'accent', 'strong'] as const;

/** How loud notes at once are: as the loudest of them. */
function loudest(notes: TuneNote[]): Accent {
  const most = Math.max(...notes.map(({ accent = 'normal' }) => ACCENTS.indexOf(accent)));
  return ACCENTS[most]!;
}

/** What a note, or those at once, is as a stroke. */
function strokeOf(notes: TuneNote[], dir: Direction): SoundingStroke {
  const { string, fret, how, grace, held = 1 } = notes[0]!;
  const accent = loudest(notes);
  const place = { string: `s${string}`, fret };
  const places = notes.map((note) => ({ string: `s${note.string}`, fret: note.fret }));
  // A line brings its own fingers: the one that a pull-off needs is there.
  if (how) return { kind: 'legato', accent, steps: [{ how, strings: [{ ...place, held }] }] };
  return { kind: 'pick', dir, accent, strings: places, ...(grace && { grace }) };
}

const isBass = ({ kind, notes, chord }: Strike, frets: (number | null)[] | undefined) =>
  kind === 'bass' ||
  (kind === 'pick' &&
    chord !== null &&
    notes.length === 1 &&
    notes[0]!.string === frets?.findIndex((fret) => fret !== null));

/**
 * Where the arm has to turn back for a note of a line: the stroke before it is struck the same way, and there is no
 * time for the arm to come round by itself.
 * @param strikes of a bar, in order
 * @param halfSwing ticks that one half-swing of its arm takes
 * @returns ticks of those notes
 * @example tuneTurns(strikes, 480) // [1200]
 */
export function tuneTurns(strikes: Strike[], halfSwing: number): number[] {
  const struck = strikes.filter(({ kind }) => kind !== 'legato' && kind !== 'tap');
  return struck.flatMap((strike, index) => {
    const before = struck[index - 1];
    if (!before || !(strike.tune || before.tune) || before.dir !== strike.dir) return [];
    return strike.tick - before.tick <= halfSwing ? [strike.tick] : [];
  });
}

/**
 * Puts lines of notes in: each note a strike of its own, struck the way the arm goes there, or sounded by the
 * fretting hand; the strokes at its time make way as the rule of its bar says.
 * @example withTune(song, strikes, bars, context).filter(({ tune }) => tune)
 */
export function withTune(
  song: Song,
  strikes: Strike[],
  bars: PlayedBar[],
  context: TuneContext,
): Strike[] {
  const played = bars.filter(({ content }) => content.rules?.tune);
  if (played.length === 0) return strikes;
  const { options, rhythms, perTick, lateAt, chordAt, tell, lose } = context;
  const strings = options.instrument.strings.length;
  const all = new Map(strikes.map((strike) => [strike.tick, strike]));
  for (const bar of played) {
    const meets = melodyMix(song, bar);
    const end = bar.tick + bar.ticks;
    const landings = new Set<number>();
    const { notes } = bar.content.rules!.tune!;
    const start = bar.tick - bar.lead;
    if (meets === 'alone' || meets === 'from first to last') {
      const whole = meets === 'alone';
      const from = whole ? bar.tick : start + notes[0]!.at;
      const to = whole ? end : Math.min(end, start + notes.at(-1)!.at + 1);
      for (const [tick, { landing }] of all) {
        if (tick < from || tick >= to) continue;
        if (landing) landings.add(tick);
        all.delete(tick);
      }
    }
    atOnce(notes).forEach((together, index, groups) => {
      const tick = start + together[0]!.at;
      if (tick < bar.tick || tick >= end) return;
      const playable = together.filter((note) => note.string <= strings);
      for (const { string } of together.slice(0, together.length - playable.length)) {
        lose(tick, `This instrument has no string ${string} for these notes.`);
      }
      const [note] = playable;
      if (!note) return;
      const under = all.get(tick);
      const chord = chordAt(tick);
      const dir = armAt(rhythms[bar.index] ?? [], tick);
      const string = strings - note.string;
      const next = groups[index + 1]?.[0]!.at ?? note.at + end - tick;
      const accent = loudest(playable);
      const velocity = Math.min(1, VELOCITIES[accent] * NOTE_VELOCITY);
      const late = under?.late ?? lateAt(tick);
      const sounds = playable.map((one) => ({
        ...stringAt(options, strings - one.string, one.fret),
        delay: 0,
        velocity,
      }));
      const sounded = sounds[0]!;
      const strike: Strike = {
        kind: note.how ? 'legato' : 'pick',
        dir,
        accent,
        tick,
        ticks: under?.ticks ?? Math.max(1, next - note.at),
        late,
        seconds: (tick + late) * perTick,
        bar: bar.index,
        slot: under?.slot ?? 0,
        chord: chord?.symbol ?? null,
        landing: under?.landing ?? landings.has(tick),
        transition: false,
        run: false,
        tune: true,
        palm: false,
        flesh: under?.flesh ?? false,
        tap: null,
        velocity,
        notes: note.how ? [] : sounds,
        damps: [],
      };
      const rakes =
        meets === 'rake' &&
        playable.length === 1 &&
        (under?.kind === 'strum' || under?.kind === 'bass') &&
        chord?.frets[string] === note.fret;
      if (rakes && !note.how) {
        // A bass strike has its string alone: the strings up to the note are those of the chord.
        const chorded = chord.frets.flatMap((fret, at) =>
          fret === null
            ? []
            : [{ ...stringAt(options, at, fret), delay: 0, velocity: under.velocity }],
        );
        strike.notes = raked(under.kind === 'strum' ? under.notes : chorded, string, sounded);
      }
      const beside = meets === 'without the bass' && under && !isBass(under, chord?.frets);
      if (beside && !note.how) {
        const withNotes = sounds.reduce(
          (now, one) => besides({ ...under, notes: now }, one),
          under.notes,
        );
        all.set(tick, { ...under, tune: true, notes: withNotes });
        return;
      }
      if (rakes && !note.how) {
        const down = { kind: 'strum' as const, dir: 'down' as const };
        const rake: Strike = { ...strike, ...down, accent: 'accent' };
        all.set(tick, rake);
        return;
      }
      tell(strike, strokeOf(playable, dir));
      all.set(tick, strike);
    });
  }
  return inTurn(
    [...all.values()].sort((a, b) => a.tick - b.tick),
    perTick,
  );
}

/**
 * None is heard before the one before it: swing may delay a stroke past the next note of a line. They stay the same
 * objects, since what their strokes ask of the fretting hand is kept by them.
 */
function inTurn(strikes: Strike[], perTick: number): Strike[] {
  let heard = 0;
  for (const strike of strikes) {
    strike.late = Math.max(strike.late, heard - strike.tick);
    strike.seconds = (strike.tick + strike.late) * perTick;
    heard = strike.tick + strike.late;
  }
  return strikes;
}

/** The strings of a stroke with a note among them: in the order of the strings, when its own is reached. */
function besides({ notes, dir }: Strike, own: StrikeNote): StrikeNote[] {
  const others = notes.filter(({ string }) => string !== own.string);
  const same = notes.find(({ string }) => string === own.string);
  const isAfter = ({ string }: StrikeNote) =>
    dir === 'down' ? string > own.string : string < own.string;
  const next = others.find(isAfter);
  const at = next ? others.indexOf(next) : others.length;
  const delay = same?.delay ?? next?.delay ?? Math.max(0, ...others.map((note) => note.delay));
  return others.toSpliced(at, 0, { ...own, delay });
}

/** The strum as far as the string of the note, which it ends on. */
function raked(notes: StrikeNote[], string: number, last: StrikeNote): StrikeNote[] {
  const before = notes.filter((one) => one.string < string).sort((a, b) => a.string - b.string);
  return [...before, last].map((note, order) => ({
    ...note,
    delay: order * RAKE_STEP,
    velocity: note === last ? Math.min(1, last.velocity * 1.15) : note.velocity * 0.8,
  }));
}
