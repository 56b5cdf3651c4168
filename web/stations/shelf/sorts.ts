/** Orders that the songs of the shelf may stand in. */
export const SORTS = [
  { label: 'last edited first', value: 'recent' },
  { label: 'by name', value: 'name' },
  { label: 'slow to fast', value: 'tempo' },
  { label: 'last played first', value: 'played' },
  { label: 'farthest from its goal', value: 'goal' },
] as const;
export type Sort = (typeof SORTS)[number]['value'];
