/** Strokes: the grid that they lie on, the arm that strikes them, and how they are said and read. */
export * from './kinds';
export * from './grid';
export * from './arm';
export * from './relative';
export * from './weight';
export * from './change';
export * from './picked';
export * from './legato';
export * from './labels';
export * from './notation';
export * from './counts';
export * from './say';
