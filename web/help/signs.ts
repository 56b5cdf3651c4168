/** The signs of the drawings, each as it is drawn, with its name and what it means. */

/** A part of a sign: a path with the looks of what it is a part of, or a letter. */
export interface SignPart {
  looks:
    | 'string'
    | 'arm'
    | 'pass'
    | 'rest'
    | 'kink'
    | 'brush'
    | 'hollow'
    | 'line'
    | 'dot'
    | 'ring'
    | 'flag'
    | 'mark'
    | 'wedge';
  /** In a field of 64 by 40. */
  d: string;
}
export interface Sign {
  name: string;
  meaning: string;
  parts: SignPart[];
  text?: { letters: string; x: number; y: number; looks: 'dark' | 'light' | 'soft' | 'glyph' };
}

const STRINGS: SignPart = { looks: 'string', d: 'M2,14H62M2,20H62M2,26H62' };
const ARM: SignPart = { looks: 'arm', d: 'M4,8C20,8 20,34 32,34S44,8 60,8' };
const circle = (x: number, y: number, r: number) =>
  `M${x - r},${y}a${r},${r} 0 1,0 ${2 * r},0a${r},${r} 0 1,0 ${-2 * r},0Z`;

export const SIGNS = {
  arm: {
    name: 'Arm',
    meaning: 'The thin line is your arm: down, up, down, up, without a stop.',
    parts: [STRINGS, ARM],
  },
  down: {
    name: 'Strum',
    meaning:
      'Where the line is thick your hand strums: on the way down, or on the way up. Thicker is louder.',
    parts: [STRINGS, ARM, { looks: 'brush', d: 'M13,11L19,29L22,28L16,10Z' }],
  },
  miss: {
    name: 'Miss',
    meaning: 'The arm moves past the strings and nothing sounds.',
    parts: [STRINGS, { looks: 'pass', d: 'M4,8C20,8 20,34 32,34S44,8 60,8' }],
  },
  hold: {
    name: 'Hold',
    meaning: 'The arm rests, the strings ring on.',
    parts: [STRINGS, { looks: 'rest', d: 'M4,34H60' }],
  },
  chuck: {
    name: 'Chuck',
    meaning: 'Damped strings: a short click without a note.',
    parts: [STRINGS, ARM, { looks: 'line', d: 'M12,12l8,4M13,17l8,4M14,22l8,4M16,27l8,4' }],
  },
  bass: {
    name: 'Bass note, pick',
    meaning: 'One string alone. R is the root of the chord; a number is a string.',
    parts: [STRINGS, ARM, { looks: 'dot', d: circle(18, 20, 8) }],
    text: { letters: 'R', x: 18, y: 24, looks: 'light' },
  },
  open: {
    name: 'Transition stroke',
    meaning: 'Hollow: on open strings, while your other hand moves to the next chord.',
    parts: [STRINGS, ARM, { looks: 'hollow', d: 'M13,11L19,29L22,28L16,10Z' }],
  },
  roll: {
    name: 'Roll',
    meaning: 'The fingers fan across the strings, one after another.',
    parts: [STRINGS, { looks: 'line', d: 'M12,10l4,20M16,10l4,20M20,10l4,20M24,10l4,20' }],
  },
  tap: {
    name: 'Tap, slap',
    meaning: 'A ring: tap the body. With a point in it: slap the strings.',
    parts: [
      STRINGS,
      { looks: 'ring', d: `${circle(22, 34, 5)}${circle(44, 34, 5)}${circle(44, 34, 1.5)}` },
    ],
  },
  legato: {
    name: 'Hammer-on, pull-off, slide',
    meaning: 'h, p or s: the fretting hand sounds the note, the arm misses.',
    parts: [STRINGS, { looks: 'line', d: 'M14,22C22,12 38,12 46,22' }],
    text: { letters: 'h', x: 30, y: 12, looks: 'dark' },
  },
  accent: {
    name: 'Accent',
    meaning: 'A point over a stroke: louder. Two points: hard.',
    parts: [
      STRINGS,
      { looks: 'brush', d: 'M24,14L30,32L34,31L28,13Z' },
      { looks: 'dot', d: circle(25, 7, 3.4) },
    ],
  },
  kink: {
    name: 'Against the arm',
    meaning: 'A red corner: the arm has to turn back. Flip the stroke, or say that you mean it.',
    parts: [STRINGS, { looks: 'kink', d: 'M6,8L22,32L34,8L50,32' }],
  },
  flag: {
    name: 'Flag',
    meaning: 'A chord lands where its flag stands. Drag it, or move it with ← and →.',
    parts: [
      STRINGS,
      { looks: 'flag', d: 'M16,2H46L40,8L46,14H16Z' },
      { looks: 'arm', d: 'M16,2V38' },
    ],
    text: { letters: 'Am', x: 28, y: 12, looks: 'light' },
  },
  push: {
    name: 'Early, <',
    meaning:
      'The chord lands an eighth before its beat; << is a sixteenth. Over a bar line it stands in the bar before.',
    parts: [
      STRINGS,
      { looks: 'flag', d: 'M24,2H60L54,8L60,14H24Z' },
      { looks: 'arm', d: 'M24,2V38' },
    ],
    text: { letters: '<E7', x: 41, y: 12, looks: 'light' },
  },
  stop: {
    name: '■ Stop',
    meaning: 'All stop on this beat and hold to the end of the bar.',
    parts: [],
    text: { letters: '■', x: 32, y: 28, looks: 'glyph' },
  },
  fermata: {
    name: '◡ Held',
    meaning: 'The chord is struck once and rings.',
    parts: [],
    text: { letters: '◡', x: 32, y: 28, looks: 'glyph' },
  },
  skip: {
    name: '× First stroke left out',
    meaning: 'The bar begins without its first stroke.',
    parts: [],
    text: { letters: '×', x: 32, y: 28, looks: 'glyph' },
  },
  wedge: {
    name: 'Build',
    meaning: 'A wedge under the path: from soft to loud, or back.',
    parts: [{ looks: 'wedge', d: 'M6,20L58,12V28L6,22Z' }],
  },
  tip: {
    name: 'Tip',
    meaning: 'A red line under a stroke: the Arm tool has something to say about it.',
    parts: [{ looks: 'mark', d: 'M14,22H50' }],
  },
  held: {
    name: '2 2 3 4',
    meaning: 'A bar in which the chord goes on: its count begins with the bar’s number.',
    parts: [],
    text: { letters: '2 2 3 4', x: 32, y: 24, looks: 'soft' },
  },
  ceiling: {
    name: 'Bar of a change',
    meaning:
      'As long as the fastest tempo at which that change works. The dashed line is the song.',
    parts: [
      { looks: 'dot', d: 'M4,14H40V26H4Z' },
      { looks: 'pass', d: 'M50,4V36' },
    ],
  },
  thick: {
    name: 'Thick and thin',
    meaning: 'Thick: the pattern. Thin: you.',
    parts: [
      { looks: 'brush', d: 'M18,8L24,32L30,31L24,7Z' },
      { looks: 'line', d: 'M38,8L44,32' },
    ],
  },
} satisfies Record<string, Sign>;
export type SignName = keyof typeof SIGNS;
