/** Patterns: making and changing them, the arm's report, variations, tapping in, the built-in shelf. */
export * from './pattern';
export * from './span';
export * from './report';
export * from './vary';
export * from './varyPicked';
export * from './loose';
export * from './measure';
export * from './tapIn';
export * from './builtins';
