import { median, quantile } from 'simple-statistics';
import { troublesomePlace } from '../practice';
import type { Entry, TakeJudgement } from '../schema';

/**
 * What a take comes to in a row of the log.
 * @param bars that its song has
 * @example takeFigures(judgement, 16).within // null where nothing could be judged
 */
export function takeFigures(
  judgement: TakeJudgement,
  bars: number,
): Pick<Entry, 'trouble' | 'within' | 'median' | 'spread' | 'change' | 'place' | 'seconds'> {
  const { strokes, missed, tolerance, verdict, counted } = judgement;
  const offs = strokes.map(({ off }) => off);
  const worst = troublesomePlace(judgement, bars);
  const asked = verdict.loop;
  const last = strokes.at(-1);
  const round = (value: number) => Number(value.toFixed(3));
  const some = strokes.length > 0;
  const inside = offs.filter((off) => Math.abs(off) <= tolerance).length;
  return {
    trouble: verdict.trouble,
    within: some
      ? round(
          counted
            ? counted.good / Math.max(1, counted.meant)
            : inside / (strokes.length + missed.length),
        )
      : null,
    median: some ? round(median(offs)) : null,
    spread: some ? round(quantile(offs, 0.75) - quantile(offs, 0.25)) : null,
    change: worst?.change ?? null,
    place: asked ?? (worst && { from: worst.from, to: worst.to }),
    seconds: last ? round(Math.max(0, last.seconds - strokes[0]!.seconds)) : 0,
  };
}
