import type { Family, Strike } from '#core';
import type { SampleBank } from './sampleBank';

interface Voice {
  source: AudioBufferSourceNode;
  gain: GainNode;
}

/** Seconds in which a stopped string falls silent: short, but too long to click. */
const CHOKE = 0.006;
const STRUM_GAIN = 0.5;
const CHUCK_GAIN = 0.9;
const CLICK_GAIN = 0.6;

/** The strings of the instrument on the audio clock: one voice a string, a new pluck chokes the old. */
export class Strings {
  private readonly ringing = new Map<number, Voice>();
  /** Clicks and chucks on their way; they belong to no string. */
  private readonly loose = new Set<Voice>();

  constructor(
    private readonly context: AudioContext,
    private readonly bank: SampleBank,
    private readonly out: AudioNode,
  ) {}

  private start(buffer: AudioBuffer, time: number, level: number): Voice {
    const source = new AudioBufferSourceNode(this.context, { buffer });
    const gain = new GainNode(this.context, { gain: level });
    source.connect(gain).connect(this.out);
    source.start(time);
    const voice = { source, gain };
    source.onended = () => {
      gain.disconnect();
      this.loose.delete(voice);
    };
    return voice;
  }

  private choke(string: number, time: number): void {
    const voice = this.ringing.get(string);
    if (!voice) return;
    this.ringing.delete(string);
    voice.gain.gain.setTargetAtTime(0, time, CHOKE);
    voice.source.stop(time + CHOKE * 8);
  }

  /** Stops every string at a moment of the audio clock, in seconds. */
  silence(time: number): void {
    [...this.ringing.keys()].forEach((string) => this.choke(string, time));
  }

  /** Takes back everything that sounds or was handed out ahead. */
  stop(time: number): void {
    this.silence(time);
    this.loose.forEach(({ source }) => source.stop(time));
    this.loose.clear();
  }

  /** Schedules a strike at a moment of the audio clock, in seconds. */
  play(strike: Strike, family: Family, time: number): void {
    strike.damps.forEach((string) => this.choke(string, time));
    const damped = strike.kind === 'chuck' ? this.bank.hit('chuck') : undefined;
    if (damped) this.loose.add(this.start(damped, time, strike.velocity * CHUCK_GAIN));
    for (const { string, midi, delay, velocity } of strike.notes) {
      const buffer = this.bank.pluck(family, midi);
      if (!buffer) continue;
      this.choke(string, time + delay);
      this.ringing.set(string, this.start(buffer, time + delay, velocity ** 1.5 * STRUM_GAIN));
    }
  }

  click(weight: 'bar' | 'group' | 'beat', time: number): void {
    const buffer = this.bank.hit(weight);
    if (buffer) this.loose.add(this.start(buffer, time, CLICK_GAIN));
  }
}
