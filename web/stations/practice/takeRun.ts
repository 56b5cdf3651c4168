import { messageOf } from '#core/plain';
import { useLocalStorage } from '@vueuse/core';
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import type { Seconds } from '#core/plain';
import type { TakeOnset } from '#core/schema';
import { secondsPerTick } from '#core/time';
import { type Arrangement, previewBars, writtenTick } from '#core/arrange';
import { RAKE_SECONDS, strokesOfNotes, type StruckNote } from '#core/take';
import { songSecondsAt, songTempo, takeOnMap } from '#core/along';
import { backingOf } from '#core/practice';
import { Capture, decode, whyNot } from '../../audio/capture';
import { type MidiIn, openMidi } from '../../audio/midiIn';
import { useTapKeys } from '../../frame/keys';
import { useAlongStore } from '../../stores/along';
import { FASTEST, SLOWEST, useAlongPlayStore } from '../../stores/alongPlay';
import { useHandStore } from '../../stores/hand';
import { useMixerStore } from '../../stores/mixer';
import { type Heard, usePlayerStore } from '../../stores/player';
import { usePracticeStore } from '../../stores/practice';
import { useTakesStore } from '../../stores/takes';
import { alongWorker } from '../../workers/along';
import { cloneForWorker } from '../../workers/cloneForWorker';
import { readMidiTake } from '../../workers/readers';
import { type Behind, HABITS, type Running, type Way } from './takeWays';

const LARGEST = 64 * 2 ** 20;
/** By this name the browser keeps how long each mark took from its stroke to the screen. */
const MARKED = 'stroke to mark';
/** Seconds that a microphone may leave out without it being told. */
const LEFT_OUT = 0.05;
/** Milliseconds after the music at which a take ends. */
const AFTER = 700;
/** Seconds before its first beat within which a stroke is of the take. */
const EARLY = 0.25;
const KEYS: Record<string, TakeOnset['direction']> = {
  ArrowDown: 'down',
  ArrowUp: 'up',
  f: 'down',
  j: 'up',
  ' ': null,
};

/** What Play begins, by the way that is chosen. */
const LABELS: Record<Way, string> = {
  microphone: 'Record a take',
  taps: 'Tap a take',
  midi: 'Record a take by MIDI',
  word: 'Play along',
  example: 'Judge this example',
  file: 'Choose a file',
};

