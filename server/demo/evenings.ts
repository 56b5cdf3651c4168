import type { Entry, RungId, SaidTrouble } from '#core/schema';

const DAY = 24 * 60 * 60 * 1000;
/** Evenings before today, in days: three weeks of Thursdays with a Sunday or Tuesday now and then. */
const EVENINGS = [42, 38, 35, 31, 28, 25, 21, 17, 14, 11, 7, 5, 3];

/**
 * How songs went at Kettle Lock: tempo of the first and of the last evening, the evening of a setback, what waits
 * longest, and the rungs that were climbed, in the order of the evenings.
 */
const PLAYED: {
  song: string;
  from: number;
  to: number;
  setback: number;
  change: string;
  rungs: RungId[];
  first: number;
}[] = [
  {
    song: 'Ropes at First Light',
    from: 60,
    to: 84,
    setback: 5,
    change: 'A to Bm',
    rungs: ['arm', 'landings', 'two before', 'beats', 'damped', 'song'],
    first: 0,
  },
  {
    song: 'The Lamplighter’s Round',
    from: 76,
    to: 100,
    setback: 8,
    change: 'Bb to F',
    rungs: ['arm', 'landings', 'one chord', 'song'],
    first: 2,
  },
  {
    song: 'Sluice Gate Sixteens',
    from: 48,
    to: 66,
    setback: 7,
    change: 'D to Bm7',
    rungs: ['arm', 'strong beats', 'beats', 'damped', 'song'],
    first: 4,
  },
];

export type DemoEvening = Pick<Entry, 'kind' | 'song' | 'rung' | 'tempo' | 'seconds'> & {
  madeAt: number;
  trouble: SaidTrouble | null;
  within: number | null;
  median: number | null;
  spread: number | null;
  change: string | null;
  text: string | null;
};

/** Which rung an evening is spent on: the lower ones first, the song in full for the second half. */
const rungOf = (rungs: RungId[], share: number) =>
  rungs[Math.min(rungs.length - 1, Math.floor(share * 2 * (rungs.length - 1)))]!;

/**
 * Six weeks of evenings of the strum circle, made up as examples: each with a few takes, one of them clean on most,
 * and with setbacks.
 * @param today milliseconds since 1970
 */
export function demoEvenings(today: number): DemoEvening[] {
  const rows = PLAYED.flatMap(({ song, from, to, setback, change, rungs, first }) =>
    EVENINGS.slice(first).flatMap((days, evening, all) => {
      const share = all.length > 1 ? evening / (all.length - 1) : 1;
      const slower = evening === setback ? 6 : 0;
      const tempo = Math.round(from + (to - from) * share) - slower;
      const rung = rungOf(rungs, share);
      const start = today - days * DAY - 90 * 60_000 + first * 12 * 60_000;
      const take = (at: number, trouble: SaidTrouble, speed: number, off: number): DemoEvening => ({
        kind: 'take',
        song,
        madeAt: start + at * 60_000,
        rung,
        tempo: speed,
        seconds: 95,
        trouble,
        within: Number((trouble === 'clean' ? 0.9 + share * 0.06 : 0.62 + share * 0.1).toFixed(3)),
        median: off,
        spread: Math.round(38 - 16 * share),
        change: trouble === 'landings' ? change : null,
        text: null,
      });
      return [
        take(0, 'clean', Math.max(40, tempo - 4), 4),
        take(4, evening === setback ? 'uneven' : 'clean', tempo, 3),
        take(6, evening === setback ? 'uneven' : 'clean', tempo, 2),
        take(8, 'landings', tempo + 4, 21 - Math.round(9 * share)),
        take(11, evening % 4 === 3 ? 'rushing' : 'landings', tempo + 4, 18 - Math.round(8 * share)),
      ];
    }),
  );
  const words: [number, string][] = [
    [28, 'The left hand was tired before we began; shorter next time.'],
    [11, 'Teasel counted aloud for everyone. Much steadier.'],
  ];
  const notes = words.map(([days, text]): DemoEvening => ({
    kind: 'note',
    song: null,
    madeAt: today - days * DAY,
    rung: null,
    tempo: null,
    seconds: 0,
    trouble: null,
    within: null,
    median: null,
    spread: null,
    change: null,
    text,
  }));
  const circle = [38, 31, 17].map((days): DemoEvening => ({
    ...notes[0]!,
    kind: 'practice',
    madeAt: today - days * DAY + 20 * 60_000,
    seconds: 25 * 60,
    text: 'With the circle on the towpath, without a screen.',
  }));
  return [...rows, ...notes, ...circle];
}
