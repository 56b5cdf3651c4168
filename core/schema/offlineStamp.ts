import { momentSchema } from './moment';
import { z } from './zod';

/**
 * What a browser adds to what it kept while the server was away: when it was made, and an id under which it
 * is kept once, however often it is sent.
 */
export const offlineStamp = { id: z.uuid().optional(), madeAt: momentSchema.optional() };
