import { expose } from 'comlink';
import { capoOptions, smoothestSet } from '#core/neck';

/** The searches over a whole song, away from the page. */
const neck = { smoothestSet, capoOptions };

export type Neck = typeof neck;

expose(neck);
