/** The song: its document, the bars as they are played, and the line of text that says them. */
export * from './song';
export * from './tuneText';
export * from './tuneNotes';
export * from './words';
export * from './glance';
export * from './passages';
export * from './progression';
export * from './progressionPrint';
export * from './progressionFixes';
export * from './timeline';
export * from './changes';
