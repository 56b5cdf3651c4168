import type { Accent, SectionRules } from '../schema';

/** How loud a section may be as a whole, from soft to loud, in the words that the player reads. */
export const SECTION_LEVELS: readonly { label: string; value: Accent }[] = [
  { label: 'very soft', value: 'ghost' },
  { label: 'as played', value: 'normal' },
  { label: 'louder', value: 'accent' },
  { label: 'loudest', value: 'strong' },
];

/** How loud a section begins and ends. */
export interface WedgeEnds {
  from: Accent;
  to: Accent;
}

/**
 * How loud a section begins and ends: its build, on the loudness that it has as a whole.
 * @example wedgeEnds({ level: 'accent' }) // { from: 'accent', to: 'accent' }
 */
export function wedgeEnds({ level = 'normal', build }: SectionRules): WedgeEnds {
  return build ? { from: build.from, to: build.to } : { from: level, to: level };
}

/**
 * What a section says of its loudness when it begins and ends so: a build where the ends differ, one loudness
 * where they are the same, nothing where that is as played.
 * @param rules those it has; a build that was all downs stays so
 * @example withWedge({}, { from: 'normal', to: 'strong' }) // { level: undefined, build: { from: 'normal', to: 'strong' } }
 */
export function withWedge(
  { build }: SectionRules,
  { from, to }: WedgeEnds,
): { level: Accent | undefined; build: SectionRules['build'] } {
  if (from === to) return { level: from === 'normal' ? undefined : from, build: undefined };
  return { level: undefined, build: { from, to, ...(build?.downs && { downs: true }) } };
}
