export * from './pluck';
export * from './percussion';
export * from './kit';
export * from './desk';
export * from './mixdown';
