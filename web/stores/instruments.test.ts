// @vitest-environment happy-dom
import type { Instrument, OwnInstrument } from '#core/schema';
import { INSTRUMENT_IDS, INSTRUMENTS } from '#core/neck';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Away } from '../remote/client';
import { useInstrumentsStore } from './instruments';

const tin: Instrument = { ...INSTRUMENTS.guitar, name: 'Tin boat', strings: [50, 55, 59, 62] };
let kept: OwnInstrument[] = [];

beforeEach(() => {
  setActivePinia(createPinia());
  kept = [];
  vi.spyOn(api, 'listInstruments').mockImplementation(async () => kept);
  vi.spyOn(api, 'createInstrument').mockImplementation(async (instrument) => {
    const made = { id: `own ${kept.length + 1}`, instrument };
    kept = [...kept, made];
    return made;
  });
  vi.spyOn(api, 'deleteInstrument').mockImplementation(async (id) => {
    kept = kept.filter((one) => one.id !== id);
    return null;
  });
});
afterEach(() => {
  vi.restoreAllMocks();
});

describe('instruments to choose among', () => {
  it('are the built-in ones, and those of the player’s own once they are kept', async () => {
    const store = useInstrumentsStore();
    await store.load();
    expect(store.options).toHaveLength(INSTRUMENT_IDS.length);
    await store.keep(tin);
    await store.keep({ ...tin });
    expect(kept).toHaveLength(1);
    expect(store.options.at(-1)).toEqual({ value: 'own 1', label: 'Tin boat' });
    expect(store.find('own 1')).toEqual(tin);
    expect(store.ownId({ ...tin })).toBe('own 1');
    expect(store.ownId({ ...tin, frets: 12 })).toBeNull();
    expect(store.find('banjo-five')).toEqual(INSTRUMENTS['banjo-five']);
    expect(store.find('trombone')).toBeNull();
    await store.remove('own 1');
    expect(store.own).toEqual([]);
  });

  it('say so where one could not be kept', async () => {
    const store = useInstrumentsStore();
    vi.mocked(api.createInstrument).mockRejectedValueOnce(new Away());
    await store.keep(tin);
    expect(store.trouble).toBe('The server cannot be reached.');
    expect(store.own).toEqual([]);
    vi.mocked(api.listInstruments).mockRejectedValueOnce(new Away());
    await store.keep(tin);
    await store.load();
    expect(store.own).toHaveLength(1);
  });
});
