export * from './instrument';
export * from './meter';
export * from './pattern';
export * from './song';
export * from './wire';
