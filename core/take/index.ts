/** Takes: what was played, heard from sound or given as onsets, laid on what was meant, and judged. */
export * from './wav';
export * from './onsets';
export { downsample, spectrometer } from './signal';
export * from './live';
export * from './marks';
export { isAfterMiss, isLanding, kindOfStroke } from './kinds';
export { toleranceOf } from './groups';
export { CLEAN_SHARE } from './verdict';
export { MAX_ADDED } from './findOmissions';
export * from './roundTrip';
export * from './judge';
export * from './pitch';
export * from './tuning';
export { BASS_RATE, directionsOf, rakePlace } from './direction';
export * from './ring';
export * from './notes';
export * from './player';
