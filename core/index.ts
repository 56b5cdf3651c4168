/** The public face of the core. Everything outside it imports from here alone. */
export * from './plain';
export * from './schema';
export * from './time';
export * from './stroke';
export * from './pattern';
export * from './neck';
export * from './song';
export * from './edit';
export * from './arrange';
export * from './sound';
export * from './formats';
