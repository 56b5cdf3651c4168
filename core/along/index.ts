/** Along with a recording: where its beats lie, where its chords land, and what they may be. */
export * from './beats';
export * from './beatMap';
export * from './layout';
export * from './landings';
export * from './chordEar';
export * from './findSong';
export * from './rhythm';
export * from './playIn';
export * from './take';
export * from './compare';
