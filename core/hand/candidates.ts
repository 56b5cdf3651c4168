import type { Ticks } from '../plain';
import type { Arrangement, Strike } from '../arrange';
import { type BarPlace, patternOf, type RhythmTarget } from '../edit';
import {
  describeFrets,
  fingerings,
  unusualFingers,
  type FrettedChord,
  offeredShapes,
  soundingLength,
  standIns,
} from '../neck';
import { placeStroke } from '../pattern';
import type { OpenStrokes, Pattern, RuledOut, Shape, Travel } from '../schema';
import { itemAt } from '../song';
import { slots, sounds } from '../stroke';
import { beatTicks } from '../time';
import type { HandEdit } from './edits';
import { changeDuration } from './need';
import type { ChangeKind } from './report';

/** Something that may help with a change, before it was tried. */
export interface Candidate {
  label: string;
  cost: string;
  edits: HandEdit[];
  /** How much of the music it takes, for the order of those that gain alike. */
  takes: number;
  group: 'before' | 'landing' | 'shape' | 'time' | 'tempo';
  /** Of those that differ only in how much, the best is offered. */
  family: string;
}

const SHAPES_TRIED = 4;
const FINGERINGS_TRIED = 3;
/** How much more unusual than those of the shape other fingers may be (`unusualFingers`): a part barre, or two off their frets. */
const MORE_UNUSUAL = 2;

const TRAVEL: { how: Travel; label: (count: string) => string; cost: string; rule: RuledOut }[] = [
  {
    how: 'open',
    label: (count) => `Open the last ${count}`,
    cost: 'open strings ring while the hand travels',
    rule: 'open strokes',
  },
  {
    how: 'damped',
    label: (count) => `Damp the last ${count}`,
    cost: 'a dry stroke before the landing',
    rule: 'damped strokes',
  },
  {
    how: 'left out',
    label: (count) => `Leave out the last ${count}; the arm goes on`,
    cost: 'a gap before the landing',
    rule: 'strokes left out',
  },
];
const COUNTS: { count: OpenStrokes; word: string }[] = [
  { count: 1, word: 'stroke' },
  { count: 2, word: 'two strokes' },
  { count: 3, word: 'three strokes' },
];

function travelCandidates({ places }: ChangeKind, ruledOut: RuledOut[]): Candidate[] {
  return TRAVEL.filter(({ rule }) => !ruledOut.includes(rule)).flatMap(
    ({ how, label, cost }, order) =>
      COUNTS.slice(0, how === 'open' ? 3 : 2).map(({ count, word }) => ({
        label: label(word),
        cost,
        edits: [{ do: 'travel' as const, places, count, how }],
        takes: count + order / 4,
        group: 'before' as const,
        family: how,
      })),
  );
}

function arrivalCandidates({ places, tightest }: ChangeKind, around: Strike[]): Candidate[] {
  const first = around.find(({ tick }) => tick >= tightest.tick);
  if (first?.kind !== 'strum') return [];
  const arrive = (how: 'bass' | 'bass side' | 'treble side', label: string, takes: number) => ({
    label,
    cost:
      how === 'bass'
        ? 'one note in place of the full chord, for one stroke'
        : 'half of the strings, for one stroke',
    edits: [{ do: 'arrive' as const, places, how }],
    takes,
    group: 'landing' as const,
    family: how,
  });
  return [
    ...(first.dir === 'down' ? [arrive('bass', 'Land on the bass note first', 1)] : []),
    arrive('bass side', 'Land on the bass side only', 1.4),
    arrive('treble side', 'Land on the treble side only', 1.5),
  ];
}

/** Shapes of one chord of a change; those that ask for no less movement than the one it has are left out. */
function shapeCandidates(
  song: Arrangement['song'],
  chord: FrettedChord,
  quicker: (shape: Shape) => boolean,
): Candidate[] {
  const locked = song.chosenShapes.some(
    (choice) => choice.symbol === chord.symbol && choice.locked,
  );
  if (locked) return [];
  const { symbol, shape } = chord;
  const holding = (label: string, cost: string, other: typeof shape, takes: number) => ({
    label,
    cost,
    edits: [
      {
        do: 'shape' as const,
        symbol,
        shape: { frets: other.frets, fingers: other.fingers },
      },
    ],
    takes,
    group: 'shape' as const,
    family: `shape of ${symbol}`,
  });
  const same = (other: typeof shape) => String(other.frets) === String(shape.frets);
  const offered = offeredShapes(symbol, song);
  const others = offered.filter((other) => !same(other) && quicker(other)).slice(0, SHAPES_TRIED);
  // Fingers that nobody would put so are no advice, however quick they are.
  const usual = unusualFingers(shape) + MORE_UNUSUAL;
  const fingered = fingerings(shape)
    .slice(1)
    .filter((other) => unusualFingers(other) <= usual && quicker(other))
    .slice(0, FINGERINGS_TRIED);
  const stands = standIns(song.instrument, chord.chord, shape).filter(
    ({ shape: other }) =>
      quicker(other) && !others.some(({ frets }) => String(frets) === String(other.frets)),
  );
  return [
    ...fingered.map((other) =>
      holding(
        `Finger ${symbol} ${other.fingers.filter((finger) => finger > 0).join(' ')}`,
        'same notes, other fingers, from the thumb side on',
        other,
        0,
      ),
    ),
    ...others.map((other) =>
      holding(
        `Hold ${symbol} as ${describeFrets(other)}`,
        'another sound of the same chord',
        other,
        2,
      ),
    ),
    ...stands
      .slice(0, 2)
      .map((stand) =>
        holding(
          stand.symbol === symbol
            ? `Hold ${symbol} as ${describeFrets(stand.shape)}`
            : `Hold ${symbol} as an easy ${stand.symbol}`,
          stand.lost,
          stand.shape,
          2.5,
        ),
      ),
  ];
}

