/** A format that a song goes out in. */
export interface Format {
  id: 'midi' | 'musicxml' | 'mxl' | 'chordpro' | 'abc' | 'tab' | 'json';
  /** The ending of a file, and what stands after `export.` in its address. */
  ending: string;
  route: string;
  mediaType: string;
  label: string;
  /** What it takes along, in one line. */
  carries: string;
  /** True where a song without bars makes no file. */
  needsBars: boolean;
}

/** Every format, in the order in which they are offered. What writes them is in `files.ts`. */
export const FORMATS: readonly Format[] = [
  {
    id: 'midi',
    ending: 'mid',
    route: 'mid',
    mediaType: 'audio/midi',
    label: 'MIDI file',
    carries: 'every note and chuck in time, a track for each role',
    needsBars: true,
  },
  {
    id: 'musicxml',
    ending: 'musicxml',
    route: 'musicxml',
    mediaType: 'application/vnd.recordare.musicxml+xml',
    label: 'MusicXML',
    carries: 'tablature with chords and stroke signs, written out as it is played',
    needsBars: true,
  },
  {
    id: 'mxl',
    ending: 'mxl',
    route: 'mxl',
    mediaType: 'application/vnd.recordare.musicxml',
    label: 'MusicXML, compressed',
    carries: 'the same, a tenth as large',
    needsBars: true,
  },
  {
    id: 'chordpro',
    ending: 'cho',
    route: 'chordpro',
    mediaType: 'text/plain',
    label: 'ChordPro',
    carries: 'the chords in their bars, with the line of text as it is typed',
    needsBars: true,
  },
  {
    id: 'abc',
    ending: 'abc',
    route: 'abc',
    mediaType: 'text/vnd.abc',
    label: 'ABC',
    carries: 'the chords over the rhythm, with signs for down and up, written out as it is played',
    needsBars: true,
  },
  {
    id: 'tab',
    ending: 'txt',
    route: 'tab',
    mediaType: 'text/plain',
    label: 'Tablature',
    carries: 'frets on their strings as plain text, with chords above and counts below',
    needsBars: true,
  },
  {
    id: 'json',
    ending: 'json',
    route: 'json',
    mediaType: 'application/json',
    label: 'JSON',
    carries: 'the whole song, to be opened here again',
    needsBars: false,
  },
];
