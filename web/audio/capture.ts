import type { Recording } from '#core';
import workletUrl from './capture.worklet.ts?worker&url';

/** Why nothing can be heard through a microphone, in one sentence with the other ways. */
export function whyNot(error: unknown): string {
  const name = error instanceof DOMException ? error.name : '';
  const others = 'A sound file, taps and the example player work without one.';
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

/** What the microphone gives while a take is played. */
export class Capture {
  private readonly blocks: Float32Array[] = [];
  private samples = 0;
  private constructor(
    private readonly context: AudioContext,
    private readonly stream: MediaStream,
    private readonly node: AudioWorkletNode,
  ) {}

  /**
   * Opens the microphone as it is: nothing that a call would do to a voice is done to strings.
   * @param heard called with the level of each block, 0 to 1, and whether it was clipped
   * @param lost called where the device goes away
   * @throws what the browser gives as the reason
   */
  static async open(
    heard: (level: number, clipped: boolean) => void,
    lost: () => void,
    deviceId?: string,
  ): Promise<Capture> {
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
      node.port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
        capture.take(data);
        let most = 0;
        for (const value of data) most = Math.max(most, Math.abs(value));
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

  private take(block: Float32Array): void {
    if (this.samples > LONGEST * this.context.sampleRate) return;
    this.blocks.push(block);
    this.samples += block.length;
  }

  /** How long it has listened, in seconds. */
  get seconds(): number {
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
    throw new Error('This file is no sound that this browser can read. WAV always works.');
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
