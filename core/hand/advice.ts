import type { Arrangement } from '../arrange';
import { soundingLength } from '../neck';
import type { Centimetres } from '../plain';
import { type Candidate, candidatesFor } from './candidates';
import type { HandEdit } from './edits';
import { changeDuration } from './need';
import { ceilingOf, type ChangeKind, type HandReport } from './report';
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

/** No tempo is faster: gains beyond it are none. */
const FASTEST = 300;
/** Beats a minute that are worth a word. */
const WORTH = 2;
/** Pieces of advice for one change. */
const OFFERED = 8;
const SHAPES_OFFERED = 2;
/** A change that goes half as fast again as the song needs no advice. */
const AMPLE = 1.5;
/** So much more than the tempo is room enough: what gains more than that is ranked by what it costs. */
const ROOM = 1.1;

const capped = (ceiling: number | null) => Math.min(FASTEST, ceiling ?? FASTEST);

/** The lowest that a shape of its chord makes of the other changes with it, where that hurts. */
function slowed(
  trial: Trial,
  { edits }: Candidate,
  kind: ChangeKind,
  { kinds, tempo }: HandReport,
  scale: Centimetres,
): Advice['slows'] {
  const shapes = new Map(
    edits.flatMap((edit) => (edit.do === 'shape' ? [[edit.symbol, edit.shape] as const] : [])),
  );
  let worst: Advice['slows'] = null;
  for (const other of shapes.size > 0 ? kinds : []) {
    const { from, to } = other;
    if (other === kind || !(shapes.has(from.symbol) || shapes.has(to.symbol))) continue;
    const [start, end] = [shapes.get(from.symbol), shapes.get(to.symbol)];
    const after = changeDuration(start ?? from.shape, end ?? to.shape, scale).ms;
    if (after <= changeDuration(from.shape, to.shape, scale).ms) continue;
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
  if (kind.ceiling === null || kind.ceiling >= Math.min(FASTEST, AMPLE * song.tempo)) return [];
  const all = candidatesFor(arranged, kind, trial.strikes(kind, []));
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
    .map((one) => ({
      ...one,
      slows: slowed(trial, one, kind, report, soundingLength(song.instrument, song.capo)),
    }))
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
  const change = trial.tightest(kind, candidate.edits, capped(kind.ceiling) + WORTH);
  if (!change) return [];
  const ceiling = change.tightest?.ceiling ?? null;
  if (capped(ceiling) < capped(kind.ceiling) + WORTH) return [];
  return [{ ...candidate, ceiling, slows: null }];
}
