import { onScopeDispose, type ShallowRef, shallowReactive, useTemplateRef } from 'vue';
import { usePageKeys } from './keys';

/** The parts of the screen that a key leads to. */
export const REGIONS = [
  { name: 'stations', key: 'F2', label: 'the stations' },
  { name: 'work', key: 'F8', label: 'the path, the bars or the chords' },
  { name: 'tools', key: 'F9', label: 'the tools; once more folds them away' },
  { name: 'stage', key: 'F4', label: 'the stage bar' },
] as const;
export type RegionName = (typeof REGIONS)[number]['name'];

interface Region {
  element: Readonly<ShallowRef<HTMLElement | null>>;
  /** Before it gets the focus; false where it does not want it. */
  enter?: (() => boolean) | undefined;
}

const regions = shallowReactive(new Map<RegionName, Region>());

/** What has the focus first in a region: what is chosen in it, or the first that takes it. */
const FIRST =
  '[role=listbox], button.bar[tabindex="0"], [aria-current=page], button:not([disabled]), a[href], input, [tabindex="0"]';

/**
 * Makes an element of the component's template a region of the screen.
 * @param ref the name of its template ref
 * @param enter called before it gets the focus; false where it does not want it
 * @returns the element
 */
export function useRegion(
  name: RegionName,
  ref: string,
  enter?: () => boolean,
): Readonly<ShallowRef<HTMLElement | null>> {
  const element = useTemplateRef<HTMLElement>(ref);
  const region = { element, enter };
  regions.set(name, region);
  onScopeDispose(() => {
    if (regions.get(name) === region) regions.delete(name);
  });
  return element;
}

/** Takes the focus to a region; to its first element that takes it. */
export async function goToRegion(name: RegionName): Promise<void> {
  const region = regions.get(name);
  if (!region) return;
  const wanted = region.enter?.() ?? true;
  await new Promise((resolve) => requestAnimationFrame(resolve));
  const target = wanted ? region.element.value : regions.get('work')?.element.value;
  const first = target?.querySelector<HTMLElement>(FIRST) ?? target;
  first?.focus();
}

/** Listens for the keys that lead to the regions; once, in the shell. */
export function useRegionKeys(): void {
  usePageKeys(
    ({ key }) => {
      const region = REGIONS.find((one) => one.key === key);
      if (region) void goToRegion(region.name);
      return region !== undefined;
    },
    { typing: true },
  );
}