/** The rhythm under a tick, as a target that a command can change; null where it is no plain one. */
function rhythmAt(
  { song, bars, rhythms }: Arrangement,
  tick: Ticks,
): { target: RhythmTarget; pattern: Pattern; into: number } | null {
  const bar = itemAt(bars, tick);
  const part = bar && rhythms[bar.index]?.findLast((row) => row.tick <= tick);
  if (!bar || !part || part.pattern.loose) return null;
  const symbol = bar.content.chords[0]?.symbol;
  const place: BarPlace = { section: bar.section, line: bar.line, bar: bar.bar };
  const targets: RhythmTarget[] = [
    { of: 'bar', ...place, time: bar.time },
    { of: 'bar', ...place },
    ...(symbol ? [{ of: 'chord' as const, symbol }] : []),
    { of: 'section', section: bar.section },
    { of: 'song' },
  ];
  const target = targets.find((one) => patternOf(song, one) === part.pattern);
  return target ? { target, pattern: part.pattern, into: tick - part.tick + part.offset } : null;
}

/** The beat before the landing with nothing but its first stroke. */
function thinCandidate(arranged: Arrangement, { tightest }: ChangeKind): Candidate[] {
  const before = tightest.tick - 1;
  const found = before < 0 ? null : rhythmAt(arranged, before);
  if (!found) return [];
  const all = slots(found.pattern);
  const length = all.at(-1)!.tick + all.at(-1)!.ticks;
  const under = all.findLast(({ tick }) => tick <= found.into % length)!;
  const weak = all.filter(
    ({ beat, position, stroke }) => beat === under.beat && position > 0 && sounds(stroke),
  );
  if (weak.length === 0) return [];
  const pattern = weak.reduce(
    (now, { index }) => placeStroke(now, index, { kind: 'miss' }),
    found.pattern,
  );
  return [
    {
      label: 'Strum once on the beat before',
      cost: 'a lighter beat, each time the rhythm comes round',
      edits: [{ do: 'thin', target: found.target, pattern }],
      takes: 3,
      group: 'before',
      family: 'thin',
    },
  ];
}

/** The landing an eighth earlier, or at the next strike. */
function timeCandidates(
  { song, bars, changes }: Arrangement,
  { places, tightest }: ChangeKind,
  around: Strike[],
): Candidate[] {
  const { tick, placement, push, barEnd } = changes[tightest.index]!;
  const beat = beatTicks(song.meter);
  const next = around.find((strike) => strike.tick > tick && !strike.run);
  const by = next ? next.tick - tick : 0;
  const bar = itemAt(bars, barEnd - 1)!;
  const free = bar.content.chords.every(({ at }) => at <= placement.at || at > placement.at + by);
  const delays = push === 0 && by > 0 && by <= beat && tick + by < barEnd && free;
  return [
    ...(push === 0 && tick >= beat / 2
      ? [
          {
            label: 'Push the landing an eighth early',
            cost: 'the chord arrives before its beat',
            edits: [{ do: 'push' as const, places, push: 480 as const }],
            takes: 3,
            group: 'time' as const,
            family: 'push',
          },
        ]
      : []),
    ...(delays
      ? [
          {
            label: 'Change one stroke later',
            cost: 'the old chord goes on for a stroke',
            edits: [{ do: 'delay' as const, places, by }],
            takes: 3.5,
            group: 'time' as const,
            family: 'delay',
          },
        ]
      : []),
  ];
}

/**
 * What may help with a change, but for what the player has ruled out.
 * @param around the strikes around its tightest place
 */
export function candidatesFor(
  arranged: Arrangement,
  kind: ChangeKind,
  around: Strike[],
): Candidate[] {
  const { song } = arranged;
  const ruledOut = song.ruledOut ?? [];
  const { from, to } = kind;
  const scale = soundingLength(song.instrument, song.capo);
  const now = changeDuration(from.shape, to.shape, scale).ms;
  const quicker = (one: Shape, other: Shape) => changeDuration(one, other, scale).ms < now;
  return [
    ...travelCandidates(kind, ruledOut),
    ...(ruledOut.includes('strokes left out') ? [] : thinCandidate(arranged, kind)),
    ...(ruledOut.includes('other landings')
      ? []
      : [...arrivalCandidates(kind, around), ...timeCandidates(arranged, kind, around)]),
    ...(ruledOut.includes('other shapes')
      ? []
      : [
          ...shapeCandidates(song, to, (shape) => quicker(from.shape, shape)),
          ...shapeCandidates(song, from, (shape) => quicker(shape, to.shape)),
        ]),
  ];
}
