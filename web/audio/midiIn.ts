import { DRUM_CHANNEL, type StruckNote } from '#core/take';

/** Notes of the MIDI instruments that are plugged in, while a take is played. */
export interface MidiIn {
  close(): void;
}

const NOTE_ON = 0x90;

/** Whether this browser knows MIDI instruments at all. */
export const knowsMidi = () => typeof navigator.requestMIDIAccess === 'function';

/**
 * Opens all MIDI instruments; the browser asks the player first.
 * @param struck called with each note, its moment in seconds of the page's clock
 * @param lost called where the last of them is unplugged
 * @throws Error with one sentence and the other ways
 */
export async function openMidi(
  struck: (note: StruckNote) => void,
  lost: () => void,
): Promise<MidiIn> {
  const others = 'The microphone, a file and taps work without one.';
  const access = await navigator.requestMIDIAccess().catch(() => {
    throw new Error(`The browser was not allowed to use MIDI instruments. ${others}`);
  });
  const inputs = [...access.inputs.values()];
  if (inputs.length === 0) throw new Error(`No MIDI instrument was found. ${others}`);
  for (const input of inputs) {
    input.onmidimessage = ({ data, timeStamp }) => {
      const [status = 0, midi = 0, velocity = 0] = data ?? [];
      if ((status & 0xf0) !== NOTE_ON || velocity === 0 || (status & 0x0f) === DRUM_CHANNEL) return;
      struck({ seconds: timeStamp / 1000, midi, velocity });
    };
  }
  access.onstatechange = () => {
    if ([...access.inputs.values()].every(({ state }) => state === 'disconnected')) lost();
  };
  return {
    close() {
      access.onstatechange = null;
      for (const input of inputs) input.onmidimessage = null;
    },
  };
}
