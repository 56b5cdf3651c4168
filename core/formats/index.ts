export * from './midi';
export * from './chordpro';
export * from './musicxml';
export * from './wav';
export * from './fileName';
