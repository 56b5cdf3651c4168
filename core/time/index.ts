export * from './ticks';
export * from './meters';
export * from './counting';
export * from './transport';
