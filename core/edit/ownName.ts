import { strokeKey } from '../pattern';
import { type Pattern, MAX_PATTERN_LETTERS, type Song, type Stroke } from '../schema';
import { slots, sounds } from '../stroke';
import { barAt, patternOf, type RhythmTarget, rhythmTargets } from './rules';

/**
 * What a rhythm is, in a word or three, by what most of its strokes are.
 * @example rhythmWords(pattern) // 'bass and strum'
 */
export function rhythmWords(pattern: Pattern): string {
  const strokes = slots(pattern)
    .map(({ stroke }) => stroke)
    .filter(sounds);
  const share = (is: (stroke: Stroke) => boolean) =>
    strokes.filter(is).length / Math.max(1, strokes.length);
  const has = (kind: Stroke['kind']) => strokes.some((stroke) => stroke.kind === kind);
  if (strokes.length === 0) return 'silent';
  if (share(({ kind }) => kind === 'pick') >= 0.5) return 'picked';
  if (strokes.length === 1) return 'struck once';
  if (share(({ kind }) => kind === 'chuck') >= 0.5) return 'chucked';
  if (has('bass')) return 'bass and strum';
  if (has('roll')) return 'rolled';
  if (has('chuck')) return 'strummed, chucks';
  return share((stroke) => 'dir' in stroke && stroke.dir === 'down') === 1 ? 'downs' : 'strummed';
}

/** Whose rhythm it is: the chord that is held in the bar, the section, the chord. */
function ownerOf(song: Song, target: RhythmTarget): string {
  switch (target.of) {
    case 'song':
      return '';
    case 'chord':
      return target.symbol;
    case 'section':
      return song.sections[target.section]?.name || `Section ${target.section + 1}`;
    case 'bar': {
      const before = song.sections
        .slice(0, target.section + 1)
        .flatMap(({ lines }, section) =>
          lines.flatMap(({ bars }, line) =>
            bars.filter(
              (_, bar) =>
                section < target.section ||
                line < target.line ||
                (line === target.line && bar < target.bar),
            ),
          ),
        );
      const own = barAt(song, target)?.chords[0];
      const held = before.findLast(({ chords }) => chords.length > 0)?.chords.at(-1);
      return (own ?? held)?.symbol ?? 'Bar';
    }
  }
}

/**
 * A name for the rhythm of a section, a chord or a bar that says whose it is and what it is. A rhythm of the song that
 * has the same strokes lends its name; one of other strokes never has the same.
 * @example ownName(song, { of: 'bar', section: 0, line: 0, bar: 0 }, said('R 3, 2 1, R 3, 2 1')) // 'G, picked'
 */
export function ownName(song: Song, target: RhythmTarget, pattern: Pattern): string {
  const key = strokeKey(pattern);
  const others = rhythmTargets(song).flatMap(({ target: other }) => {
    const own = patternOf(song, other);
    return own && !isSame(other, target) ? [own] : [];
  });
  const same = others.find((other) => strokeKey(other) === key);
  if (same) return same.name;
  const taken = new Set(others.map(({ name }) => name));
  const plain = `${ownerOf(song, target)}, ${rhythmWords(pattern)}`.slice(
    0,
    MAX_PATTERN_LETTERS - 4,
  );
  let name = plain;
  for (let number = 2; taken.has(name); number += 1) name = `${plain} ${number}`;
  return name;
}

const isSame = (one: RhythmTarget, two: RhythmTarget) => placeOf(one) === placeOf(two);

function placeOf(target: RhythmTarget): string {
  switch (target.of) {
    case 'song':
      return 'song';
    case 'section':
      return `section ${target.section}`;
    case 'chord':
      return `chord ${target.symbol}`;
    case 'bar':
      return `bar ${target.section}/${target.line}/${target.bar}/${target.time ?? ''}`;
  }
}

/**
 * The rhythm of a target after its strokes were changed: named anew where it had no name of its own, but one made of
 * what it was, or that of another rhythm of the song.
 * @param before the rhythm that the target had; null where it had none
 * @example renamed(song, { of: 'chord', symbol: 'D' }, null, said('x x, x x, x x, x x')).name // 'D, chucked'
 */
export function renamed(
  song: Song,
  target: RhythmTarget,
  before: Pattern | null,
  pattern: Pattern,
): Pattern {
  if (target.of === 'song') return pattern;
  const key = strokeKey(pattern);
  if (before && (before.name !== pattern.name || strokeKey(before) === key)) return pattern;
  const isMade = !before || before.name === ownName(song, target, before);
  const isTaken = rhythmTargets(song).some(({ target: other }) => {
    const own = isSame(other, target) ? null : patternOf(song, other);
    return own?.name === pattern.name && strokeKey(own) !== key;
  });
  return isMade || isTaken ? { ...pattern, name: ownName(song, target, pattern) } : pattern;
}
