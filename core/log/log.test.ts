import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../properties.test-kit';
import type { TakeJudgement } from '../schema';
import {
  changeSeries,
  cleanSeries,
  describeChangeTimes,
  describeClean,
  describeMinutes,
  describeVerdicts,
  weeksOf,
  daysAgo,
  describeLog,
  describeNext,
  describeTime,
  describeTrend,
  dueAgain,
  goalTrend,
  planCalendar,
  type PlannedSong,
  takeFigures,
  tonight,
} from '.';

const evening = (day: number, tempo: number) => ({
  day: `2031-05-${String(day).padStart(2, '0')}`,
  tempo,
});

describe('the trend of a clean tempo', () => {
  // Four pulses every three days: 60, 64, 68, 72, 76 on days 1, 4, 7, 10, 13; 16 are left to 92: twelve days.
  const steady = [1, 4, 7, 10, 13].map((day, step) => evening(day, 60 + 4 * step));

  it('goes on as it went', () => {
    const trend = goalTrend(steady, 92, '2031-05-13')!;
    expect(trend.best).toBe(76);
    expect(trend.week).toBeCloseTo(9.33, 2);
    expect(trend.likely).toBe('2031-05-25');
    expect(describeTrend(trend, 92, '2031-05-26', '2031-05-13')).toContain('The 26 May holds.');
    expect(describeTrend(trend, 92, '2031-05-20', '2031-05-13')).toContain('16.0 a week');
  });

  it('is silent with fewer than five evenings, and says when the goal is reached', () => {
    expect(goalTrend(steady.slice(1), 92, '2031-05-13')).toBeNull();
    expect(goalTrend([...steady.slice(1), evening(4, 50)], 92, '2031-05-13')).toBeNull();
    const trend = goalTrend(steady, 70, '2031-05-13')!;
    expect(trend.likely).toBe('2031-05-13');
    expect(describeTrend(trend, 70, null, '2031-05-13')).toContain('is reached');
  });

  it('says that it stands still', () => {
    const flat = [1, 4, 7, 10, 13].map((day) => evening(day, 70));
    const trend = goalTrend(flat, 92, '2031-05-20')!;
    expect(trend.likely).toBeNull();
    expect(describeTrend(trend, 92, null, '2031-05-20')).toContain('standing still');
  });

  const evenings = fc.array(
    fc.record({ day: fc.integer({ min: 1, max: 27 }), tempo: fc.integer({ min: 40, max: 120 }) }),
    { minLength: 5, maxLength: 20 },
  );

  it('a further clean take today never pushes it later', () => {
    fc.assert(
      fc.property(evenings, fc.integer({ min: 40, max: 120 }), (list, tempo) => {
        const before = list.map(({ day, tempo: one }) => evening(day, one));
        const today = '2031-05-28';
        const without = goalTrend(before, 110, today);
        const after = goalTrend([...before, evening(28, tempo)], 110, today);
        if (!without?.likely) return;
        expect(after!.likely! <= without.likely).toBe(true);
      }),
      tries(300),
    );
  });

  it('the order of rows does not matter', () => {
    fc.assert(
      fc.property(evenings, (list) => {
        const rows = list.map(({ day, tempo }) => evening(day, tempo));
        expect(goalTrend([...rows].reverse(), 110, '2031-05-28')).toEqual(
          goalTrend(rows, 110, '2031-05-28'),
        );
      }),
      tries(100),
    );
  });
});

describe('what is due again', () => {
  const at = (day: number, hour = 19) => new Date(Date.UTC(2031, 4, day, hour));
  const clean = (day: number) => ({ at: at(day), trouble: 'clean' as const, within: 0.92 });

  it('comes later the more often it was clean, and sooner after trouble', () => {
    const once = dueAgain([clean(1)], 0)!;
    const twice = dueAgain([clean(1), clean(4)], 0)!;
    const thrice = dueAgain([clean(1), clean(4), clean(12)], 0)!;
    expect(twice.getTime() - at(4).getTime()).toBeGreaterThan(once.getTime() - at(1).getTime());
    expect(thrice.getTime() - at(12).getTime()).toBeGreaterThan(twice.getTime() - at(4).getTime());
    const trouble = { at: at(12), trouble: 'landings' as const, within: 0.4 };
    expect(dueAgain([clean(1), clean(4), trouble], 0)! < thrice).toBe(true);
  });

  it('counts an evening once, by how it ended, in any order of rows', () => {
    const bad = { at: at(4, 18), trouble: 'uneven' as const, within: 0.5 };
    expect(dueAgain([clean(1), bad, clean(4)], 0)).toEqual(dueAgain([clean(1), clean(4)], 0));
    expect(dueAgain([clean(4), clean(1), bad], 0)).toEqual(dueAgain([clean(1), bad, clean(4)], 0));
    expect(dueAgain([{ at: at(1), trouble: 'unjudged', within: null }], 0)).toBeNull();
  });
});

