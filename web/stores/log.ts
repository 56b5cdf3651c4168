import { messageOf } from '#core/plain';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { ChangeEntry, Entry, LogSummary, NewEntry, Plan, PlanItem } from '#core/schema';
import { api } from '../remote/client';

export interface LogFilter {
  song: string | null;
  kind: string | null;
  verdict: string | null;
}

/** Minutes by which the player's clock is ahead of Greenwich. */
const zone = () => String(-new Date().getTimezoneOffset());
const ROWS_AT_ONCE = '40';

/** The log as it is looked at: a page after the other, what it comes to, and tonight's plan. */
export const useLogStore = defineStore('log', () => {
  const filter = ref<LogFilter>({ song: null, kind: null, verdict: null });
  const rows = shallowRef<Entry[]>([]);
  const total = ref(0);
  const summary = shallowRef<LogSummary | null>(null);
  /** Every song of the shelf, to choose among. */
  const songs = shallowRef<{ id: string; title: string }[]>([]);
  const plan = shallowRef<Plan | null>(null);
  const minutes = ref(20);
  const trouble = ref<string | null>(null);
  /** The row that was taken out last, to be put back with one press. */
  const removed = shallowRef<Entry | null>(null);
  let after: string | null = null;
  let asked = 0;

  const query = (): Record<string, string> => ({
    zone: zone(),
    ...Object.fromEntries(
      Object.entries(filter.value).filter((pair): pair is [string, string] => pair[1] !== null),
    ),
  });
  /** Says what went wrong, and gives nothing. */
  async function tried<Result>(work: Promise<Result>): Promise<Result | null> {
    try {
      const made = await work;
      trouble.value = null;
      return made;
    } catch (error) {
      trouble.value = messageOf(error);
      return null;
    }
  }

  async function load(): Promise<void> {
    const number = (asked += 1);
    const { song } = filter.value;
    const [page, found] = await Promise.all([
      tried(api.readLog({ ...query(), limit: ROWS_AT_ONCE })),
      tried(api.readLogSummary({ zone: zone(), ...(song !== null && { song }) })),
    ]);
    if (number !== asked || !page || !found) return;
    if (songs.value.length === 0) songs.value = (await tried(api.listSongs())) ?? [];
    rows.value = page.entries;
    total.value = page.total;
    after = page.next;
    summary.value = found;
  }
  async function more(): Promise<void> {
    const number = asked;
    if (after === null) return;
    const page = await tried(api.readLog({ ...query(), limit: ROWS_AT_ONCE, after }));
    if (!page || number !== asked) return;
    rows.value = [...rows.value, ...page.entries];
    after = page.next;
  }
  async function loadPlan(): Promise<void> {
    plan.value = await tried(api.readPlan({ minutes: String(minutes.value), zone: zone() }));
  }

  async function add(entry: NewEntry): Promise<boolean> {
    const made = await tried(api.addEntry(entry));
    if (made) await load();
    return made !== null;
  }
  async function addMany(entries: NewEntry[]): Promise<{ added: number; known: number } | null> {
    const made = await tried(api.addEntries(entries));
    if (made) await load();
    return made;
  }
  async function change(id: string, what: ChangeEntry): Promise<void> {
    const made = await tried(api.changeEntry(id, what));
    if (made) await load();
  }
  async function remove(entry: Entry): Promise<void> {
    const gone = await tried(api.deleteEntry(entry.id).then(() => true));
    if (!gone) return;
    removed.value = entry;
    await load();
  }
  async function putBack(): Promise<void> {
    const entry = removed.value;
    if (!entry) return;
    removed.value = null;
    await tried(api.putEntryBack(entry));
    await load();
  }

  /** The plan that is gone through: its items, which one it is, and when that began. */
  const running = shallowRef<{ items: PlanItem[]; at: number; since: number } | null>(null);
  function start(items: PlanItem[]): PlanItem | null {
    running.value = items.length > 0 ? { items, at: 0, since: Date.now() } : null;
    return items[0] ?? null;
  }
  /** The next item; null at the end. */
  function goOn(): PlanItem | null {
    const now = running.value;
    if (!now) return null;
    const at = now.at + 1;
    running.value = at < now.items.length ? { ...now, at, since: Date.now() } : null;
    return running.value ? now.items[at]! : null;
  }

  return {
    filter,
    rows,
    total,
    songs,
    summary,
    plan,
    minutes,
    trouble,
    removed,
    running,
    load,
    more,
    loadPlan,
    add,
    addMany,
    change,
    remove,
    putBack,
    start,
    goOn,
    fileUrl: (file: 'export.csv' | 'export.json') => api.logUrl(file, query()),
    calendarUrl: (wanted: Record<string, string>) =>
      api.logUrl('plan.ics', { ...wanted, minutes: String(minutes.value), zone: zone() }),
  };
});
