export * from './instrument';
export * from './meter';
export * from './stroke';
export * from './pattern';
export * from './song';
export * from './wire';
