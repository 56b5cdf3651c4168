import {
  BEFORE_ALL,
  type BeatMap,
  type CueState,
  type Levels,
  nextCues,
  type Playback,
  secondsOf,
  soundsOf,
  tickOf,
} from '#core';
import { SampleBank } from './sampleBank';
import { Speaker } from './speaker';

/** What is played along with a recording. */
export interface AlongScore extends Playback {
  map: BeatMap;
  levels: Levels;
}

/** Seconds by which strikes are handed to the audio clock ahead of time. */
const AHEAD = 0.4;
const EVERY_MS = 60;
/** The place of a recording jumps by more than this only where somebody has moved it. */
const JUMP = 0.12;
const CLICKS = (['bar', 'group', 'beat'] as const).map((weight) => ({
  kind: 'click' as const,
  weight,
}));

/** Plays the song's own part on the beats of a recording, whatever its speed. */
export class AlongEngine {
  private context: AudioContext | null = null;
  private bank!: SampleBank;
  private speaker!: Speaker;
  private timer: number | null = null;
  private score: AlongScore | null = null;
  private cues: CueState = BEFORE_ALL;
  /** Up to which tick cues were given, and where the recording was then against the audio clock. */
  private given = 0;
  private offset: number | null = null;

  constructor(private readonly media: HTMLMediaElement) {}

  private ready(): AudioContext {
    if (this.context) return this.context;
    const context = new AudioContext({ latencyHint: 'interactive' });
    this.bank = new SampleBank(context);
    this.speaker = new Speaker(context, this.bank, context.destination);
    this.context = context;
    return context;
  }

  async start(score: AlongScore): Promise<void> {
    const context = this.ready();
    this.score = score;
    await context.resume();
    await this.bank.prepare([...CLICKS, ...soundsOf(score.performance, score.family)]);
    this.speaker.mix(score.levels);
    this.offset = null;
    this.timer ??= window.setInterval(() => this.schedule(), EVERY_MS);
  }

  update(score: AlongScore): void {
    const changed = this.score?.performance !== score.performance;
    this.score = score;
    if (!this.context) return;
    this.speaker.mix(score.levels);
    if (changed) void this.bank.prepare(soundsOf(score.performance, score.family));
  }

  stop(): void {
    if (this.timer !== null) window.clearInterval(this.timer);
    this.timer = null;
    this.quiet();
  }

  private quiet(): void {
    this.cues = { ...BEFORE_ALL, rings: { ...BEFORE_ALL.rings, next: this.cues.rings.next } };
    if (this.context) this.speaker.silence(this.context.currentTime);
    this.offset = null;
  }

  private schedule(): void {
    const { context, score, media } = this;
    if (!context || !score) return;
    if (media.paused) {
      if (this.offset !== null) this.quiet();
      return;
    }
    const rate = media.playbackRate;
    // Seconds of the audio clock at which the recording would be at its beginning, at this speed.
    const offset = context.currentTime - media.currentTime / rate;
    if (this.offset === null || Math.abs(offset - this.offset) > JUMP) {
      this.quiet();
      this.offset = offset;
      this.given = Math.max(0, Math.ceil(tickOf(score.map, media.currentTime)));
    } else {
      // The place of the recording is told in steps: a slow mean of it is steadier than any one.
      this.offset += 0.1 * (offset - this.offset);
    }
    const base = this.offset;
    const until = Math.min(
      score.performance.ticks,
      Math.floor(tickOf(score.map, media.currentTime + AHEAD * rate)),
    );
    if (until <= this.given) return;
    const at = (tick: number) =>
      Math.max(context.currentTime, base + secondsOf(score.map, tick) / rate);
    const { state, cues } = nextCues(this.cues, score, { from: this.given, to: until, at });
    this.cues = state;
    this.given = until;
    this.speaker.carry(cues);
  }
}