const songs: PlannedSong[] = [
  {
    songId: 'a',
    song: 'Weir',
    goal: 92,
    by: '2031-05-20',
    clean: 70,
    next: { rung: 'beats', name: 'All beats', tempo: 64 },
    due: '2031-05-10',
    left: 'C to F',
  },
  {
    songId: 'b',
    song: 'Sluice',
    goal: 80,
    by: null,
    clean: 78,
    next: { rung: 'song', name: 'In full', tempo: 80 },
    due: '2031-05-09',
    left: 'C to F',
  },
  {
    songId: 'c',
    song: 'Lock',
    goal: 100,
    by: null,
    clean: 60,
    next: { rung: 'song', name: 'In full', tempo: 62 },
    due: null,
    left: 'G to C',
  },
];

describe('an evening', () => {
  it('warms up, mends what holds most songs back, goes one rung further, ends on what is good', () => {
    const items = tonight(songs, 20, '2031-05-11');
    expect(items.map(({ kind }) => kind)).toEqual([
      'warm-up',
      'change',
      'due',
      'pause',
      'rung',
      'end',
    ]);
    expect(items.find(({ kind }) => kind === 'change')).toMatchObject({
      what: 'C to F, to and fro',
      why: 'it holds 2 songs back',
    });
    expect(items.find(({ kind }) => kind === 'rung')).toMatchObject({
      songId: 'a',
      rung: 'beats',
      tempo: 64,
    });
    expect(items.find(({ kind }) => kind === 'due')!.songId).toBe('b');
    expect(items.at(-1)!.songId).toBe('c');
  });

  it('fills the minutes that there are, whatever they are', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 5, max: 240 }),
        fc.integer({ min: 1, max: 3 }),
        (minutes, count) => {
          const items = tonight(songs.slice(0, count), minutes, '2031-05-11');
          expect(items.reduce((sum, item) => sum + item.minutes, 0)).toBe(minutes);
          expect(items.every((item) => Number.isInteger(item.minutes) && item.minutes > 0)).toBe(
            true,
          );
        },
      ),
      tries(200),
    );
    expect(tonight([], 20, '2031-05-11')).toEqual([]);
    // Changes and rhythms that are due again find room where nothing else is due, or there is time.
    const thing = { songId: songs[0]!.songId, rung: null, tempo: null };
    const others = [
      { ...thing, what: 'G to C, to and fro', due: '2031-05-09' },
      { ...thing, what: 'The rhythm “Weir”, on damped strings', due: '2031-05-10' },
      { ...thing, what: 'later', due: '2031-06-30' },
    ];
    const long = tonight(songs, 40, '2031-05-11', others);
    expect(long.map(({ what }) => what)).toEqual(
      expect.arrayContaining(['G to C, to and fro', 'The rhythm “Weir”, on damped strings']),
    );
    expect(long.some(({ what }) => what === 'later')).toBe(false);
    expect(long.reduce((sum, { minutes }) => sum + minutes, 0)).toBe(40);
  });

  it('goes into a calendar', () => {
    const plan = { minutes: 20, items: tonight(songs, 20, '2031-05-11'), goals: [] };
    const text = planCalendar(plan, '2031-05-12', '2031-05-25', [4], 19);
    expect(text.match(/BEGIN:VEVENT/g)).toHaveLength(2);
    expect(text).toContain('DTSTART:20310515T190000');
    expect(text).toContain('DURATION:PT20M');
    expect(() => planCalendar(plan, '2031-05-12', '2031-05-13', [4], 19)).toThrow(RangeError);
  });
});

