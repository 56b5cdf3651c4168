import JZZ from 'jzz';
// @ts-expect-error The package comes without types; what is used of it is declared below.
import addFileReader from 'jzz-midi-smf';

/** A Standard MIDI File as read by a package that has no part in the writing of it. */
export interface ReadFile {
  ppq: number;
  notes: ReadNote[];
  /** Data of the meta events by type, as a string of bytes. */
  meta: Map<number, string>;
  /** Notes that were begun and never ended. */
  hanging: number;
}

export interface ReadNote {
  channel: number;
  pitch: number;
  velocity: number;
  tick: number;
  end: number;
}

interface FileEvent extends ArrayLike<number> {
  tt: number;
  ff?: number;
  dd?: string;
}

type FileReader = new (bytes: string) => ArrayLike<ArrayLike<FileEvent>> & { ppqn: number };

addFileReader(JZZ);
const { SMF } = JZZ.MIDI as unknown as { SMF: FileReader };

export function readMidiFile(bytes: Uint8Array): ReadFile {
  const file = new SMF(String.fromCharCode(...bytes));
  const notes: ReadNote[] = [];
  const open = new Map<string, ReadNote>();
  const meta = new Map<number, string>();
  const tracks = Array.from(file).map((track) => Array.from(track));
  for (const event of tracks.flat()) {
    if (event.ff !== undefined) {
      meta.set(event.ff, event.dd ?? '');
      continue;
    }
    const [status = 0, pitch = 0, velocity = 0] = Array.from(event);
    const channel = status & 15;
    const key = `${channel}/${pitch}`;
    if (status >> 4 === 9 && velocity > 0) {
      const note = { channel, pitch, velocity, tick: event.tt, end: -1 };
      open.set(key, note);
      notes.push(note);
    } else if (status >> 4 === 8 || status >> 4 === 9) {
      const note = open.get(key);
      if (note) note.end = event.tt;
      open.delete(key);
    }
  }
  return { ppq: file.ppqn, notes, meta, hanging: open.size };
}
