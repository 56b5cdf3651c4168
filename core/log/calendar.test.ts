import { describe, expect, it } from 'vitest';
import { planCalendar } from '.';

const plan = (...items: [number, string][]) => ({
  minutes: 25,
  goals: [],
  items: items.map(([minutes, what]) => ({
    minutes,
    kind: 'rung' as const,
    songId: 'a',
    what,
    why: '',
    rung: null,
    tempo: null,
  })),
});
const starts = (text: string) => [...text.matchAll(/DTSTART[^:]*:(\S+)/g)].map(([, one]) => one);

describe('evenings in a calendar', () => {
  it('are the chosen days of the week, the first and the last among them', () => {
    // 5 May 2031 is a Monday.
    const text = planCalendar(plan(), '2031-05-05', '2031-05-19', [1, 4], 19);
    expect(starts(text)).toEqual(
      ['05', '08', '12', '15', '19'].map((day) => `203105${day}T190000`),
    );
  });

  it('say what is practised, in minutes, and how long it takes', () => {
    const text = planCalendar(
      plan([5, 'The arm alone'], [20, 'C to F']),
      '2031-05-05',
      '2031-05-05',
      [1],
      19,
    );
    const unfolded = text.replaceAll('\r\n\t', '').replaceAll('\r\n ', '');
    expect(unfolded).toContain('SUMMARY:Practice\\, 25 minutes');
    expect(unfolded).toContain('DESCRIPTION:5 min: The arm alone\\n20 min: C to F');
    expect(unfolded).toContain('DURATION:PT25M');
    expect(unfolded).toContain('PRODID:plucky-wrist');
    expect(unfolded).toContain('UID:2031-5-5@plucky-wrist');
    expect(planCalendar(plan(), '2031-05-05', '2031-05-05', [1], 19)).not.toContain('DESCRIPTION');
  });

  it('are sixty at most, and none is an error that says so', () => {
    expect(
      starts(planCalendar(plan(), '2031-05-05', '2032-05-05', [1, 2, 3, 4, 5, 6, 7], 19)),
    ).toHaveLength(60);
    expect(() => planCalendar(plan(), '2031-05-05', '2031-05-06', [4], 19)).toThrow(
      'No evening of those days lies between the two dates.',
    );
    expect(() => planCalendar(plan(), '2031-05-05', '2031-05-05', [1], 25)).toThrow();
  });
});
