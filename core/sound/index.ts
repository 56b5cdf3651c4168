export * from './pluck';
export * from './percussion';
export * from './kit';
export * from './ringing';
export * from './cues';
export * from './voices';
export * from './mixdown';
