import type { Seconds } from '#core/plain';
import { liveOnsets, type LiveStroke, type Recording } from '#core/take';
import type { Block } from './capture.worklet';
import workletUrl from './capture.worklet.ts?worker&url';

/**
 * Why nothing can be heard through a microphone, in one sentence with the other ways.
 * @param others what works without one
 */
export function whyNot(
  error: unknown,
  others = 'A sound file, taps and the example player work without one.',
): string {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotAllowedError') {
    return `The browser was not allowed to use the microphone; allow it beside the address. ${others}`;
  }
  if (name === 'NotFoundError') return `No microphone was found. ${others}`;
  if (name === 'NotReadableError') return `The microphone is in use by another program. ${others}`;
  return `The microphone cannot be used here. ${others}`;
}

/** The most of a take that is kept, in seconds. */
const LONGEST = 15 * 60;
/** From here on the sound is cut off at the top. */
const CLIPPED = 0.985;

/** A click that is played to be heard by the microphone. */
const CLICK = { hertz: 1500, seconds: 0.03, gain: 0.7 };

/** What wants to know what the microphone gives, as it comes. */
export interface Listening {
  /** The level of each block, 0 to 1, and whether it was clipped. */
  heard: (level: number, clipped: boolean) => void;
  /** The device went away. */
  lost: () => void;
  /** A stroke, and how many seconds ago it began. */
  struck?: (stroke: LiveStroke, ago: Seconds) => void;
}

/** What the microphone gives while a take is played. */
export class Capture {
  private readonly blocks: Float32Array[] = [];
  private samples = 0;
  /** Samples that the device did not give, between those that it gave. */
  dropped = 0;
  /** The frame of the audio clock of the first sample. */
  private firstFrame: number | null = null;
  private constructor(
    private readonly context: AudioContext,
    private readonly stream: MediaStream,
    private readonly node: AudioWorkletNode,
  ) {}

  /**
   * Opens the microphone as it is: nothing that a call would do to a voice is done to strings.
   * @param deviceId the one that is wanted; the browser's choice where it is left out
   * @throws what the browser gives as the reason
   */
  static async open({ heard, lost, struck }: Listening, deviceId?: string): Promise<Capture> {
    const stream = await navigator.mediaDevices.getUserMedia({
      audio: {
        echoCancellation: false,
        noiseSuppression: false,
        autoGainControl: false,
        // One that is no longer there is passed over, and the browser chooses.
        ...(deviceId && { deviceId: { ideal: deviceId } }),
      },
    });
    const context = new AudioContext();
    try {
      await context.audioWorklet.addModule(workletUrl);
      await context.resume();
      const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 });
      const capture = new Capture(context, stream, node);
      const strokes =
        struck &&
        liveOnsets(context.sampleRate, (stroke) =>
          struck(stroke, capture.seconds - stroke.seconds),
        );
      node.port.onmessage = ({ data: { samples, frame } }: MessageEvent<Block>) => {
        capture.take(samples, frame);
        strokes?.(samples);
        let most = 0;
        for (const value of samples) most = Math.max(most, Math.abs(value));
        heard(Math.min(1, most), most >= CLIPPED);
      };
      stream.getAudioTracks().forEach((track) => track.addEventListener('ended', lost));
      context.createMediaStreamSource(stream).connect(node);
      return capture;
    } catch (error) {
      stream.getTracks().forEach((track) => track.stop());
      await context.close();
      throw error;
    }
  }

  private take(block: Float32Array, frame: number): void {
    if (this.samples > LONGEST * this.context.sampleRate) return;
    this.firstFrame ??= frame;
    // What the device left out is silence: what comes after it stays where it was played.
    const missing = frame - this.firstFrame - this.samples;
    if (missing > 0) {
      this.blocks.push(new Float32Array(missing));
      this.samples += missing;
      this.dropped += missing;
    }
    this.blocks.push(block);
    this.samples += block.length;
  }

  /**
   * Plays clicks on the clock of this microphone.
   * @param after seconds from now
   * @returns the seconds of the recording at which they are given to the device; empty before it has begun
   */
  clicks(after: readonly Seconds[]): Seconds[] {
    const { context, firstFrame } = this;
    if (firstFrame === null) return [];
    const now = context.currentTime;
    return after.map((seconds) => {
      const at = now + seconds;
      const tone = new OscillatorNode(context, { frequency: CLICK.hertz });
      const fade = new GainNode(context, { gain: 0 });
      fade.gain.setValueAtTime(CLICK.gain, at);
      fade.gain.exponentialRampToValueAtTime(0.001, at + CLICK.seconds);
      tone.connect(fade).connect(context.destination);
      tone.start(at);
      tone.stop(at + CLICK.seconds);
      return at - firstFrame / context.sampleRate;
    });
  }

  /** Seconds that the device says it needs until what it is given is heard. */
  get outputLatency(): Seconds {
    return this.context.outputLatency || 0;
  }

  /** How long it has listened, in seconds. */
  get seconds(): Seconds {
    return this.samples / this.context.sampleRate;
  }

  /** The last samples that were heard; fewer at the start. */
  latest(count: number): Recording {
    const samples = new Float32Array(count);
    let left = count;
    for (let index = this.blocks.length - 1; index >= 0 && left > 0; index -= 1) {
      const block = this.blocks[index]!;
      const part = block.subarray(Math.max(0, block.length - left));
      left -= part.length;
      samples.set(part, left);
    }
    return { samples: samples.subarray(Math.max(0, left)), sampleRate: this.context.sampleRate };
  }

  /** Closes the microphone and gives what it heard. */
  async close(): Promise<Recording> {
    this.stream.getTracks().forEach((track) => track.stop());
    this.node.port.onmessage = null;
    const { sampleRate } = this.context;
    await this.context.close();
    const samples = new Float32Array(this.samples);
    let at = 0;
    for (const block of this.blocks) {
      samples.set(block, at);
      at += block.length;
    }
    return { samples, sampleRate };
  }
}

/**
 * The sound of a file that the browser can decode, as one channel.
 * @param sampleRate samples a second that it is brought to
 * @throws Error with one sentence
 */
export async function decode(bytes: ArrayBuffer, sampleRate = 44_100): Promise<Recording> {
  const context = new OfflineAudioContext(1, 1, sampleRate);
  const buffer = await context.decodeAudioData(bytes).catch(() => {
    throw new Error('This file can’t be played here. WAV always works.');
  });
  const samples = new Float32Array(buffer.length);
  for (let channel = 0; channel < buffer.numberOfChannels; channel += 1) {
    const data = buffer.getChannelData(channel);
    data.forEach((value, index) => {
      samples[index] = samples[index]! + value / buffer.numberOfChannels;
    });
  }
  return { samples, sampleRate: buffer.sampleRate };
}
