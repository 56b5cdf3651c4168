export * from './grid';
export * from './arm';
export * from './pattern';
export * from './words';
export * from './say';
