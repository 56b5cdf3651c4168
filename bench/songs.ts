import { METERS, type Pattern, strum } from '#core';

/** A bar full of sixteenths, on which the benchmarks are played. */
export const sixteenths: Pattern = {
  schema: 7,
  name: 'Sixteenths',
  meter: METERS['4/4'],
  arm: { school: 'alternate', halfSwings: 4 },
  beats: Array.from({ length: 4 }, () => ({
    division: 4 as const,
    slots: [strum('down'), strum('up'), strum('down'), strum('up')],
  })),
};
