/** The fretting hand: what each change needs against the time it has, what helps, and how it is timed. */
export * from './need';
export * from './windows';
export * from './report';
export * from './edits';
export * from './advice';
export * from './anchors';
export * from './timed';
export * from './quickest';
export * from './songHand';
export * from './words';
