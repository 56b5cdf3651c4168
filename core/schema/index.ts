/** The schemas of everything that is stored or sent, with the limits by name. */
export * from './limits';
export * from './text';
export * from './unfold';
export * from './instrument';
export * from './meter';
export * from './stroke';
export * from './pattern';
export * from './tempo';
export * from './practice';
export * from './tune';
export * from './song';
export * from './recording';
export * from './changeTime';
export * from './take';
export * from './log';
export * from './archive';
export * from './wire';
