/** The wrist path: where everything of its drawing lies, for a screen and for paper. */
export * from './wristPath';
export * from './armCurve';
export * from './slotForm';
export * from './pathFrames';
