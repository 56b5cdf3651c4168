import type { InstrumentId, TimedPair, Shape } from '#core/schema';
import { fretChord, INSTRUMENTS } from '#core/neck';

const DAY = 24 * 60 * 60 * 1000;
/** Thursdays of the strum circle: so many weeks ago. */
const WEEKS = [6, 5, 4, 3, 2, 1];

/**
 * How a change went at Kettle Lock: milliseconds at the first evening and at the last, and where a setback
 * came, in weeks.
 */
const PLAYED: {
  player: string;
  instrument: InstrumentId;
  pair: [string, string];
  from: number;
  to: number;
  setback?: number;
}[] = [
  { player: 'Marigold', instrument: 'guitar', pair: ['A', 'Bm'], from: 690, to: 400, setback: 3 },
  { player: 'Marigold', instrument: 'guitar', pair: ['Bm', 'D'], from: 560, to: 340 },
  { player: 'Marigold', instrument: 'guitar', pair: ['D', 'A'], from: 450, to: 290 },
  { player: 'Heron', instrument: 'guitar', pair: ['G', 'C'], from: 540, to: 330, setback: 2 },
  { player: 'Heron', instrument: 'guitar', pair: ['G', 'Em'], from: 410, to: 270 },
  { player: 'Heron', instrument: 'guitar', pair: ['D7', 'G'], from: 520, to: 320 },
  { player: 'Teasel', instrument: 'ukulele', pair: ['F', 'Bb'], from: 560, to: 300, setback: 4 },
  { player: 'Teasel', instrument: 'ukulele', pair: ['Gm', 'C7'], from: 430, to: 270 },
];

/** Even scatter from -1 to 1, the same each time: a simple generator is enough for an example. */
function scatter(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
    return (2 * state) / 2 ** 31 - 1;
  };
}

function shapeOf(symbol: string, id: InstrumentId): Shape {
  const held = fretChord(symbol, { instrument: INSTRUMENTS[id], capo: 0, bassSchool: 'root' })!;
  return { frets: held.shape.frets, fingers: held.shape.fingers };
}

/**
 * Six weeks of timed changes by players of Kettle Lock, ending in the week before a day.
 * @param today milliseconds since 1970
 */
export function demoTimings(today: number): (TimedPair & { madeAt: Date })[] {
  return PLAYED.flatMap(({ player, instrument: id, pair, from, to, setback }, row) =>
    WEEKS.map((week, evening) => {
      const random = scatter(97 * (row + 1) + evening);
      const share = evening / (WEEKS.length - 1);
      const slower = setback === week ? 1.15 : 1;
      const middle = (from + (to - from) * share) * slower;
      const count = Math.floor(30_000 / middle);
      const gaps = Array.from({ length: count }, (_, at) =>
        Math.round(at === 7 ? middle * 2.6 : middle * (1 + 0.09 * random())),
      );
      const { name, strings } = INSTRUMENTS[id];
      const [start, end] = pair;
      return {
        from: start,
        to: end,
        fromShape: shapeOf(start, id),
        toShape: shapeOf(end, id),
        instrument: name,
        strings,
        gaps,
        source: 'example' as const,
        player,
        madeAt: new Date(today - week * 7 * DAY + (row % 3) * 600_000),
      };
    }),
  );
}
