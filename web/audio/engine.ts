import {
  advance,
  barTicks,
  changeLoop,
  changeTempo,
  clickBeats,
  firstFrom,
  type Family,
  type Meter,
  type Performance,
  secondsPerTick,
  type Span,
  startTransport,
  tickAt,
  type Transport,
  type Window,
} from '#core';
import { SampleBank } from './sampleBank';
import { Strings } from './strings';

/** What is to be played; it may be replaced while it plays. */
export interface Score {
  performance: Performance;
  meter: Meter;
  family: Family;
  loop: Span | null;
  click: boolean;
}

/** Seconds by which strikes are handed to the audio clock ahead of time. */
const AHEAD = 0.25;
const TICKER_MS = 25;
const FIRST_SOUND_AFTER = 0.08;

/** Plays a score on the audio clock. */
export class Engine {
  private context: AudioContext | null = null;
  private bank!: SampleBank;
  private strings!: Strings;
  private master!: GainNode;
  private ticker: Worker | null = null;
  private transport: Transport | null = null;
  private score: Score | null = null;

  /** @param onFinished called when the song has come to its end */
  constructor(private readonly onFinished: () => void) {}

  private ready(): AudioContext {
    if (this.context) return this.context;
    const context = new AudioContext({ latencyHint: 'interactive' });
    this.master = new GainNode(context, { gain: 0.7 });
    const limiter = new DynamicsCompressorNode(context, {
      threshold: -10,
      ratio: 12,
      attack: 0.002,
      release: 0.12,
    });
    this.master.connect(limiter).connect(context.destination);
    this.bank = new SampleBank(context);
    this.strings = new Strings(context, this.bank, this.master);
    this.ticker = new Worker(new URL('./ticker.worker.ts', import.meta.url), { type: 'module' });
    this.ticker.onmessage = () => this.schedule();
    this.context = context;
    return context;
  }

  private prepare(score: Score): Promise<void> {
    const notes = score.performance.strikes.flatMap((strike) => strike.notes);
    return this.bank.prepare(
      score.family,
      notes.map((note) => note.midi),
    );
  }

  private perTick(score: Score): number {
    return secondsPerTick(score.performance.tempo, score.meter);
  }

  /**
   * Starts to play.
   * @param from first tick of the music
   * @param countInBars bars counted before it
   */
  async start(score: Score, from: number, countInBars: number): Promise<void> {
    const context = this.ready();
    this.score = score;
    await Promise.all([context.resume(), this.prepare(score)]);
    this.transport = startTransport({
      time: context.currentTime + FIRST_SOUND_AFTER,
      from,
      countIn: countInBars * barTicks(score.meter),
      secondsPerTick: this.perTick(score),
      loop: score.loop,
      songEnd: score.performance.ticks,
    });
    this.ticker?.postMessage(TICKER_MS);
    this.schedule();
  }

  stop(): void {
    this.transport = null;
    this.ticker?.postMessage(null);
    if (this.context) this.strings.stop(this.context.currentTime);
  }

  /** Takes a changed score; what has been handed to the audio clock still sounds as it was. */
  update(score: Score): void {
    const before = this.score;
    this.score = score;
    if (!this.context || !this.transport) return;
    void this.prepare(score);
    this.transport = changeTempo(this.transport, this.perTick(score));
    const { ticks } = score.performance;
    const loop = before?.loop;
    const moved = loop?.from !== score.loop?.from || loop?.to !== score.loop?.to;
    if (moved || ticks !== this.transport.songEnd) {
      const bar = barTicks(score.meter);
      const barEnd = (tick: number) => (Math.floor(tick / bar) + 1) * bar;
      this.transport = changeLoop(this.transport, score.loop, ticks, barEnd);
    }
  }

  /** The tick that is heard now; below the first tick of the music during a count-in. */
  position(): { tick: number; countIn: boolean } | null {
    const { context, transport } = this;
    if (!context || !transport) return null;
    const heard = context.currentTime - (context.outputLatency || 0);
    const tick = tickAt(transport, heard);
    return { tick, countIn: tick < transport.countInUntil };
  }

  private schedule(): void {
    const { context, score } = this;
    if (!context || !this.transport || !score) return;
    const { transport, windows } = advance(this.transport, context.currentTime + AHEAD);
    this.transport = transport;
    windows.forEach((window) => this.fill(window, score));
    if (transport.finished && tickAt(transport, context.currentTime) >= transport.songEnd) {
      this.stop();
      this.onFinished();
    }
  }

  private fill(window: Window, score: Score): void {
    const at = (tick: number) => window.time + (tick - window.from) * window.secondsPerTick;
    if (window.countIn || score.click) {
      for (const beat of clickBeats(score.meter, window.from, window.to)) {
        this.strings.click(beat.weight, at(beat.tick));
      }
    }
    if (window.countIn) return;
    const { strikes, landings } = score.performance;
    const inWindow = <T extends { tick: number }>(items: T[]) =>
      items.slice(firstFrom(items, window.from), firstFrom(items, window.to));
    const arriving = inWindow(landings);
    // The hand leaves its strings as a chord lands; the strike on the landing comes after.
    const leaveUntil = (tick: number) => {
      while (arriving[0] && arriving[0].tick <= tick)
        this.strings.silence(at(arriving.shift()!.tick));
    };
    for (const strike of inWindow(strikes)) {
      leaveUntil(strike.tick);
      this.strings.play(strike, score.family, at(strike.tick));
    }
    leaveUntil(window.to);
  }
}
