// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Away, Refused } from '../remote/client';
import { useUnsentStore } from './unsent';

const KEY = 'plucky-wrist:unsent';
const row = { kind: 'practice' as const, seconds: 600 };
const away = () => vi.spyOn(api, 'addEntry').mockRejectedValue(new Away());
const added = () => vi.spyOn(api, 'addEntry').mockImplementation(async (entry) => entry as never);

beforeEach(() => {
  localStorage.clear();
  setActivePinia(createPinia());
});
afterEach(() => {
  useUnsentStore().$dispose();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe('what was practised while the server was away', () => {
  it('waits, outlives the window, and is sent in order, each once and with its own moment', async () => {
    away();
    const before = useUnsentStore();
    expect(await before.giveEntry(row)).toBeNull();
    expect(await before.giveEntry({ ...row, seconds: 60 })).toBeNull();
    expect(before.count).toBe(2);
    await before.send();
    expect(before.count).toBe(2);

    before.$dispose();
    setActivePinia(createPinia());
    const sent = added();
    sent.mockClear();
    const after = useUnsentStore();
    await vi.waitFor(() => expect(after.count).toBe(0));
    const bodies = sent.mock.calls.map(([entry]) => entry);
    expect(bodies.map(({ seconds }) => seconds)).toEqual([600, 60]);
    expect(bodies.every(({ id, madeAt }) => id && madeAt)).toBe(true);
    expect(after.sent).toEqual(bodies.map(({ id }) => id));
    expect(localStorage.getItem(KEY)).toBeNull();
    await after.send();
    expect(sent).toHaveBeenCalledTimes(2);
  });

  it('waits where the disk of the server is full, too', async () => {
    vi.spyOn(api, 'addEntry').mockRejectedValue(new Refused(507, 'The disk is full.', null));
    const unsent = useUnsentStore();
    expect(await unsent.giveEntry(row)).toBeNull();
    expect(unsent.count).toBe(1);
  });

  it('is let go, and told, where the server does not want it', async () => {
    away();
    const unsent = useUnsentStore();
    await unsent.giveEntry(row);
    vi.mocked(api.addEntry).mockRejectedValue(new Refused(404, 'There is no such song.', null));
    await unsent.send();
    expect(unsent.count).toBe(0);
    expect(unsent.trouble).toContain('There is no such song.');
    expect(unsent.sent).toEqual([]);
  });

  it('is refused at once where it would be refused later', async () => {
    vi.spyOn(api, 'addEntry').mockRejectedValue(new Refused(400, 'tempo: too quick', null));
    const unsent = useUnsentStore();
    await expect(unsent.giveEntry(row)).rejects.toThrow('too quick');
    expect(unsent.count).toBe(0);
  });

  it('waits in the window where the browser has no room, is sent from there, and leaving asks', async () => {
    away();
    const unsent = useUnsentStore();
    const leaving = () => {
      const event = new Event('beforeunload', { cancelable: true });
      window.dispatchEvent(event);
      return event.defaultPrevented;
    };
    vi.stubGlobal('localStorage', {
      getItem: () => null,
      removeItem: () => undefined,
      setItem: () => {
        throw new DOMException('full', 'QuotaExceededError');
      },
    });
    expect(leaving()).toBe(false);
    expect(await unsent.giveEntry(row)).toBeNull();
    expect([unsent.count, unsent.onlyHere, leaving()]).toEqual([1, true, true]);
    const sent = added();
    sent.mockClear();
    await unsent.send();
    expect(sent).toHaveBeenCalledTimes(1);
    expect([unsent.count, unsent.onlyHere, leaving()]).toEqual([0, false, false]);
  });

  it('is a row without a song where its song is gone meanwhile, and that is told', async () => {
    const songId = '0f4c1e4e-6f0e-4f0b-9a53-1c1d7f0a9b11';
    away();
    const unsent = useUnsentStore();
    await unsent.giveEntry({ ...row, songId, song: 'Weir Stones' });
    const sent = vi
      .mocked(api.addEntry)
      .mockImplementation(async (entry) =>
        entry.songId === undefined
          ? (entry as never)
          : Promise.reject(new Refused(404, 'There is no such song.', null)),
      );
    await unsent.send();
    expect(sent.mock.lastCall![0]).toMatchObject({ ...row, song: 'Weir Stones' });
    expect(unsent.count).toBe(0);
    expect(unsent.trouble).toContain('in the log without it');
  });

  it('reads what it can of what another version left', () => {
    const good = { kind: 'entry', made: row };
    localStorage.setItem(KEY, JSON.stringify([{ kind: 'of later' }, good, 7]));
    expect(useUnsentStore().count).toBe(1);
  });

  it('leaves what another version left where it is, whatever is sent or added', async () => {
    const of = { kind: 'of later', made: { id: 'x' } };
    localStorage.setItem(KEY, JSON.stringify([of, 7]));
    away();
    const unsent = useUnsentStore();
    await unsent.giveEntry(row);
    expect(JSON.parse(localStorage.getItem(KEY)!)).toEqual([expect.anything(), of, 7]);
    added();
    await unsent.send();
    expect(unsent.count).toBe(0);
    expect(JSON.parse(localStorage.getItem(KEY)!)).toEqual([of, 7]);
  });

  it('is taken back while it waits, and not while it is on its way', async () => {
    away();
    const unsent = useUnsentStore();
    await unsent.giveEntry(row);
    await unsent.giveEntry({ ...row, seconds: 60 });
    const ids: string[] = JSON.parse(localStorage.getItem(KEY)!).map(
      ({ made }: { made: { id: string } }) => made.id,
    );
    let arrive: (made: never) => void = () => undefined;
    const add = vi
      .spyOn(api, 'addEntry')
      .mockImplementation(() => new Promise((resolve) => (arrive = resolve)));
    add.mockClear();
    const sending = unsent.send();
    expect(unsent.takeBack(ids[0]!)).toBe(false);
    expect(unsent.takeBack(ids[1]!)).toBe(true);
    expect(unsent.takeBack(ids[1]!)).toBe(false);
    arrive({} as never);
    await sending;
    expect(add).toHaveBeenCalledTimes(1);
    expect(unsent.count).toBe(0);
  });
});
