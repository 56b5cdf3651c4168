import type { Arrangement, Strike } from '../arrange';
import type { RhythmTarget } from '../edit';
import { describeFrets, fingerings, type FrettedChord, offeredShapes, standIns } from '../neck';
import { placeStroke } from '../pattern';
import type { Family, OpenStrokes, Pattern, RuledOut, Shape, Travel } from '../schema';
import { type BarPlace, patternOf } from '../edit';
import { itemAt } from '../song';
import { slots, sounds } from '../stroke';
import { beatTicks } from '../time';
import type { HandEdit } from './edits';
import { needOf } from './need';
import type { ChangeKind, HandReport } from './report';
import { ceilingOf } from './report';
import type { Hand } from './timed';
import { type Trial, trialOf } from './trial';

/** One thing that would help with a change. */
export interface Advice {
  /** What to do, as a short order: 'Open the last stroke'. */
  label: string;
  /** What it costs in music. */
  cost: string;
  /** Done together, as one step. */
  edits: HandEdit[];
  /** The change's ceiling afterwards; null where nothing holds it back any more. */
  ceiling: number | null;
  /** Another change of the song that it would slow below both its own and the song's tempo. */
  slows: { from: string; to: string; ceiling: number } | null;
}

interface Candidate {
  label: string;
  cost: string;
  edits: HandEdit[];
  /** How much of the music it takes, for the order of those that gain alike. */
  takes: number;
  group: 'before' | 'landing' | 'shape' | 'time' | 'tempo';
  /** Of those that differ only in how much, the best is offered. */
  family: string;
}

/** No tempo is faster: gains beyond it are none. */
const FASTEST = 300;
/** Beats a minute that are worth a word. */
const WORTH = 2;
const SHAPES_TRIED = 4;
const FINGERINGS_TRIED = 3;
/** Pieces of advice for one change. */
const OFFERED = 8;
const SHAPES_OFFERED = 2;
/** So much more than the tempo is room enough: what gains more than that is ranked by what it costs. */
const ROOM = 1.1;

