import { plural } from '#core/plain';

/** How many notes a bass run may have, and how long each, as they are chosen. */
export const RUN_COUNTS = [1, 2, 3, 4].map((value) => ({ label: plural(value, 'note'), value }));
export const RUN_LENGTHS = [
  { label: 'in eighths', value: 480 as const },
  { label: 'in quarters', value: 960 as const },
];
