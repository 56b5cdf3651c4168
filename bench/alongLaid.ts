import type { Seconds, Ticks } from '#core/plain';
import type { Song } from '#core/schema';
import { few } from './time';
import { barTicks, METERS, pulseTicks, secondsPerTick } from '#core/time';
import { guessKey } from '#core/neck';
import { newSong } from '#core/song';
import { arrangement } from '#core/arrange';
import type { Recording } from '#core/take';
import {
  chromasOf,
  differences,
  findSong,
  landPresses,
  layOn,
  mapBeats,
  mappedBars,
  oddsOfPulses,
  readFrom,
  pulsesPerBar,
  chromaOf,
  songSecondsAt,
  stretchesOn,
  suggestChords,
  tickOf,
} from '#core/along';
import { saidPattern } from './songs';
import { sampledStrings, soundFonts } from './sampledStrings';
import { type PlayedStroke, secondVoice } from './secondVoice';

/**
 * Recordings as people make them: sticks or a count before the song, a pick-up, an end that slows down, a player whose
 * presses are steadily late; on a second synthesis, and on sampled strings where those are installed.
 */

const RATE = 22_050;
const LEAD = 0.9;
/** The last two bars take so much longer than the others, at their end. */
const SLOWING = 0.35;

interface Kind {
  meter: '4/4' | '3/4';
  words: string;
  line: string;
  tempo: number;
}

const KINDS: Kind[] = [
  {
    meter: '4/4',
    words: 'down miss, down up, miss up, down up',
    line: 'G | Em | C | D | Am | C . D . | G | D',
    tempo: 96,
  },
  {
    meter: '3/4',
    words: 'bass miss, down up, down up',
    line: 'C | Am | F | G | Dm | G | C | G7',
    tempo: 116,
  },
  {
    meter: '4/4',
    words: 'down miss, down up, down up, miss up',
    line: 'A | E | F#m | D | Bm | E7 | A | <D',
    tempo: 84,
  },
];

function generator(seed: number) {
  let state = (seed * 2_654_435_761 + 11) >>> 0;
  const even = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
  // Nearly normal, with a deviation of one.
  return () => even() + even() + even() + even() + even() + even() - 3;
}

/** A song of the kind, with one beat before its first bar where that is asked for. */
function songOf(kind: Kind, pickUp: boolean): Song {
  const meter = METERS[kind.meter];
  const start = newSong({
    title: 'Lantern',
    instrument: 'guitar',
    meter,
    tempo: kind.tempo,
    progression: `${kind.line} x2`,
  });
  const pattern = saidPattern(kind.words, meter);
  const [section] = start.sections;
  if (!pickUp || !section) return { ...start, pattern };
  const first = section.lines[0]!.bars[0]!;
  const before = { times: 1, bars: [{ chords: first.chords, pickup: 1 }] };
  return { ...start, pattern, sections: [{ ...section, lines: [before, ...section.lines] }] };
}

/** How a song was played: seconds at its ticks, as strokes, after so many bars of sticks. */
function played(song: Song, intro: number, slows: boolean, random: () => number) {
  const { performance, bars, changes } = arrangement(song);
  const perTick = secondsPerTick(song.tempo, song.meter);
  const bar = barTicks(song.meter);
  const [first] = bars;
  const early = first!.lead > 0 ? first!.ticks : 0;
  const begins = intro * bar * perTick + (intro > 0 ? -early * perTick : 0);
  const slow = performance.ticks - 2 * bar;
  const at = (tick: Ticks): Seconds => {
    const into = slows ? Math.max(0, tick - slow) / (2 * bar) : 0;
    return begins + tick * perTick + SLOWING * bar * perTick * into * into;
  };
  const stick = (seconds: Seconds, loud: boolean): PlayedStroke => ({
    seconds,
    kind: 'chuck',
    dir: 'down',
    velocity: loud ? 0.9 : 0.6,
    notes: [],
    damps: [],
  });
  const pulse = pulseTicks(song.meter) * perTick;
  const each = pulsesPerBar(song.meter);
  const sticks = Array.from({ length: intro * each - (early > 0 ? 1 : 0) }, (_, at_) =>
    stick(at_ * pulse, at_ % each === 0),
  ).filter(() => intro > 0);
  const strokes = performance.strikes.map((strike): PlayedStroke => ({
    ...strike,
    seconds: at(strike.tick + strike.late) + 0.006 * random(),
  }));
  return { strokes: [...sticks, ...strokes], at, bars, changes, early };
}

