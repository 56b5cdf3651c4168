import { z } from './zod';

/** Beat units that a meter may be written in: half, quarter, eighth and sixteenth notes. */
export const beatUnitSchema = z.union([z.literal(2), z.literal(4), z.literal(8), z.literal(16)]);

/**
 * A meter: how many counted beats a bar has, the note value of one beat, and how the beats are
 * grouped. The first beat of every group is felt as an accent, so 6/8 is `groups: [3, 3]`.
 *
 * A count cycle has accents on chosen counts instead, and may be counted from any of them: a cycle
 * of 12 that begins on the count of 12 has `first: 12`. Its accents are places in the cycle, from 0.
 */
export const meterSchema = z
  .strictObject({
    beats: z.int().min(1).max(16),
    unit: beatUnitSchema,
    groups: z.array(z.int().min(1).max(16)).min(1).max(16),
    cycle: z
      .strictObject({
        accents: z.array(z.int().min(0).max(15)).max(16),
        first: z.int().min(1).max(16),
      })
      .optional(),
  })
  .refine((meter) => meter.groups.reduce((sum, size) => sum + size, 0) === meter.beats, {
    message: 'the groups must add up to the beats of the bar',
    path: ['groups'],
  })
  .refine((meter) => meter.cycle?.accents.every((accent) => accent < meter.beats) ?? true, {
    message: 'an accent lies outside the cycle',
    path: ['cycle', 'accents'],
  })
  .refine((meter) => (meter.cycle?.first ?? 1) <= meter.beats, {
    message: 'the first count lies outside the cycle',
    path: ['cycle', 'first'],
  });
export type Meter = z.infer<typeof meterSchema>;
