/** The neck: instruments and tunings, chords, shapes and fingers, bass notes and runs. */
export * from './instruments';
export * from './chords';
export * from './key';
export * from './fingering';
export * from './fingerings';
export * from './spelling';
export { droppedShapes } from './dataShapes';
export * from './search';
export * from './shapes';
export * from './bass';
export * from './fingers';
export * from './fretted';
export * from './standins';
export * from './smoothest';
export * from './capo';
export * from './runs';
export * from './shuffle';
