/** Hands on what the microphone gives, in blocks of some 20 ms: a stroke is seen soon after it is played. */

const BLOCK = 1024;

/** Samples, and the frame of the audio clock at which they begin. */
export interface Block {
  samples: Float32Array<ArrayBuffer>;
  frame: number;
}

declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare const currentFrame: number;
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

class CaptureProcessor extends AudioWorkletProcessor {
  private block = new Float32Array(BLOCK);
  private filled = 0;
  private frame = 0;

  process(inputs: Float32Array[][]): boolean {
    const [channels] = inputs;
    const length = channels?.[0]?.length ?? 0;
    for (let at = 0; at < length; at += 1) {
      if (this.filled === 0) this.frame = currentFrame + at;
      let sum = 0;
      for (const channel of channels!) sum += channel[at]!;
      this.block[this.filled] = sum / channels!.length;
      this.filled += 1;
      if (this.filled === BLOCK) {
        const block: Block = { samples: this.block, frame: this.frame };
        this.port.postMessage(block, [this.block.buffer]);
        this.block = new Float32Array(BLOCK);
        this.filled = 0;
      }
    }
    return true;
  }
}

registerProcessor('capture', CaptureProcessor);
