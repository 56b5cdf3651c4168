import type { Seconds, SecondsPerTick, Ticks } from '#core/plain';
import type { Meter } from '#core/schema';
import {
  advance,
  changeLoop,
  changeTempo,
  type Ramp,
  rampTempo,
  secondsPerTick,
  type Span,
  startTransport,
  tickAt,
  type Transport,
  type Window,
} from '#core/time';
import { itemAt } from '#core/song';
import { type CountedBar, countInTicks } from '#core/arrange';
import {
  BEFORE_ALL,
  type CueState,
  type Levels,
  nextCues,
  type Playback,
  type Sound,
  soundsOf,
} from '#core/sound';
import { SampleBank } from './sampleBank';
import { Speaker } from './speaker';
import tickerUrl from './ticker.worker.ts?worker&url';

/** What is to be played; it may be replaced while it plays. */
export interface Score extends Playback {
  meter: Meter;
  loop: Span | null;
  levels: Levels;
  /** A share of the tempo: 1, or a half, or a quarter. */
  speed: number;
  /** Turn by turn faster, where it loops. */
  ramp: Ramp | null;
}

/** Where we are: the tick that is heard, below `start` during a count-in. */
export interface Position {
  tick: Ticks;
  countIn: boolean;
  /** The first tick of the music. */
  start: Ticks;
  /** Pulses a minute at this moment. */
  tempo: number;
}

/** Seconds by which strikes are handed to the audio clock ahead of time. */
const AHEAD = 0.35;
const TICKER_MS = 25;
const FIRST_SOUND_AFTER = 0.08;
/** Clicks remembered, for measuring how late they are heard. */
const CLICKS_KEPT = 64;

const ALWAYS: Sound[] = [
  ...(['bar', 'group', 'beat'] as const).map((weight): Sound => ({ kind: 'click', weight })),
  { kind: 'word', syllables: 1 },
  { kind: 'word', syllables: 2 },
];
/** The pieces of a kit that a groove may ask for. */
const KIT: Sound[] = (['kick', 'snare', 'rim', 'hat', 'open-hat', 'shaker', 'clap'] as const).map(
  (piece) => ({ kind: 'drum', piece }),
);

/** Where the music ends, in ticks: a fermata rings on after the last bar. */
function endOf({ performance }: Score): Ticks {
  return performance.ticks + performance.tail;
}

/** Plays a score on the audio clock. */
export class Engine {
  private context: AudioContext | null = null;
  private bank!: SampleBank;
  private speaker!: Speaker;
  private ticker: Worker | null = null;
  private transport: Transport | null = null;
  private score: Score | null = null;
  private spoken: number[] = [];
  private cues: CueState = BEFORE_ALL;
  /** The bar that the count-in leads into. */
  private into: CountedBar | undefined;
  /** Clicks that were handed out lately, in seconds of the audio clock. */
  private clicks: Seconds[] = [];
  /** Starts and stops so far: a start that is overtaken by another, or by a stop, comes to nothing. */
  private asked = 0;
  /** Seconds between what the clock says and what is heard, besides what the device tells. */
  latency: Seconds = 0;

  /** @param onFinished called when the song has come to its end */
  constructor(private readonly onFinished: () => void) {}

  private ready(): AudioContext {
    if (this.context) return this.context;
    const context = new AudioContext({ latencyHint: 'interactive' });
    this.bank = new SampleBank(context);
    this.speaker = new Speaker(context, this.bank, context.destination);
    this.ticker = new Worker(tickerUrl, { type: 'module' });
    this.ticker.onmessage = () => this.schedule();
    this.context = context;
    return context;
  }

  private prepare(score: Score): Promise<void> {
    const kit = score.groove ? KIT : [];
    return this.bank.prepare([...ALWAYS, ...kit, ...soundsOf(score.performance, score.family)]);
  }

  /** Pulses a minute in a turn of the loop. */
  private tempoOf({ performance, speed, ramp, loop }: Score, turn: number): number {
    const { tempo } = performance;
    return speed * (ramp && loop ? rampTempo(tempo, ramp, turn) : tempo);
  }

  private perTick(score: Score, turn: number): SecondsPerTick {
    return secondsPerTick(this.tempoOf(score, turn), score.meter);
  }

