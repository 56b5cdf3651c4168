/** Files: what a song goes out in and comes in from, in one table, and the names they get. */
export * from './table';
export * from './midi';
export * from './chordpro';
export * from './musicxml';
export * from './wav';
export * from './fileName';
