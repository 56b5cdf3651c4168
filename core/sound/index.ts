export * from './pluck';
export * from './percussion';
