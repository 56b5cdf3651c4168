/** Time: ticks, meters and what is counted in them, feel, and the transport that turns ticks into moments. */
export * from './ticks';
export * from './meters';
export * from './counting';
export * from './feel';
export * from './transport';
export * from './latency';
export * from './tappedTempo';
export * from './notated';
