import { z } from './zod';

/** Nobody practised with this before; and what lies beyond the other end is a slip of the pen. */
const [EARLIEST, LATEST] = ['1990-01-01T00:00:00Z', '2199-12-31T23:59:59Z'];
const [FROM, TO] = [Date.parse(EARLIEST), Date.parse(LATEST)];

/**
 * When something was: a moment that a diary of practice can have. Whether it is still to come, who keeps the clock says.
 * @example momentSchema.safeParse('9999-01-01T00:00:00Z').success // false
 */
export const momentSchema = z.iso.datetime().refine((text) => {
  const at = Date.parse(text);
  return at >= FROM && at <= TO;
}, 'is a day from 1990 to now');