describe('the figures of a take', () => {
  const verdict: TakeJudgement['verdict'] = {
    trouble: 'landings',
    hand: 'fretting',
    sentence: '',
    advice: 'stay',
    tempo: 80,
    loop: null,
    sure: 0.8,
  };
  const judgement: TakeJudgement = {
    lag: 0,
    drift: 0,
    tolerance: 20,
    strokes: [0, 1, 2, 3].map((strike) => ({
      strike,
      seconds: strike / 2,
      off: strike === 3 ? 60 : 4,
      kind: 'full' as const,
      direction: null,
      chord: 'unknown' as const,
    })),
    missed: [4],
    added: [],
    slips: [],
    bySlot: [],
    byChange: [
      {
        from: 'C',
        to: 'F',
        chordLate: 0,
        bars: [2],
        count: 1,
        missed: 0,
        median: 60,
        spread: 0,
        within: 0,
      },
    ],
    verdict,
  };

  it('are the share in time, the middle, and the place that waits', () => {
    expect(takeFigures(judgement, 8)).toEqual({
      trouble: 'landings',
      within: 0.6,
      median: 4,
      spread: expect.any(Number) as number,
      change: 'C to F',
      place: { from: 1, to: 3 },
      seconds: 1.5,
    });
  });

  it('are none where nothing was judged', () => {
    const none = takeFigures({ ...judgement, strokes: [], byChange: [], missed: [] }, 8);
    expect(none).toMatchObject({
      within: null,
      median: null,
      spread: null,
      change: null,
      seconds: 0,
    });
  });
});

describe('words of the log', () => {
  const song = {
    songId: 'a',
    song: 'Weir',
    last: '2031-05-10T19:00:00.000Z',
    seconds: 600,
    goal: 92,
    by: '2031-05-20',
    clean: 84,
    first: 66,
    left: 'A to E7',
  };

  it('say what it comes to', () => {
    expect(describeLog({ evenings: 11, seconds: 19_200, songs: [song] })).toBe(
      'Eleven evenings, 5 h 20. Weir is clean at 84, up from 66; A to E7 is what is left.',
    );
    expect(describeLog({ evenings: 14, seconds: 540, songs: [{ ...song, clean: null }] })).toBe(
      '14 evenings, 9 min.',
    );
    expect(describeTime(3660)).toBe('1 h 01');
    expect(describeNext([song])).toBe('Next: Weir, clean at 84, for 92 by 20 May.');
    expect(describeNext([{ ...song, clean: 92 }])).toBeNull();
    expect(daysAgo('2031-05-10', '2031-05-11')).toBe('yesterday');
    expect(daysAgo('2031-05-01', '2031-05-11')).toBe('10 days ago');
  });
});

describe('charts of the log', () => {
  it('say what their lines show', () => {
    const clean = [
      { day: '2031-05-01', songId: 'a', rung: 'beats' as const, tempo: 60 },
      { day: '2031-05-02', songId: 'a', rung: 'song' as const, tempo: 62 },
      { day: '2031-05-09', songId: 'a', rung: 'song' as const, tempo: 70 },
    ];
    const series = cleanSeries(clean);
    expect(series.map(({ rung }) => rung)).toEqual(['song', 'beats']);
    expect(describeClean(series, 92)).toBe('In full: 62 on 2 May, 70 on 9 May; the goal is 92.');
    expect(describeClean([], 92)).toBe('No clean take yet.');
    const timed = changeSeries([
      { day: '2031-05-01', change: 'C to F', ms: 700 },
      { day: '2031-05-09', change: 'C to F', ms: 520.4 },
      { day: '2031-05-09', change: 'G to C', ms: 300 },
    ]);
    expect(describeChangeTimes(timed)).toBe('C to F takes longest: 520 ms, 700 ms at first.');
    const verdicts = [
      { trouble: 'landings' as const, count: 5 },
      { trouble: 'clean' as const, count: 3 },
    ];
    expect(describeVerdicts(verdicts)).toBe(
      '3 of 8 takes were clean; the most frequent trouble: landings late.',
    );
  });

  it('leave no week out between the first and the last', () => {
    const days = [
      { day: '2031-05-08', seconds: 600, takes: 1 },
      { day: '2031-05-11', seconds: 300, takes: 1 },
      { day: '2031-05-26', seconds: 1200, takes: 1 },
    ];
    expect(weeksOf(days)).toEqual([
      { week: '2031-05-05', minutes: 15 },
      { week: '2031-05-12', minutes: 0 },
      { week: '2031-05-19', minutes: 0 },
      { week: '2031-05-26', minutes: 20 },
    ]);
    expect(describeMinutes(days)).toBe('12 min an evening; most in the week of 26 May, 20 min.');
  });
});
