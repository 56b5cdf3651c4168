/** Sound as it was recorded: one channel, between -1 and 1. */
export interface Recording {
  samples: Float32Array<ArrayBuffer>;
  sampleRate: number;
}

/** What is wrong with a file, with the byte where it is. */
export class NotSound extends Error {
  constructor(
    message: string,
    readonly byte: number,
  ) {
    super(message);
  }
}

const PCM = 1;
const FLOAT = 3;
/** The format is named in the extension of the chunk. */
const EXTENSIBLE = 0xfffe;
/** Floating point may go beyond 1, but not for ever. */
const LOUDEST = 4;
const [LOWEST_RATE, HIGHEST_RATE] = [4000, 192_000];

const tag = (view: DataView, at: number) =>
  String.fromCharCode(...[0, 1, 2, 3].map((index) => view.getUint8(at + index)));

type Read = (view: DataView, at: number) => number;
const READERS: Record<string, Read> = {
  '1/8': (view, at) => (view.getUint8(at) - 128) / 128,
  '1/16': (view, at) => view.getInt16(at, true) / 32_768,
  '1/24': (view, at) =>
    ((view.getInt8(at + 2) << 16) | (view.getUint8(at + 1) << 8) | view.getUint8(at)) / 8_388_608,
  '1/32': (view, at) => view.getInt32(at, true) / 2_147_483_648,
  '3/32': (view, at) => view.getFloat32(at, true),
  '3/64': (view, at) => view.getFloat64(at, true),
};

type Format = ReturnType<typeof readFormat>;

/** Where the sound of a file lies, and in what form. */
function findData(view: DataView): { format: Format; start: number; length: number } {
  const size = view.byteLength;
  if (size === 0) throw new NotSound('the file is empty', 0);
  if (size < 12 || tag(view, 0) !== 'RIFF' || tag(view, 8) !== 'WAVE') {
    throw new NotSound('it is no WAV file: it does not begin with RIFF and WAVE', 0);
  }
  let format: Format | null = null;
  for (let at = 12; at + 8 <= size;) {
    const name = tag(view, at);
    const length = view.getUint32(at + 4, true);
    const start = at + 8;
    if (name === 'fmt ') format = readFormat(view, start, length);
    if (name === 'data') {
      if (!format) throw new NotSound('its sound comes before it says what format it has', at);
      const there = Math.min(length, size - start);
      if (there < format.frame)
        throw new NotSound('it holds no sound: the data chunk is empty', at);
      return { format, start, length: there };
    }
    // Chunks of an odd size are followed by one byte that is not counted.
    at = start + length + (length % 2);
  }
  throw new NotSound(
    format ? 'it holds no sound: the data chunk is missing' : 'it does not say what format it has',
    size,
  );
}

const viewOf = (bytes: Uint8Array) =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/**
 * Looks whether bytes are a WAV file that can be read, without reading its sound.
 * @returns samples a second
 * @throws NotSound with what is wrong and where
 */
export function checkWav(bytes: Uint8Array): number {
  return findData(viewOf(bytes)).format.rate;
}

/**
 * Reads a WAV file: whole numbers of 8 to 32 bits or floating point, any number of channels, which become
 * one. A file that was cut off gives what is there; samples that are no numbers are silent.
 * @throws NotSound with what is wrong and where
 * @example readWav(bytes).sampleRate // 44100
 */
export function readWav(bytes: Uint8Array): Recording {
  const view = viewOf(bytes);
  const { format, start, length } = findData(view);
  const { code, channels, rate, bits, frame } = format;
  const count = Math.floor(length / frame);
  const read = READERS[`${code}/${bits}`]!;
  const width = bits / 8;
  const samples = new Float32Array(count);
  for (let index = 0; index < count; index += 1) {
    let sum = 0;
    for (let channel = 0; channel < channels; channel += 1) {
      const value = read(view, start + index * frame + channel * width);
      if (Number.isFinite(value)) sum += Math.max(-LOUDEST, Math.min(LOUDEST, value));
    }
    samples[index] = sum / channels;
  }
  return { samples, sampleRate: rate };
}

/**
 * How long the sound of a WAV file is, from its head alone.
 * @throws NotSound with what is wrong and where
 * @example wavSeconds(bytes) // 1.5
 */
export function wavSeconds(bytes: Uint8Array): number {
  const { format, length } = findData(viewOf(bytes));
  return Math.floor(length / format.frame) / format.rate;
}

function readFormat(view: DataView, at: number, size: number) {
  if (size < 16 || at + 16 > view.byteLength) throw new NotSound('its format chunk is cut off', at);
  let code = view.getUint16(at, true);
  if (code === EXTENSIBLE && size >= 26 && at + 26 <= view.byteLength) {
    code = view.getUint16(at + 24, true);
  }
  const channels = view.getUint16(at + 2, true);
  const rate = view.getUint32(at + 4, true);
  const bits = view.getUint16(at + 14, true);
  if (channels < 1 || channels > 32)
    throw new NotSound(`it says it has ${channels} channels`, at + 2);
  if (rate < LOWEST_RATE || rate > HIGHEST_RATE) {
    throw new NotSound(`it says it has ${rate} samples a second`, at + 4);
  }
  if (!READERS[`${code}/${bits}`]) {
    const kind = code === PCM || code === FLOAT ? `${bits} bits` : `format ${code}`;
    throw new NotSound(`its samples are of a kind that is not read here: ${kind}`, at + 14);
  }
  return { code, channels, rate, bits, frame: (channels * bits) / 8 };
}
