/** Sheets: the layout of paper as data, for whom it is, and how it is written as a PDF file. */
export * from './adapt';
export * from './layout';
export { PAPERS, type SheetItem, type SheetPage, type Paper } from './paper';
export * from './engraving';
export * from './booklet';
export * from './picture';
export { sungLines, type Sung } from './singer';
export { cuesOf, type Cue } from './cues';