const percent = (part: number, all: number) => `${((100 * part) / Math.max(1, all)).toFixed(1)} %`;

/** Prints how often the song is found where it is, its bar lines, late presses, and what is said to differ. */
export function measureLaid(): void {
  const voices = [null, ...soundFonts()];
  let [recordings, found, lines, near, presses, landed, falsely, seed] = [0, 0, 0, 0, 0, 0, 0, 1];
  const missed: string[] = [];
  for (const kind of few(KINDS)) {
    for (const intro of few([0, 1, 2])) {
      for (const pickUp of few([false, true])) {
        for (const font of few(voices)) {
          const slows = seed % 2 === 0;
          const random = generator((seed += 1));
          const song = songOf(kind, pickUp);
          const { strokes, at, bars, changes } = played(song, intro, slows, random);
          const around = { sampleRate: RATE, lead: LEAD, noise: 34, seed };
          const samples = font
            ? sampledStrings(strokes, { ...around, font })
            : secondVoice(strokes, around);
          const recording: Recording = { samples, sampleRate: RATE };
          const pulse = pulseTicks(song.meter);
          // Tapped in the third bar of the song.
          const from = bars[pickUp ? 3 : 2]!.tick;
          const taps = Array.from(
            { length: 8 },
            (_, tap) => LEAD + at(from + tap * pulse) + 0.015 * random(),
          );
          const map = mapBeats(recording, taps, song.meter);
          if (typeof map === 'string') throw new Error(map);
          const odds = oddsOfPulses(chromasOf(recording, map));
          const layout = findSong(map, odds, { bars, changes }, 0) ?? [];
          const laid = layOn(map, layout, bars);
          const off = songSecondsAt(laid, from) - LEAD - at(from);
          recordings += 1;
          if (Math.abs(off) < 0.1) found += 1;
          else
            missed.push(
              `${kind.meter} intro ${intro}${pickUp ? ' pick-up' : ''}${font ? ' font' : ''}`,
            );
          const shown = mappedBars(laid, bars);
          for (const { tick, lead } of bars) {
            if (lead > 0) continue;
            lines += 1;
            const nearest = Math.min(
              ...shown.map(({ seconds }) => Math.abs(seconds - LEAD - at(tick))),
            );
            if (nearest <= 0.04) near += 1;
          }
          // Presses that come 70 ms late, with 30 ms of scatter.
          const pressed = changes.map(({ tick }) => ({
            seconds: LEAD + at(tick) + 0.07 + 0.03 * random(),
            symbol: null,
          }));
          const landings = landPresses(map, pressed);
          presses += changes.length;
          landed += changes.filter(({ tick }) => {
            const there = tickOf(map, LEAD + at(tick));
            return landings.some((landing) => Math.abs(landing.tick - there) <= 120);
          }).length;
          const stretches = stretchesOn(laid, { ...arrangement(song), bars, changes });
          const key = guessKey(changes.map(({ symbol }) => symbol));
          const guesses = stretches.map((stretch) => {
            const { from: begins, to } = readFrom(stretch);
            return suggestChords(chromaOf(recording, begins, to), { key });
          });
          falsely += differences(stretches, guesses).length;
        }
      }
    }
  }
  console.log(`with an intro, a pick-up, a slowing end: ${recordings} recordings`);
  console.log(
    `  the song lies where it is: ${found} of ${recordings}${missed.length > 0 ? `; not ${missed.join(', ')}` : ''}`,
  );
  console.log(`  bar lines within 40 ms: ${percent(near, lines)} (goal 95)`);
  console.log(
    `  presses 70 ms late, 30 ms scattered, on their place: ${percent(landed, presses)} (goal 95)`,
  );
  console.log(`  said to differ where nothing does: ${falsely} (goal 0)`);
}
