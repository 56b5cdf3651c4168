import { useLocalStorage } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { type Habits, previewBars, type TakeOnset } from '#core';
import { Capture, decode, whyNot } from '../../audio/capture';
import { useTapKeys } from '../../frame/keys';
import { useHandStore } from '../../stores/hand';
import { useMixerStore } from '../../stores/mixer';
import { usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useTakesStore } from '../../stores/takes';

/** How a take comes in: heard, from a file, tapped, made up, or by the player's own word. */
export type Way = 'microphone' | 'file' | 'taps' | 'example' | 'word';

/** What the example player does. */
export const HABITS: { label: string; value: string; habits: Omit<Habits, 'seed'> }[] = [
  { label: 'plays cleanly', value: 'clean', habits: { jitter: 9 } },
  {
    label: 'comes late to the hardest change',
    value: 'change',
    habits: { jitter: 8, landingsLate: 85 },
  },
  {
    label: 'comes late to every change',
    value: 'landings',
    habits: { jitter: 8, landingsLate: 65 },
  },
  { label: 'strums unevenly', value: 'uneven', habits: { jitter: 38 } },
  { label: 'rushes', value: 'rushing', habits: { jitter: 8, drift: 4 } },
  { label: 'leaves out ups', value: 'ups', habits: { jitter: 8, upsMissed: 0.5 } },
  { label: 'stops the arm after a miss', value: 'miss', habits: { jitter: 8, stopsAfterMiss: 60 } },
  { label: 'still holds the old chord', value: 'chord', habits: { jitter: 8, chordLate: true } },
];

const LARGEST = 64 * 2 ** 20;
/** Milliseconds after the music at which a take ends. */
const AFTER = 700;
const KEYS: Record<string, TakeOnset['direction']> = {
  ArrowDown: 'down',
  ArrowUp: 'up',
  f: 'down',
  j: 'up',
  ' ': null,
};

/** One take: the bars played once with the click, what comes in meanwhile, and its judgement. */
export function useTakeRun() {
  const takes = useTakesStore();
  const player = usePlayerStore();
  const practice = usePracticeStore();
  const hand = useHandStore();
  const mixer = useMixerStore();

  const way = useLocalStorage<Way>('plucky-wrist:take-way', 'microphone');
  const withSong = useLocalStorage('plucky-wrist:take-with-song', false);
  const habit = useLocalStorage('plucky-wrist:take-habit', 'change');
  const told = ref<string | null>(null);
  const running = ref<'microphone' | 'taps' | 'word' | null>(null);
  /** The take is over and nobody heard it: how was it? */
  const asks = ref(false);
  const level = ref(0);
  const clipped = ref(false);
  const capture = shallowRef<Capture | null>(null);
  const taps = shallowRef<TakeOnset[]>([]);
  const seed = ref(1);
  let began = 0;
  let seconds = 0;
  /** Takes that were begun so far. */
  let taken = 0;
  watch(way, () => {
    told.value = null;
    asks.value = false;
  });

  /** What listens: nothing can be heard of a rung without strokes. */
  const listens = computed<Way>(() => (practice.silent ? 'word' : way.value));
  const counting = computed(() => running.value !== null && player.heardAlone?.countIn !== false);

  async function playAlong(how: 'microphone' | 'taps' | 'word'): Promise<void> {
    const { from, to } = takes.part;
    if (!player.arranged) return;
    taken += 1;
    running.value = how;
    began = performance.now();
    const alone = previewBars(player.arranged, from - 1, to - 1);
    const backing = withSong.value || how === 'word' ? alone : { ...alone, strikes: [] };
    await player.audition(backing, {
      click: true,
      drums: true,
      countIn: Math.max(1, player.sung?.countIn ?? 1),
    });
  }

  async function startMicrophone(): Promise<void> {
    clipped.value = false;
    try {
      capture.value = await Capture.open(
        (now, over) => {
          level.value = now;
          clipped.value ||= over;
        },
        () => {
          told.value = 'The microphone went away; what was heard until then is judged.';
          void stop();
        },
        mixer.microphone,
      );
    } catch (error) {
      told.value = whyNot(error);
      return;
    }
    await playAlong('microphone');
  }

  /** Begins a take by the way that is chosen. */
  async function start(): Promise<void> {
    if (running.value || takes.judging || player.bars.length === 0) return;
    told.value = null;
    asks.value = false;
    player.stop();
    switch (listens.value) {
      case 'microphone':
        return startMicrophone();
      case 'taps':
        taps.value = [];
        return playAlong('taps');
      case 'word':
        return playAlong('word');
      case 'example':
        return example();
      case 'file':
        told.value = 'Choose a sound file under Listen.';
    }
  }

  function tap(direction: TakeOnset['direction']): void {
    taps.value = [...taps.value, { seconds: (performance.now() - began) / 1000, direction }];
  }
  useTapKeys(
    () => running.value === 'taps',
    ({ key }) => {
      if (key === 'Escape') void stop();
      else if (key in KEYS) tap(KEYS[key]);
      else return false;
      return true;
    },
  );

  /** Ends the take and has it judged. */
  async function stop(): Promise<void> {
    const how = running.value;
    running.value = null;
    seconds = (performance.now() - began) / 1000;
    player.stop();
    practice.played += how ? seconds : 0;
    const open = capture.value;
    capture.value = null;
    if (how === 'taps') await takes.fromOnsets(taps.value);
    else if (how === 'word') asks.value = true;
    else if (how === 'microphone' && open) {
      await takes.fromSound('microphone', await open.close());
    }
  }

  /** Ends the take a moment after the music; told at once, so that what was heard before it does not end it. */
  watch(
    () => player.auditioning,
    (sounding) => {
      const take = taken;
      if (sounding || !running.value) return;
      setTimeout(() => {
        if (take === taken && running.value) void stop();
      }, AFTER);
    },
    { flush: 'sync' },
  );
  onBeforeUnmount(() => {
    running.value = null;
    player.stop();
    void capture.value?.close();
  });

  async function say(how: 'clean' | 'so-so' | 'not yet'): Promise<void> {
    asks.value = false;
    await practice.say(how, seconds);
  }

  async function readFile(file: File): Promise<void> {
    told.value = null;
    if (file.size > LARGEST) {
      told.value = 'This file is larger than 64 MB; a shorter one would do.';
      return;
    }
    const bytes = await file.arrayBuffer();
    if (new TextDecoder().decode(bytes.slice(0, 4)) === 'RIFF') {
      await takes.fromWav(new Uint8Array(bytes));
      return;
    }
    try {
      await takes.fromSound('file', await decode(bytes));
    } catch (error) {
      told.value = error instanceof Error ? error.message : String(error);
    }
  }

  async function example(): Promise<void> {
    const chosen = HABITS.find(({ value }) => value === habit.value) ?? HABITS[0]!;
    const [first, second] = player.changes;
    const hardest =
      hand.found?.changes[0] ??
      (first && second ? { from: first.symbol, to: second.symbol } : undefined);
    const change =
      chosen.value === 'change' && hardest
        ? { change: { from: hardest.from, to: hardest.to } }
        : {};
    seed.value += 1;
    await takes.fromExample({ seed: seed.value, ...chosen.habits, ...change });
  }

  return {
    way,
    listens,
    withSong,
    habit,
    told,
    running,
    asks,
    level,
    clipped,
    counting,
    start,
    stop,
    tap,
    say,
    readFile,
  };
}
export type TakeRun = ReturnType<typeof useTakeRun>;
