import { useRouter } from 'vue-router';
import type { PlanItem } from '#core/schema';
import { usePracticeStore } from '../stores/practice';

/** The way to where an item of the plan is done. */
export function usePlanWay() {
  const router = useRouter();
  const practice = usePracticeStore();

  function goTo({ kind, songId, rung, tempo }: PlanItem): void {
    if (songId === null || kind === 'pause') return;
    if (kind === 'change') {
      void router.push({ name: 'changes', params: { id: songId }, query: { tool: 'time' } });
      return;
    }
    practice.wish = rung !== null && tempo !== null ? { songId, rung, tempo } : null;
    void router.push({ name: 'practice', params: { id: songId } });
    if (practice.active) practice.applyRequest();
  }
  return { goTo };
}