const capped = (ceiling: number | null) => Math.min(FASTEST, ceiling ?? FASTEST);

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
  const fingered = fingerings(shape).slice(1).filter(quicker).slice(0, FINGERINGS_TRIED);
  const stands = standIns(song.instrument, chord.chord, shape).filter(
    ({ shape: other }) =>
      quicker(other) && !others.some(({ frets }) => String(frets) === String(other.frets)),
  );
  return [
    ...fingered.map((other) =>
      holding(
        `Finger ${symbol} ${other.fingers.filter((finger) => finger > 0).join(' ')}`,
        'nothing: the same notes, with these fingers from the thumb side on',
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
  tick: number,
): { target: RhythmTarget; pattern: Pattern; into: number } | null {
  const bar = itemAt(bars, tick);
  const part = bar && rhythms[bar.index]?.findLast((row) => row.tick <= tick);
  if (!bar || !part || part.pattern.loose) return null;
  const symbol = bar.content.chords[0]?.symbol;
  const place: BarPlace = { section: bar.section, line: bar.line, bar: bar.bar };
  const targets: RhythmTarget[] = [
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
      label: `Thin the beat before it to its first stroke`,
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
            label: 'Land at the next stroke',
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

/** The lowest that a shape of its chord makes of the other changes with it, where that hurts. */
function slowed(
  trial: Trial,
  { edits }: Candidate,
  kind: ChangeKind,
  { kinds, tempo }: HandReport,
  family: Family,
): Advice['slows'] {
  const shapes = new Map(
    edits.flatMap((edit) => (edit.do === 'shape' ? [[edit.symbol, edit.shape] as const] : [])),
  );
  let worst: Advice['slows'] = null;
  for (const other of shapes.size > 0 ? kinds : []) {
    const { from, to } = other;
    if (other === kind || !(shapes.has(from.symbol) || shapes.has(to.symbol))) continue;
    const [start, end] = [shapes.get(from.symbol), shapes.get(to.symbol)];
    const after = needOf(start ?? from.shape, end ?? to.shape, family).ms;
    if (after <= needOf(from.shape, to.shape, family).ms) continue;
    const change = trial.tightest(other, edits);
    const ceiling = change ? ceilingOf(change) : Infinity;
    if (
      ceiling >= Math.min(tempo, other.ceiling ?? Infinity) ||
      ceiling >= (worst?.ceiling ?? Infinity)
    )
      continue;
    worst = { from: from.symbol, to: to.symbol, ceiling };
  }
  return worst;
}

/**
 * What helps with a change, ranked by what it gains: strokes before it opened, damped or left out; its
 * landing played thinner, earlier or later; other shapes, stand-ins and fingers; two of these together where
 * one is not enough; or a lower tempo. What the player has ruled out is not proposed.
 * @example adviceFor(arranged, report, report.kinds[0], ANY_HAND)[0].label // 'Open the last stroke'
 */
export function adviceFor(
  arranged: Arrangement,
  report: HandReport,
  kind: ChangeKind,
  hand: Hand,
  trial: Trial = trialOf(arranged, hand),
): Advice[] {
  const { song } = arranged;
  if (kind.ceiling === null || kind.ceiling >= FASTEST) return [];
  const ruledOut = song.ruledOut ?? [];
  const around = trial.strikes(kind, []);
  const { from, to } = kind;
  const { family } = song.instrument;
  const now = needOf(from.shape, to.shape, family).ms;
  const quicker = (one: Shape, other: Shape) => needOf(one, other, family).ms < now;
  const all: Candidate[] = [
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
  /** Room beyond the tempo is worth no more music. */
  const enoughRoom = Math.max(song.tempo, kind.ceiling) * ROOM;
  const byGain = (one: Weighed, other: Weighed) =>
    Math.round(Math.min(enoughRoom, effective(other))) -
      Math.round(Math.min(enoughRoom, effective(one))) || one.takes - other.takes;
  const settled = new Set<string>();
  const gained = all
    .flatMap((candidate) => {
      // Two strokes need not be tried where one gives room enough.
      if (candidate.group === 'before' && settled.has(candidate.family)) return [];
      const found = weigh(trial, kind, candidate);
      if (capped(found[0]?.ceiling ?? 0) >= enoughRoom) settled.add(candidate.family);
      return found;
    })
    .sort(byGain);
  const weighed = bestOfEach(gained)
    .slice(0, OFFERED)
    .map((one) => ({ ...one, slows: slowed(trial, one, kind, report, family) }))
    .sort(byGain);
  const best = (group: Candidate['group']) => weighed.find((one) => one.group === group);
  const enough = capped(weighed[0]?.ceiling ?? kind.ceiling) >= song.tempo;
  const pairs: [Weighed | undefined, Weighed | undefined][] = [
    [best('before'), best('landing')],
    [best('before'), best('shape')],
    [best('landing'), best('shape')],
  ];
  const together = enough
    ? []
    : pairs.flatMap(([one, other]) => {
        if (!one || !other) return [];
        const both: Candidate = {
          label: `${one.label}, and ${other.label.charAt(0).toLowerCase()}${other.label.slice(1)}`,
          cost: `${one.cost}; ${other.cost}`,
          edits: [...one.edits, ...other.edits],
          takes: one.takes + other.takes,
          group: 'before',
          family: 'both',
        };
        const alone = Math.max(capped(one.ceiling), capped(other.ceiling));
        return weigh(trial, kind, both).filter(({ ceiling }) => capped(ceiling) >= alone + WORTH);
      });
  const slower: Weighed[] =
    kind.ceiling < song.tempo
      ? [
          {
            label: `Play it at ${Math.floor(kind.ceiling)}`,
            cost: 'a slower song',
            edits: [{ do: 'slow', tempo: Math.max(20, Math.floor(kind.ceiling)) }],
            takes: 5,
            group: 'tempo',
            family: 'tempo',
            ceiling: kind.ceiling,
            slows: null,
          },
        ]
      : [];
  return [...[...weighed, ...together].sort(byGain).slice(0, OFFERED), ...slower].map(
    ({ label, cost, edits, ceiling, slows }) => ({ label, cost, edits, ceiling, slows }),
  );
}

type Weighed = Candidate & Pick<Advice, 'ceiling' | 'slows'>;

const effective = ({ ceiling, slows }: Weighed) =>
  Math.min(capped(ceiling), slows?.ceiling ?? FASTEST);

/** Of candidates that are alike in kind, the first; of shapes of one chord, two. */
function bestOfEach(sorted: Weighed[]): Weighed[] {
  const taken = new Map<string, number>();
  return sorted.filter(({ family, group }) => {
    const count = (taken.get(family) ?? 0) + 1;
    taken.set(family, count);
    return count <= (group === 'shape' ? SHAPES_OFFERED : 1);
  });
}

function weigh(trial: Trial, kind: ChangeKind, candidate: Candidate): Weighed[] {
  const change = trial.tightest(kind, candidate.edits);
  if (!change) return [];
  const ceiling = change.tightest?.ceiling ?? null;
  if (capped(ceiling) < capped(kind.ceiling) + WORTH) return [];
  return [{ ...candidate, ceiling, slows: null }];
}
