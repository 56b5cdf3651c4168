/** Practice: the ladder of a song, the next step on it, the place that gives trouble, tours through the keys. */
export * from './ladder';
export * from './rungSong';
export * from './steps';
export * from './place';
export * from './tour';
export * from './backing';
export * from './words';
