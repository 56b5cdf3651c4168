// @vitest-environment happy-dom
import type { Entry, LogSummary, PlanItem } from '#core/schema';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Away } from '../remote/client';
import { useLogStore } from './log';

const id = (number: number) => `00000000-0000-4000-8000-00000000000${number}`;
const row = (number: number) => ({ id: id(number), kind: 'note', text: `row ${number}` }) as Entry;
const nothing: LogSummary = {
  evenings: 0,
  seconds: 0,
  days: [],
  verdicts: [],
  slots: [],
  songs: [],
  clean: [],
  changes: [],
};

beforeEach(() => {
  setActivePinia(createPinia());
  vi.spyOn(api, 'listSongs').mockResolvedValue([]);
  vi.spyOn(api, 'readLogSummary').mockResolvedValue(nothing);
  vi.spyOn(api, 'readLog').mockImplementation(async ({ after }) =>
    after === undefined
      ? { entries: [row(1), row(2)], total: 3, next: 'there' }
      : { entries: [row(3)], total: 3, next: null },
  );
});
afterEach(() => {
  vi.restoreAllMocks();
});

describe('the log as it is looked at', () => {
  it('comes page by page, and no page twice', async () => {
    const log = useLogStore();
    await log.load();
    expect(log.rows.map((one) => one.id)).toEqual([id(1), id(2)]);
    await log.more();
    await log.more();
    expect(log.rows.map((one) => one.id)).toEqual([id(1), id(2), id(3)]);
    expect(log.total).toBe(3);
  });

  it('asks for what the filter says, and nothing else', async () => {
    const log = useLogStore();
    log.filter = { song: id(7), kind: 'take', verdict: null };
    await log.load();
    expect(vi.mocked(api.readLog).mock.lastCall![0]).toMatchObject({ song: id(7), kind: 'take' });
    expect(vi.mocked(api.readLog).mock.lastCall![0]).not.toHaveProperty('verdict');
    expect(log.fileUrl('export.csv')).toContain(`song=${id(7)}`);
  });

  it('keeps what was shown where the server is away, and says so', async () => {
    const log = useLogStore();
    await log.load();
    vi.mocked(api.readLog).mockRejectedValueOnce(new Away());
    await log.load();
    expect(log.rows).toHaveLength(2);
    vi.spyOn(api, 'addEntry').mockRejectedValueOnce(new Away());
    expect(await log.add({ kind: 'note', text: 'x' })).toBe(false);
    expect(log.trouble).toBe('The server cannot be reached.');
  });

  it('puts a row back that was taken out', async () => {
    const log = useLogStore();
    const taken = vi.spyOn(api, 'deleteEntry').mockResolvedValue(null);
    const back = vi.spyOn(api, 'putEntryBack').mockResolvedValue(row(1));
    await log.remove(row(1));
    expect(taken).toHaveBeenCalledWith(id(1));
    expect(log.removed?.id).toBe(id(1));
    await log.putBack();
    expect(back).toHaveBeenCalledWith(row(1));
    expect(log.removed).toBeNull();
  });

  it('goes through an evening item by item', () => {
    const log = useLogStore();
    const items = [1, 2].map((number) => ({ what: `item ${number}`, minutes: 5 }) as PlanItem);
    expect(log.start(items)).toBe(items[0]);
    expect(log.running?.at).toBe(0);
    expect(log.goOn()).toBe(items[1]);
    expect(log.goOn()).toBeNull();
    expect(log.running).toBeNull();
    expect(log.start([])).toBeNull();
  });
});
