/**
 * A number with its unit. A plain number is taken for any unit, so arithmetic stays plain; a number of one
 * unit is never taken for one of another, so ticks do not pass for seconds nor seconds for milliseconds.
 */
type In<Unit extends string> = number & { readonly unit?: Unit };

/** Places and lengths in the written music, 960 to a quarter. */
export type Ticks = In<'ticks'>;
/** Moments of a clock or of a recording, and how long something lasts. */
export type Seconds = In<'seconds'>;
/** What is said to a player, and what devices are late by. */
export type Milliseconds = In<'milliseconds'>;
/** What turns the one into the other at a tempo. */
export type SecondsPerTick = In<'seconds per tick'>;
/** Lengths on an instrument. */
export type Centimetres = In<'centimetres'>;
