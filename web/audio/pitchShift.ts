/** Seconds of sound that a delay runs through in one turn: long enough for low strings, short enough for strokes. */
const WINDOW = 0.09;
/** A curve of one turn, one window long: `at` is given its place in the turn, 0 to 1. */
function curve(context: BaseAudioContext, at: (place: number) => number): AudioBuffer {
  const length = Math.round(context.sampleRate * WINDOW);
  const buffer = context.createBuffer(1, length, context.sampleRate);
  const samples = Float32Array.from({ length }, (_, index) => at(index / length));
  buffer.copyToChannel(samples, 0);
  return buffer;
}
/** Silent where the delay jumps back; with that of half a turn later it makes one. */
const faded = (place: number) => Math.sin(Math.PI * place) ** 2;

/**
 * Shifts the pitch of what goes through it without changing its speed: two delays whose lengths run through a
 * window, half a turn apart, each faded out as it jumps back.
 * @example media.connect(shift.input); shift.output.connect(context.destination); shift.set(-2)
 */
export class PitchShift {
  readonly input: GainNode;
  readonly output: GainNode;
  private turning: AudioBufferSourceNode[] = [];

  constructor(private readonly context: AudioContext) {
    this.input = context.createGain();
    this.output = context.createGain();
  }

  /** Seconds by which what comes out is later than what went in, on the mean. */
  static readonly delay = WINDOW / 2;

  /** @param semitones by which it sounds higher, or lower where it is negative; 0 lets it through as it is */
  set(semitones: number): void {
    this.turning.forEach((source) => source.stop());
    this.turning = [];
    this.input.disconnect();
    if (semitones === 0) {
      this.input.connect(this.output);
      return;
    }
    const ratio = 2 ** (semitones / 12);
    // A delay that changes by (1 - ratio) seconds a second is heard at that ratio of its pitch.
    const windowsASecond = Math.abs(1 - ratio);
    const ramp = curve(this.context, (place) => (ratio > 1 ? 1 - place : place));
    const fade = curve(this.context, faded);
    for (const half of [0, 0.5]) {
      const delay = this.context.createDelay(1);
      delay.delayTime.value = 0;
      const depth = this.context.createGain();
      depth.gain.value = WINDOW;
      const loud = this.context.createGain();
      loud.gain.value = 0;
      const turn = (buffer: AudioBuffer, to: AudioNode | AudioParam) => {
        const source = this.context.createBufferSource();
        source.buffer = buffer;
        source.loop = true;
        // A turn lasts as long as the delay needs to run through the window.
        source.playbackRate.value = windowsASecond;
        if (to instanceof AudioParam) source.connect(to);
        else source.connect(to);
        source.start(this.context.currentTime, half * WINDOW);
        this.turning.push(source);
      };
      turn(ramp, depth);
      depth.connect(delay.delayTime);
      turn(fade, loud.gain);
      this.input.connect(delay).connect(loud).connect(this.output);
    }
  }
}
