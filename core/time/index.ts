export * from './ticks';
export * from './meters';
export * from './counting';
export * from './feel';
export * from './transport';
export * from './latency';
