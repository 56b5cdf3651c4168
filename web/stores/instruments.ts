import { messageOf } from '#core/plain';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { Instrument, OwnInstrument } from '#core/schema';
import { INSTRUMENT_IDS, INSTRUMENTS } from '#core/neck';
import { api } from '../remote/client';

/** The instruments to choose among: those that are built in, and the player's own, which are kept. */
export const useInstrumentsStore = defineStore('instruments', () => {
  const own = shallowRef<OwnInstrument[]>([]);
  const trouble = ref<string | null>(null);

  async function load(): Promise<void> {
    own.value = (await api.listInstruments().catch(() => null)) ?? own.value;
  }
  void load();

  const options = computed(() => [
    ...INSTRUMENT_IDS.map((id) => ({ value: id as string, label: INSTRUMENTS[id].name })),
    ...own.value.map(({ id, instrument }) => ({ value: id, label: instrument.name })),
  ]);
  const find = (value: string): Instrument | null =>
    own.value.find(({ id }) => id === value)?.instrument ??
    (INSTRUMENT_IDS.some((id) => id === value)
      ? INSTRUMENTS[value as keyof typeof INSTRUMENTS]
      : null);

  const same = (one: Instrument, other: Instrument) =>
    one.name === other.name &&
    one.frets === other.frets &&
    one.family === other.family &&
    one.offset === other.offset &&
    one.scaleLength === other.scaleLength &&
    one.strings.join() === other.strings.join();
  /** Which of the player's own this is. */
  const ownId = (instrument: Instrument): string | null =>
    own.value.find((one) => same(one.instrument, instrument))?.id ?? null;

  /** Keeps an instrument of the player's own; one that is kept already stays as it is. */
  async function keep(instrument: Instrument): Promise<void> {
    trouble.value = null;
    if (ownId(instrument) !== null) return;
    try {
      own.value = [...own.value, await api.createInstrument(instrument)];
    } catch (error) {
      trouble.value = messageOf(error);
    }
  }
  async function remove(id: string): Promise<void> {
    await api.deleteInstrument(id).catch(() => undefined);
    await load();
  }

  return { own, options, trouble, find, ownId, keep, remove, load };
});
