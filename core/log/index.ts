/** The log: what a take comes to in a row, trends, what is due again, tonight's plan, and its files. */
export * from './figures';
export * from './trend';
export * from './due';
export * from './plan';
export * from './words';
export * from './charts';
export * from './csv';
export * from './calendar';
