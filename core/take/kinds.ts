import type { Strike } from '../arrange';

/** What a stroke is, as players name it. */
export type KindOfStroke = 'downs' | 'ups' | 'basses' | 'chucks' | 'picks' | 'rolls' | 'taps';

/** The kind of a stroke: a bass strike or a chuck is one whichever way it goes. */
export function kindOfStroke({ kind, dir }: Pick<Strike, 'kind' | 'dir'>): KindOfStroke {
  switch (kind) {
    case 'bass':
      return 'basses';
    case 'chuck':
      return 'chucks';
    case 'pick':
      return 'picks';
    case 'roll':
      return 'rolls';
    case 'tap':
      return 'taps';
    default:
      return dir === 'up' ? 'ups' : 'downs';
  }
}

/** A stroke with which another chord arrives; the first one of all is none. */
export const isLanding = (strike: Strike, before: Strike | null | undefined): boolean =>
  strike.landing && before?.chord != null;

/** A stroke before which the arm passed without sounding. */
export const isAfterMiss = (strike: Strike, before: Strike | null | undefined): boolean =>
  before != null && strike.tick - before.tick > before.ticks;
