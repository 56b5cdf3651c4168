import type { InstrumentId } from '#core/schema';
import { INSTRUMENTS } from '#core/neck';
import { newSong } from '#core/song';
import { arrangement } from '#core/arrange';
import { type Habits, judgeSound, playTake } from '#core/take';
import { sampledStrings, soundFonts } from './sampledStrings';
import { saidPattern } from './songs';

/**
 * How takes on ukuleles are judged: re-entrant, with a low G, and on a baritone, through sampled nylon strings. It needs
 * the packages fluidsynth and a sound font.
 */

const RATE = 44_100;
const LEAD = 0.8;
const NYLON = 24;
const ON: InstrumentId[] = ['ukulele', 'ukulele-low', 'baritone'];
const PATTERNS = [
  ['strum', 'down miss, down up, miss up, down up'],
  ['thumb and brush', 'bass miss, down up, bass miss, down up'],
  ['chunks', 'down up, chuck up, down up, chuck up'],
  ['picking', 's4.p s2.i, s1.m s2.i, s3.p s2.i, s1.m s2.i'],
] as const;
const TEMPOS = [60, 90, 120];
const PROGRESSION = 'C | Am | F | G | C | Am | Dm | G7 | C | F | G | C';

const CLEAN = 'clean';
const HABITS: [trouble: string, habits: Omit<Habits, 'seed'>][] = [
  [CLEAN, { jitter: 12 }],
  [CLEAN, { jitter: 6 }],
  ['landings', { jitter: 8, landingsLate: 70 }],
  ['uneven', { jitter: 40 }],
  ['rushing', { jitter: 8, drift: 4 }],
  ['dragging', { jitter: 8, drift: -4 }],
  ['ups', { jitter: 8, leavesOut: { what: 'ups', share: 0.9 } }],
];

const [font] = soundFonts();
if (!font) throw new Error('This needs fluidsynth and a sound font of its packages.');
for (const id of ON) {
  const instrument = INSTRUMENTS[id];
  let [faults, named, clean, calm, told, ways] = [0, 0, 0, 0, 0, 0];
  const wrong: string[] = [];
  for (const [name, words] of PATTERNS) {
    for (const tempo of TEMPOS) {
      const start = newSong({ title: name, instrument: id, progression: PROGRESSION });
      const song = { ...start, pattern: saidPattern(words), tempo };
      const arranged = arrangement(song);
      HABITS.forEach(([trouble, habits], index) => {
        if (trouble === 'ups' && name === 'picking') return;
        const seed = 31 * index + tempo;
        const played = playTake(arranged.performance, song.meter, { seed, ...habits });
        const samples = sampledStrings(played.strikes, {
          sampleRate: RATE,
          lead: LEAD,
          noise: 26,
          seed,
          font,
          program: NYLON,
          open: instrument.strings,
        });
        const take = { samples, sampleRate: RATE };
        const judged = judgeSound(arranged, take, { begins: LEAD });
        const good = judged.verdict.trouble === trouble;
        if (trouble === CLEAN) {
          clean += 1;
          calm += good ? 1 : 0;
        } else {
          faults += 1;
          named += good ? 1 : 0;
        }
        if (!good) wrong.push(`${name} at ${tempo}: ${trouble} heard as ${judged.verdict.trouble}`);
        const dirs = new Map(played.strikes.map(({ tick, dir }) => [tick, dir]));
        for (const { strike, direction } of trouble === CLEAN ? judged.strokes : []) {
          if (!direction) continue;
          told += 1;
          if (dirs.get(arranged.performance.strikes[strike]!.tick) === direction) ways += 1;
        }
      });
    }
  }
  console.log(
    `takes on a ${instrument.name}, sampled nylon: ${named} of ${faults} faults named, ${calm} of ${clean} clean, ways of the hand right in ${ways} of ${told} told`,
  );
  for (const what of wrong) console.log(`    ${what}`);
}