/** One take: the bars played once with the click, what comes in meanwhile, and its judgement. */
export function useTakeRun() {
  const takes = useTakesStore();
  const player = usePlayerStore();
  const practice = usePracticeStore();
  const hand = useHandStore();
  const mixer = useMixerStore();
  const along = useAlongStore();
  const recording = useAlongPlayStore();

  const way = useLocalStorage<Way>('plucky-wrist:take-way', 'microphone');
  const backing = useLocalStorage<Behind>('plucky-wrist:take-backing', 'nothing');
  const habit = useLocalStorage('plucky-wrist:take-habit', 'change');
  const told = ref<string | null>(null);
  /** How often a file was to be chosen. */
  const chooses = ref(0);
  const running = ref<Running | null>(null);
  /** The take is over and nobody heard it: how was it? */
  const asks = ref(false);
  const level = ref(0);
  const clipped = ref(false);
  const capture = shallowRef<Capture | null>(null);
  const taps = shallowRef<TakeOnset[]>([]);
  const seed = ref(1);
  /** Ticks of the song at which something was struck in this take, as it comes. */
  const marks = shallowRef<number[]>([]);
  /** Marks a stroke of some seconds ago where it was played, once the bars have begun. */
  function mark(ago: Seconds): void {
    const { auditionPosition: now, activeSong, performance: played, bars } = player;
    const first = bars[takes.part.from - 1]?.tick ?? 0;
    if (!running.value || !now || now.countIn || !activeSong || !played) return;
    const into = now.tick - ago / secondsPerTick(activeSong.tempo * mixer.speed, activeSong.meter);
    marks.value = [...marks.value, writtenTick(played, Math.max(first, first + into))];
    const start = performance.now() - ago * 1000;
    void nextTick(() => performance.measure(MARKED, { start, end: performance.now() }));
  }
  /** Seconds that the microphone is behind what is heard, where that was measured. */
  const behindHeard = (open: Capture) =>
    Math.max(0, ((mixer.roundTrip?.delay ?? 0) - mixer.latency) / 1000 - open.outputLatency);
  let began = 0;
  /** Seconds after that at which the first bar line was heard. */
  let barLine: number | null = null;
  /** The second of the microphone's recording at which it was. */
  let micBarLine: number | undefined;
  watch(
    () => player.auditionPosition,
    (heard) => {
      const { activeSong } = player;
      if (!running.value || barLine !== null || !heard || heard.countIn || !activeSong) return;
      const into = heard.tick * secondsPerTick(activeSong.tempo * mixer.speed, activeSong.meter);
      barLine = (performance.now() - began) / 1000 - into;
      const open = capture.value;
      if (open) micBarLine = open.seconds - into + behindHeard(open);
    },
    { flush: 'sync' },
  );
  let seconds = 0;
  /** Takes that were begun so far. */
  let taken = 0;
  watch(way, () => {
    told.value = null;
    asks.value = false;
  });

  /** What listens: nothing can be heard of a rung without strokes. */
  const listens = computed<Way>(() => (practice.silent ? 'word' : way.value));
  const counting = computed(
    () => running.value !== null && player.auditionPosition?.countIn !== false,
  );
  /** Where the take is in the song: it is played alone, from its first bar; else where the song is. */
  const heard = computed<Heard | null>(() => {
    const alone = player.auditionPosition;
    if (!alone) return player.heard;
    const first = player.bars[takes.part.from - 1]?.tick ?? 0;
    return { ...alone, tick: first + alone.tick, start: first };
  });

  async function playAlong(how: Running): Promise<void> {
    const { from, to } = takes.part;
    if (!player.arranged) return;
    taken += 1;
    running.value = how;
    marks.value = [];
    began = performance.now();
    barLine = null;
    micBarLine = undefined;
    if (toRecording.value) return playToRecording(from, to);
    const bars = (arranged: Arrangement) => previewBars(arranged, from - 1, to - 1);
    const whole = practice.whole && !practice.drill ? bars(practice.whole) : null;
    // Who is not heard plays along with what is to be played, unless something else is asked for.
    const asked = backing.value === 'recording' ? 'nothing' : backing.value;
    const behind = how === 'word' && asked === 'nothing' ? 'all' : asked;
    await player.audition(backingOf(bars(player.arranged), whole, behind), {
      click: true,
      drums: true,
      countIn: Math.max(1, player.activeSong?.countIn ?? 1),
    });
  }

  /** The recording is what is played to: it has beats, and the rung is as long as the song. */
  const toRecording = computed(
    () => backing.value === 'recording' && along.map !== null && !practice.drill,
  );
  /** The second of the recording at which the take begins, and where it would have been as the take was begun. */
  let place = { seconds: 0, origin: 0 };
  let putBack = () => {};
  async function playToRecording(from: number, to: number): Promise<void> {
    const { laid } = along;
    const [first, last] = [player.bars[from - 1], player.bars[to - 1]];
    if (!laid || !first || !last) return;
    const end = last.tick + last.ticks;
    const begins = songSecondsAt(laid, first.tick);
    const speed = practice.tempo / songTempo(laid, first.tick, end);
    putBack = recording.forTake(
      Math.round(100 * Math.min(FASTEST, Math.max(SLOWEST, speed))) / 100,
    );
    recording.seek(Math.max(0, begins));
    place = { seconds: recording.media.currentTime, origin: 0 };
    player.follow({ tick: -first.ticks, countIn: true, start: 0 });
    place.origin = await recording.playSince(began);
    const heard = watch(
      () => [recording.tick, recording.playing, running.value] as const,
      ([tick, plays, runs]) => {
        if (!runs) return heard();
        // Before the song begins the hand waits; where it leaves the song the take ends.
        const before = recording.seconds < begins;
        if (plays && (before || (tick !== null && tick < end))) {
          player.follow({ tick: Math.max(0, (tick ?? 0) - first.tick), countIn: false });
          return;
        }
        heard();
        recording.pause();
        player.follow(null);
      },
    );
  }
  /** Strokes in seconds of the recording, as the take's own tempo has them. */
  const onTheMap = (heard: TakeOnset[]) =>
    takeOnMap(
      along.laid!,
      cloneForWorker(heard.filter(({ seconds }) => seconds > place.seconds - EARLY)),
      player.activeSong!,
    );

  async function startMicrophone(): Promise<void> {
    clipped.value = false;
    try {
      capture.value = await Capture.open(
        {
          heard: (now, over) => {
            level.value = now;
            clipped.value ||= over;
          },
          lost: () => {
            told.value = 'The microphone went away; what was heard until then is judged.';
            void stop();
          },
          struck: (_, ago) => {
            const open = capture.value;
            if (open) mark(ago + behindHeard(open));
          },
        },
        mixer.microphone,
      );
    } catch (error) {
      told.value = whyNot(error);
      return;
    }
    await playAlong('microphone');
  }

  /** The second of the take, or of the recording beside it, of what was struck so long ago. */
  const momentOf = (ago: Seconds) =>
    toRecording.value
      ? Math.max(0, recording.heardNow() - (mixer.latency / 1000 + ago) * recording.speed)
      : (performance.now() - began) / 1000 - ago;

  /** Notes of a MIDI instrument, in seconds as those of taps. */
  let notes: StruckNote[] = [];
  /** Where the stroke that sounds began. */
  let strokeFrom = -Infinity;
  const midi = shallowRef<MidiIn | null>(null);
  async function startMidi(): Promise<void> {
    notes = [];
    strokeFrom = -Infinity;
    try {
      midi.value = await openMidi(
        (note) => {
          if (running.value !== 'midi' || (toRecording.value && !recording.playing)) return;
          const ago = performance.now() / 1000 - note.seconds;
          const seconds = momentOf(ago);
          notes.push({ ...note, seconds });
          if (seconds - strokeFrom <= RAKE_SECONDS) return;
          strokeFrom = seconds;
          mark(ago);
        },
        () => {
          told.value = 'The MIDI instrument went away; what was played until then is judged.';
          void stop();
        },
      );
    } catch (error) {
      told.value = messageOf(error);
      return;
    }
    await playAlong('midi');
  }
  function closeMidi(): void {
    midi.value?.close();
    midi.value = null;
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
      case 'midi':
        return startMidi();
      case 'word':
        return playAlong('word');
      case 'example':
        return example();
      case 'file':
        // Its button stands under Listen, and the station opens that.
        chooses.value += 1;
    }
  }

  /** It is heard without a take: what is to be played, as the stage bar has it. */
  function hear(): void {
    told.value = null;
    player.stop();
    void player.play();
  }
  /** Something sounds that is no take. */
  const hearing = computed(() => running.value === null && (player.playing || player.auditioning));
  /** What Play does now. */
  const label = computed(() => {
    if (running.value === 'word' || hearing.value) return 'Stop';
    return running.value ? 'Stop and judge' : LABELS[listens.value];
  });
  function toggle(): void {
    if (running.value) void stop();
    else if (hearing.value) player.stop();
    else void start();
  }

  function tap(direction: TakeOnset['direction']): void {
    if (toRecording.value && !recording.playing) return;
    const seconds = momentOf(0);
    taps.value = [...taps.value, { seconds, direction }];
    mark(0);
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
    closeMidi();
    if (toRecording.value) {
      recording.pause();
      const { speed } = recording;
      putBack();
      const { from: bar } = takes.part;
      const { activeSong } = player;
      const begins = activeSong
        ? (player.bars[bar - 1]?.tick ?? 0) * secondsPerTick(activeSong.tempo, activeSong.meter)
        : undefined;
      if (how === 'taps') return takes.fromOnsets(onTheMap(taps.value), 'taps', begins);
      if (how === 'midi') return takes.fromOnsets(onTheMap(strokesOfNotes(notes)), 'midi', begins);
      if (how === 'microphone' && open) {
        const heard = await alongWorker().heard(await open.close(), place.origin, speed);
        return takes.fromOnsets(onTheMap(heard), 'microphone', begins);
      }
    }
    if (how === 'taps') await takes.fromOnsets(taps.value, 'taps', barLine ?? undefined);
    else if (how === 'midi') {
      await takes.fromOnsets(strokesOfNotes(notes), 'midi', barLine ?? undefined);
    } else if (how === 'word') asks.value = true;
    else if (how === 'microphone' && open) {
      const recording = await open.close();
      const missing = open.dropped / recording.sampleRate;
      if (missing > LEFT_OUT) {
        const gap = `The microphone left out ${missing.toFixed(1)} s; what was played there was not heard.`;
        // That it went away is told already, and stays.
        told.value = told.value === null ? gap : `${told.value} ${gap}`;
      }
      await takes.fromSound('microphone', recording, micBarLine);
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
    recording.pause();
    putBack();
    void capture.value?.close();
    closeMidi();
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
    const start = new TextDecoder().decode(bytes.slice(0, 4));
    if (start === 'RIFF') {
      await takes.fromWav(new Uint8Array(bytes));
      return;
    }
    try {
      if (start === 'MThd') {
        await takes.fromOnsets(await readMidiTake(new Uint8Array(bytes)), 'midi');
        return;
      }
      await takes.fromSound('file', await decode(bytes));
    } catch (error) {
      told.value = messageOf(error);
    }
  }

  async function example(): Promise<void> {
    const strikes = player.performance?.strikes ?? [];
    const there = HABITS.filter(({ fits }) => fits?.(strikes) ?? true);
    const chosen = there.find(({ value }) => value === habit.value) ?? there[0]!;
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
    backing,
    habit,
    told,
    running,
    asks,
    level,
    clipped,
    marks,
    counting,
    heard,
    chooses,
    hearing,
    label,
    toggle,
    hear,
    start,
    stop,
    tap,
    say,
    readFile,
  };
}
export type TakeRun = ReturnType<typeof useTakeRun>;
