export * from './instruments';
export * from './chords';
export * from './shapes';
export * from './bass';
export * from './held';
