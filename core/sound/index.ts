/** Sound: strings, percussion and drums as samples, the cues that ask for them, and mixing them down. */
export * from './pluck';
export * from './percussion';
export * from './kit';
export * from './ringing';
export * from './cues';
export * from './voices';
export * from './room';
export * from './mixdown';
export * from './countAloud';