  /**
   * Starts to play.
   * @param from first tick of the music
   * @param countInBars bars counted before it
   * @returns false where it was stopped, or something else was started, before its sounds were ready
   */
  async start(score: Score, from: Ticks, countInBars: number): Promise<boolean> {
    this.asked += 1;
    const mine = this.asked;
    const context = this.ready();
    this.score = score;
    const { bars } = score.performance;
    const first = itemAt(bars, from) ?? bars[0]!;
    this.into = first;
    this.cues = { ...this.cues, clicked: BEFORE_ALL.clicked };
    this.clicks = [];
    this.speaker.mix(score.levels);
    await Promise.all([context.resume(), this.prepare(score)]);
    if (mine !== this.asked) return false;
    this.transport = startTransport({
      time: context.currentTime + FIRST_SOUND_AFTER,
      from,
      countIn: countInTicks(countInBars, first),
      secondsPerTick: this.perTick(score, 0),
      loop: score.loop,
      songEnd: endOf(score),
    });
    this.ticker?.postMessage(TICKER_MS);
    this.schedule();
    return true;
  }

  stop(): void {
    this.asked += 1;
    this.transport = null;
    this.ticker?.postMessage(null);
    this.spoken.forEach((timer) => clearTimeout(timer));
    if (this.spoken.length > 0) window.speechSynthesis.cancel();
    this.spoken = [];
    this.cues = { ...this.cues, rings: { ...BEFORE_ALL.rings, next: this.cues.rings.next } };
    if (this.context) this.speaker.silence(this.context.currentTime);
  }

  /** Takes a changed score; what has been handed to the audio clock still sounds as it was. */
  update(score: Score): void {
    const before = this.score;
    this.score = score;
    if (!this.context || !this.transport) return;
    this.speaker.mix(score.levels);
    const same = before?.performance === score.performance && before.groove === score.groove;
    if (!same) void this.prepare(score);
    this.transport = changeTempo(this.transport, this.perTick(score, this.transport.turn));
    const ticks = endOf(score);
    const loop = before?.loop;
    const moved = loop?.from !== score.loop?.from || loop?.to !== score.loop?.to;
    if (moved || ticks !== this.transport.songEnd) {
      const barEnd = (tick: Ticks) => {
        const bar = itemAt(score.performance.bars, tick);
        return bar ? bar.tick + bar.ticks : ticks;
      };
      this.transport = changeLoop(this.transport, score.loop, ticks, barEnd);
    }
  }

  /** The moment of the audio clock that is heard now, in seconds. */
  private heardNow(context: AudioContext): Seconds {
    return context.currentTime - (context.outputLatency || 0) - this.latency;
  }

  /** Where we are, as it is heard; null where nothing plays. */
  position(): Position | null {
    const { context, transport, score } = this;
    if (!context || !transport || !score) return null;
    const tick = tickAt(transport, this.heardNow(context));
    const { countInUntil: start, turn } = transport;
    return { tick, countIn: tick < start, start, tempo: this.tempoOf(score, turn) };
  }

  /** The audio clock now, and the clicks that were handed to it; for measuring how late they are heard. */
  clock(): { now: Seconds; clicks: Seconds[]; device: Seconds } {
    const { context } = this;
    if (!context) return { now: 0, clicks: [], device: 0 };
    return { now: context.currentTime, clicks: this.clicks, device: context.outputLatency || 0 };
  }

  /**
   * Says a word through the browser's voice, as near to a moment of the audio clock as it can.
   * @returns false where the browser has no voice
   */
  private speak(word: string, time: Seconds): boolean {
    const voices = window.speechSynthesis?.getVoices() ?? [];
    if (voices.length === 0 || !this.context) return false;
    const utterance = new SpeechSynthesisUtterance(word);
    utterance.rate = 1.6;
    const wait = Math.max(0, (time - this.context.currentTime) * 1000);
    this.spoken.push(window.setTimeout(() => window.speechSynthesis.speak(utterance), wait));
    return true;
  }

  private schedule(): void {
    const { context, score } = this;
    if (!context || !this.transport || !score) return;
    const climbs = score.ramp !== null && score.loop !== null;
    const turnTempo = climbs ? (turn: number) => this.perTick(score, turn) : null;
    const { transport, windows } = advance(this.transport, context.currentTime + AHEAD, turnTempo);
    this.transport = transport;
    windows.forEach((window) => this.fill(window, score));
    if (transport.finished && tickAt(transport, context.currentTime) >= transport.songEnd) {
      this.stop();
      this.onFinished();
    }
  }

  private fill({ from, to, time, secondsPerTick: perTick, countIn }: Window, score: Score): void {
    const at = (tick: Ticks) => time + (tick - from) * perTick;
    const into = countIn ? this.into : undefined;
    const given = nextCues(this.cues, score, { from, to, at, into }, (word, when) =>
      this.speak(word.word, when),
    );
    this.cues = given.state;
    this.clicks = [...this.clicks, ...given.clicks].slice(-CLICKS_KEPT);
    this.speaker.carry(given.cues);
  }
}
