import {
  type Channel,
  CHANNELS,
  CHOKE_SECONDS,
  CHOKE_TIMES,
  type Cue,
  type Levels,
  LIMITER_RANGE,
  limiterCurve,
  impulseResponse,
} from '#core/sound';
import type { SampleBank } from './sampleBank';

interface Voice {
  source: AudioBufferSourceNode;
  gain: GainNode;
}

/** Carries the cues of the desk out on the audio clock. */
export class Speaker {
  private readonly voices = new Map<number, Voice>();
  private readonly faders: Record<Channel, GainNode>;

  constructor(
    private readonly context: AudioContext,
    private readonly bank: SampleBank,
    out: AudioNode,
  ) {
    // The same limiter as in a file: it is scaled into the range of the curve.
    const scale = new GainNode(context, { gain: 1 / LIMITER_RANGE });
    const limiter = new WaveShaperNode(context, { curve: limiterCurve() });
    scale.connect(limiter).connect(out);
    const instruments = new GainNode(context);
    instruments.connect(scale);
    instruments.connect(this.room()).connect(scale);
    const fader = (into: AudioNode) => {
      const gain = new GainNode(context, { gain: 0 });
      gain.connect(into);
      return gain;
    };
    this.faders = {
      strings: fader(instruments),
      bass: fader(instruments),
      drums: fader(instruments),
      click: fader(scale),
    };
  }

  /** The same room as in a file: it takes both channels as one, and answers to either ear. */
  private room(): ConvolverNode {
    const { sampleRate } = this.context;
    const { left, right } = impulseResponse(sampleRate);
    const buffer = this.context.createBuffer(2, left.length, sampleRate);
    buffer.copyToChannel(left, 0);
    buffer.copyToChannel(right, 1);
    return new ConvolverNode(this.context, {
      buffer,
      disableNormalization: true,
      channelCount: 1,
      channelCountMode: 'explicit',
    });
  }

  /** Moves the faders; without a step that clicks. */
  mix(levels: Levels): void {
    const { currentTime } = this.context;
    for (const channel of CHANNELS) {
      this.faders[channel].gain.setTargetAtTime(levels[channel], currentTime, 0.015);
    }
  }

  carry(cues: Cue[]): void {
    for (const cue of cues) {
      if (cue.act === 'stop') {
        this.stop(cue.id, cue.time);
        continue;
      }
      const buffer = this.bank.buffer(cue.sound);
      if (!buffer) continue;
      const source = new AudioBufferSourceNode(this.context, { buffer });
      // A panner is 3 dB down in the middle; a file is not.
      const gain = new GainNode(this.context, {
        gain: cue.gain * (cue.pan === 0 ? 1 : Math.SQRT2),
      });
      const pan = cue.pan === 0 ? null : new StereoPannerNode(this.context, { pan: cue.pan });
      source.connect(gain);
      (pan ? gain.connect(pan) : gain).connect(this.faders[cue.channel]);
      source.start(cue.time);
      this.voices.set(cue.id, { source, gain });
      source.onended = () => {
        gain.disconnect();
        pan?.disconnect();
        this.voices.delete(cue.id);
      };
    }
  }

  private stop(id: number, time: number): void {
    const voice = this.voices.get(id);
    if (!voice) return;
    voice.gain.gain.setTargetAtTime(0, time, CHOKE_SECONDS);
    voice.source.stop(time + CHOKE_SECONDS * CHOKE_TIMES);
  }

  /** Takes back everything that sounds or was handed out ahead. */
  silence(time: number): void {
    for (const id of this.voices.keys()) this.stop(id, time);
    this.voices.clear();
  }
}
