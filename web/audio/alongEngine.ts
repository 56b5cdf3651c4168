import { modulo, type Seconds, type Ticks } from '#core/plain';
import { pulseTicks } from '#core/time';
import { clickLevel } from '#core/arrange';
import {
  BEFORE_ALL,
  cueClick,
  type CueState,
  type Levels,
  nextCues,
  type Playback,
  soundsOf,
} from '#core/sound';
import { type Laid, type LaidPiece, pulsesPerBar, secondsOf, tickOf } from '#core/along';
import { PitchShift } from './pitchShift';
import { SampleBank } from './sampleBank';
import { Speaker } from './speaker';

/** What is played along with a recording. */
export interface AlongScore extends Playback {
  laid: Laid;
  levels: Levels;
}

/** Seconds by which strikes are handed to the audio clock ahead of time. */
const AHEAD = 0.4;
const EVERY_MS = 60;
/** The place of a recording jumps by more than this only where somebody has moved it. */
const JUMP = 0.12;
const FIRST_CLICK_AFTER = 0.08;
const CLICKS = (['bar', 'group', 'beat'] as const).map((weight) => ({
  kind: 'click' as const,
  weight,
}));

/**
 * Seconds of the recording by which it is heard ahead of the place that the media element tells, where it is played
 * at its own pitch but not at its own speed: measured in Chromium against the strokes of a recording, at 40 to 110 %.
 */
export function stretchLead(rate: number): number {
  if (rate === 1) return 0;
  return rate < 1 ? 0.021 : 0.006;
}

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
  private shifted: PitchShift | null = null;
  private counted: (() => void) | null = null;
  /** Seconds by which the recording is heard after its own clock. */
  behind = 0;

  constructor(private readonly media: HTMLMediaElement) {}

  private ready(): AudioContext {
    if (this.context) return this.context;
    const context = new AudioContext({ latencyHint: 'interactive' });
    this.bank = new SampleBank(context);
    this.speaker = new Speaker(context, this.bank, context.destination);
    this.context = context;
    return context;
  }

  /** @param semitones by which the recording is to sound higher; it goes through the audio clock from then on */
  async shift(semitones: number): Promise<void> {
    if (semitones === 0 && !this.shifted) return;
    const context = this.ready();
    if (!this.shifted) {
      this.shifted = new PitchShift(context);
      context.createMediaElementSource(this.media).connect(this.shifted.input);
      this.shifted.output.connect(context.destination);
    }
    this.shifted.set(semitones);
    this.behind = semitones === 0 ? 0 : PitchShift.delay;
    await context.resume();
  }

  /**
   * Clicks once a pulse and then says so; the last pulse has its full length.
   * @param pulses clicks, and the seconds of each
   */
  async countIn(pulses: number, seconds: Seconds, levels: Levels): Promise<void> {
    const context = this.ready();
    await context.resume();
    await this.bank.prepare([...CLICKS]);
    this.speaker.mix(levels);
    const start = context.currentTime + FIRST_CLICK_AFTER;
    let { rings } = this.cues;
    for (let pulse = 0; pulse < pulses; pulse += 1) {
      const weight = pulse === 0 ? ('bar' as const) : ('beat' as const);
      const beat = { tick: 0, bar: 0, number: pulse, back: false, weight };
      const cued = cueClick(rings, beat, start + pulse * seconds);
      rings = cued.rings;
      this.speaker.carry(cued.cues);
    }
    this.cues = { ...this.cues, rings };
    const wait = (start + pulses * seconds - context.currentTime) * 1000;
    await new Promise<void>((resolve) => {
      this.counted = resolve;
      window.setTimeout(resolve, wait);
    });
    this.counted = null;
  }

  /** Breaks a count-in off. */
  quietCount(): void {
    if (!this.counted || !this.context) return;
    this.speaker.silence(this.context.currentTime);
    this.counted();
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
    const place = media.currentTime + stretchLead(rate);
    const offset = context.currentTime + this.behind - place / rate;
    if (this.offset === null || Math.abs(offset - this.offset) > JUMP) {
      this.quiet();
      this.offset = offset;
      this.given = Math.ceil(tickOf(score.laid.map, media.currentTime));
    } else {
      // The place of the recording is told in steps: a slow mean of it is steadier than any one.
      this.offset += 0.1 * (offset - this.offset);
    }
    const until = Math.floor(tickOf(score.laid.map, media.currentTime + AHEAD * rate));
    if (until <= this.given) return;
    for (const piece of score.laid.pieces) {
      const [from, to] = [Math.max(this.given, piece.from), Math.min(until, piece.to)];
      if (from < to) this.give(score, piece, from, to);
    }
    this.given = until;
  }

  /** Hands over what sounds in some ticks of the recording: the song where it is played, else the click alone. */
  private give(score: AlongScore, { shift }: LaidPiece, from: Ticks, to: Ticks): void {
    const { map } = score.laid;
    const base = this.offset!;
    const rate = this.media.playbackRate;
    const now = this.context!.currentTime;
    const at = (tick: Ticks) => Math.max(now, base + secondsOf(map, tick) / rate);
    if (shift !== null) {
      const last = score.performance.ticks;
      const window = { from: Math.max(0, from + shift), to: Math.min(last, to + shift) };
      if (window.from >= window.to) return;
      const { state, cues } = nextCues(this.cues, score, {
        ...window,
        at: (tick) => at(tick - shift),
      });
      this.cues = state;
      this.speaker.carry(cues);
      return;
    }
    if (!score.click) return;
    const ticks = pulseTicks(map.meter);
    for (let pulse = Math.ceil(from / ticks); pulse * ticks < to; pulse += 1) {
      const number = modulo(pulse, pulsesPerBar(map.meter));
      const weight = number === 0 ? ('bar' as const) : ('beat' as const);
      const beat = { tick: pulse * ticks, bar: -1, number, back: false, weight };
      const level = clickLevel(score.click, beat, 0);
      if (level === 0) continue;
      const cued = cueClick(this.cues.rings, beat, at(beat.tick), level);
      this.cues = { ...this.cues, rings: cued.rings };
      this.speaker.carry(cued.cues);
    }
  }
}
