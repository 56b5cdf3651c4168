/** Arranging: which rhythm carries which bar, and every strike with its time, strings and loudness. */
export * from './performance';
export * from './rhythm';
export * from './passes';
export * from './arrange';
export { voicingsOf } from './voicings';
export * from './drawn';
export * from './writtenBars';
export * from './preview';
export * from './click';
export * from './groove';
export * from './swing';
export { melodyMix, tuneTurns } from './tune';
export * from './rhythmMap';
export * from './usualRuns';
export { runKey } from './leadIns';
