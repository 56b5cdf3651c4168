import { computed, type WritableComputedRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';

/** The tool that was open last on each station, for the way back to it. */
const last = new Map<string, string>();

/**
 * The open tool of a station, kept in the address: a refresh and the way back find it again.
 * @param tools the ones there are; the first is open where none is named
 */
export function useOpenTool<Tool extends string>(
  tools: () => readonly Tool[],
): WritableComputedRef<Tool> {
  const route = useRoute();
  const router = useRouter();
  const station = String(route.name);
  const known = (value: unknown): value is Tool => tools().some((tool) => tool === value);
  return computed({
    get: () => {
      const asked = route.query.tool ?? last.get(station);
      return known(asked) ? asked : tools()[0]!;
    },
    set: (tool) => {
      last.set(station, tool);
      void router.replace({ query: { ...route.query, tool } });
    },
  });
}
