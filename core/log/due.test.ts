import { describe, expect, it } from 'vitest';
import { dueAgain } from '.';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const at = (text: string) => new Date(`2031-${text}Z`);
const review = (
  text: string,
  trouble: Parameters<typeof dueAgain>[0][number]['trouble'],
  within: number | null = null,
) => ({
  at: at(text),
  trouble,
  within,
});
const days = (reviews: Parameters<typeof dueAgain>[0], zone = 0) =>
  (dueAgain(reviews, zone)!.getTime() + zone - at('05-01T00:00').getTime()) / DAY;

describe('how a take is graded', () => {
  const twice = (trouble: Parameters<typeof review>[1], within: number | null = null) =>
    days([review('05-01T19:00', 'clean'), review('05-08T19:00', trouble, within)]);
  it('is easy from 97 of 100 on, good where it was clean, hard where it nearly was, else not known', () => {
    const [easy, good, hard, again] = [
      twice('clean', 0.97),
      twice('clean', 0.969),
      twice('nearly'),
      twice('landings'),
    ];
    expect(easy).toBeGreaterThan(good);
    expect(good).toBeGreaterThan(hard);
    expect(hard).toBeGreaterThan(again);
    expect(twice('so-so')).toBe(hard);
    expect(twice('clean', 1)).toBe(easy);
    // Where nobody heard it, clean by one's own word is good and not easy.
    expect(twice('clean', null)).toBe(good);
    expect(twice('landings', 0.99)).toBe(again);
  });

  it('leaves out what could not be judged', () => {
    expect(dueAgain([review('05-01T19:00', 'unjudged')], 0)).toBeNull();
    expect(days([review('05-01T19:00', 'clean'), review('05-08T19:00', 'unjudged')])).toBe(
      days([review('05-01T19:00', 'clean')]),
    );
  });
});

describe('the day on which it is due', () => {
  it('begins at midnight of the player, wherever that is', () => {
    for (const zone of [0, 2 * HOUR, -5 * HOUR, 13 * HOUR]) {
      const due = dueAgain([review('05-01T12:00', 'clean')], zone)!;
      expect((due.getTime() + zone) % DAY, String(zone / HOUR)).toBe(0);
    }
    // Half past eleven at night in a zone ahead is the next day there.
    expect(
      days([review('05-01T23:30', 'clean')], HOUR) - days([review('05-01T22:30', 'clean')], HOUR),
    ).toBe(1);
    expect(
      days([review('05-01T00:30', 'clean')], -HOUR) - days([review('05-01T01:30', 'clean')], -HOUR),
    ).toBe(-1);
  });

  it('is tomorrow at the earliest, and two months off at the latest', () => {
    expect(days([review('05-01T19:00', 'landings')])).toBe(1);
    const often = Array.from({ length: 9 }, (_, month) =>
      review(`0${month + 1}-01T19:00`, 'clean', 1),
    );
    const last = at('09-01T00:00').getTime();
    expect((dueAgain(often, 0)!.getTime() - last) / DAY).toBe(60);
  });
});
