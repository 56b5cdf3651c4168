/** Hands on what the microphone gives, in blocks large enough not to crowd the page. */

const BLOCK = 4096;

declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

class CaptureProcessor extends AudioWorkletProcessor {
  private block = new Float32Array(BLOCK);
  private filled = 0;

  process(inputs: Float32Array[][]): boolean {
    const [channels] = inputs;
    const length = channels?.[0]?.length ?? 0;
    for (let at = 0; at < length; at += 1) {
      let sum = 0;
      for (const channel of channels!) sum += channel[at]!;
      this.block[this.filled] = sum / channels!.length;
      this.filled += 1;
      if (this.filled === BLOCK) {
        this.port.postMessage(this.block, [this.block.buffer]);
        this.block = new Float32Array(BLOCK);
        this.filled = 0;
      }
    }
    return true;
  }
}

registerProcessor('capture', CaptureProcessor);
