import type { Milliseconds, Seconds, Ticks } from '../plain';
import { z } from './zod';

/** Numbers with their unit, so that what is read from a document is not taken for another unit. */
export const secondsSchema: z.ZodType<Seconds> = z.number();
export const millisecondsSchema: z.ZodType<Milliseconds> = z.number();
/** A fraction where a feel delays a stroke. */
export const ticksSchema: z.ZodType<Ticks> = z.number();
export const wholeTicksSchema: z.ZodType<Ticks> = z.int();
