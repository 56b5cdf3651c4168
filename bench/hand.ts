import {
  fingerings,
  INSTRUMENT_IDS,
  INSTRUMENTS,
  parseChord,
  shapeChoices,
  shapesFor,
  smoothestSet,
} from '#core/neck';
import { newSong } from '#core/song';
import { arrangement } from '#core/arrange';
import { quickestSet, songHand } from '#core/hand';
import { ladder, rungSong } from '#core/practice';
import { few, ONCE, time } from './time';

/** Benchmarks of what the hand has time for: medians of repeated runs. */

const LINES = [
  'G | Em | C . <D . | G',
  'Am7 | D7 | G | C . Cm .',
  'Bm | Em | A7 | D7',
  'G | B7 | Em . <C . | D',
  'F | C | Am . D7 . | G',
];
const progression = Array.from(
  { length: ONCE ? 2 : 50 },
  (_, line) => LINES[line % LINES.length]!,
).join('\n');
const song = newSong({ title: 'Long', instrument: 'guitar', progression, tempo: 110 });
const arranged = arrangement(song);
const hand = time(9, () => songHand(arranged));
const found = songHand(arranged);
console.log(
  `all ${found.changes.length} kinds of change of ${arranged.bars.length} bars, with ` +
    `${found.changes.flatMap(({ advice }) => advice).length} pieces of advice: ${hand.toFixed(1)} ms; budget 50 ms`,
);

const shapes = few(INSTRUMENT_IDS).flatMap((id) =>
  ['C', 'F#m', 'Bb7', 'C#m7b5'].flatMap((symbol) =>
    shapesFor(INSTRUMENTS[id], parseChord(symbol)!).slice(0, 4),
  ),
);
const each = shapes.map((shape) => time(3, () => fingerings(shape)));
console.log(
  `fingerings of a shape: ${Math.max(...each).toFixed(3)} ms worst of ${each.length}; budget 2 ms`,
);

const twelve = ['G', 'Em', 'C', 'D', 'Bm', 'D7', 'Am', 'F', 'Bb', 'Gm', 'Eb', 'Cm'];
const round = [...twelve, 'G', 'C', 'G', 'D', 'Em', 'Am', 'D7', 'G'];
const choices = shapeChoices(twelve, song);
const set = smoothestSet(choices, round);
const smooth = time(5, () => smoothestSet(choices, round));
console.log(
  `smoothest set for 12 chords with fingerings: ${smooth.toFixed(1)} ms; budget 200 ms; ${set.exact ? 'exact' : 'cut short'}`,
);
const quick = time(3, () => quickestSet(arranged));
console.log(`set with the highest ceiling: ${quick.toFixed(1)} ms`);

// A copy of the arrangement each time: what is known of one is kept.
const rungs = time(9, () => ladder({ ...arranged }));
const songs = time(5, () => {
  const fresh = { ...arranged };
  return ladder(fresh).map(({ id }) => rungSong(fresh, id));
});
console.log(
  `ladder of ${arranged.bars.length} bars: ${rungs.toFixed(1)} ms, with every rung as a song ${songs.toFixed(1)} ms; budget 20 ms`,
);
