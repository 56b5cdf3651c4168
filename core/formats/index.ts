/** Files: the table of what a song goes out in, the readers of what comes in, and the names they get. */
export * from './table';
export * from './chart';
export * from './chordpro';
export * from './chartWords';
export * from './foreign';
export * from './wav';
export * from './fileName';
