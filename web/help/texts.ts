import type { SignName } from './signs';

/** What a station's help says: what one does there, the signs of its drawing, its keys, its words. */
export interface StationHelp {
  title: string;
  does: string;
  signs: SignName[];
  keys: { keys: string[]; does: string }[];
  words: { word: string; means: string }[];
}

/** Keys that work everywhere. */
export const COMMON_KEYS: StationHelp['keys'] = [
  { keys: ['Space'], does: 'play, stop' },
  { keys: ['F2', 'F8', 'F9', 'F4'], does: 'to the stations, the work, the tools, the stage bar' },
  { keys: ['F9'], does: 'once more: folds the tools away' },
  { keys: ['Ctrl Z', 'Ctrl Y'], does: 'undo, redo' },
  { keys: [',', '.'], does: 'half the tempo, twice the tempo, after tapping it' },
  { keys: ['?'], does: 'this page' },
];

const PATH: SignName[] = [
  'arm',
  'down',
  'miss',
  'hold',
  'chuck',
  'bass',
  'open',
  'roll',
  'tap',
  'legato',
  'accent',
];
const FLAGS: SignName[] = ['flag', 'push'];

export const HELP: Record<string, StationHelp> = {
  shelf: {
    title: 'Shelf',
    does: 'Your songs. Open one, make a new one, or open a file.',
    signs: ['arm', 'down'],
    keys: [],
    words: [
      {
        word: 'clean at 80 of 92',
        means: 'You played the whole song cleanly at 80; your goal is 92.',
      },
      { word: 'pattern', means: 'A strum that is kept to be used again.' },
    ],
  },
  new: {
    title: 'New song',
    does: 'Write the chords, with | between bars. Their bars are drawn below as you type.',
    signs: FLAGS,
    keys: [{ keys: ['Ctrl Enter'], does: 'make the song' }],
    words: [
      { word: 'progression', means: 'The chords of a song, bar by bar.' },
      { word: '.', means: 'The chord before goes on for one more beat.' },
      { word: '%', means: 'The same as the bar before.' },
    ],
  },
  patterns: {
    title: 'A pattern alone',
    does: 'Practise a strum without a song.',
    signs: PATH,
    keys: [],
    words: [],
  },
  phone: {
    title: 'On my phone',
    does: 'Opens this app on a phone in the same room.',
    signs: [],
    keys: [],
    words: [
      { word: 'key', means: 'Letters that let a phone in. They are in the address of the code.' },
    ],
  },
  chords: {
    title: 'Chords',
    does: 'How each chord is held, and which strings are its bass.',
    signs: [],
    keys: [{ keys: ['1', '2', '3', '4'], does: 'the finger of a dot on the neck' }],
    words: [
      { word: 'barre', means: 'One finger lies across several strings.' },
      { word: 'alternate bass', means: 'A second bass string, struck in turn with the root.' },
      { word: 'capo', means: 'Shortens all strings: the same shapes sound higher.' },
      { word: 'C′', means: 'The same chord in another shape.' },
    ],
  },
  strum: {
    title: 'Strum',
    does: 'Put strokes on the moving arm. The arm never stops; a stroke sounds where it meets the strings.',
    signs: [...PATH, 'kink', 'tip', 'wedge', ...FLAGS],
    keys: [],
    words: [
      { word: 'stroke', means: 'What the hand does at one place: down, up, bass, pick, chuck …' },
      { word: 'move', means: 'The arm going down or up once.' },
      { word: 'swing', means: 'The second eighth of each beat comes later.' },
      { word: 'loose', means: 'Hits vary each time round; accents and landings stay.' },
    ],
  },
  song: {
    title: 'Song',
    does: 'All bars of the song with their chords. A bar can have its own strum, a stop, a bass run, notes.',
    signs: [...FLAGS, 'held', 'stop', 'fermata', 'skip', ...PATH],
    keys: [
      { keys: ['←', '→', '↑', '↓'], does: 'from bar to bar' },
      { keys: ['Shift →'], does: 'choose several bars' },
      { keys: ['L'], does: 'loop the chosen bars' },
      { keys: ['Ctrl C', 'Ctrl X', 'Ctrl V'], does: 'copy, cut, paste bars' },
      { keys: ['Delete'], does: 'delete the chosen bars' },
    ],
    words: [
      { word: 'landing', means: 'The moment a chord arrives.' },
      { word: 'push', means: 'The chord arrives early, by an eighth or a sixteenth.' },
      { word: 'shared bar', means: 'A bar with more than one chord.' },
      { word: 'transition strokes', means: 'Strokes on open strings while the hand moves.' },
      { word: 'bass run', means: 'Single bass notes that lead into the next chord.' },
      {
        word: '1st time, last time',
        means: 'Only when the passage is played the first, the last time.',
      },
    ],
  },
  changes: {
    title: 'Changes',
    does: 'Which change is too quick for your hand at this tempo, and what makes it easier.',
    signs: ['ceiling'],
    keys: [],
    words: [
      { word: 'change', means: 'From one chord to the next.' },
      { word: 'OK up to 62', means: 'Above that tempo a finger has too little time.' },
      { word: 'anchor', means: 'A finger that stays where it is.' },
    ],
  },
  practice: {
    title: 'Practice',
    does: 'Play a take; it is judged, and you are told what to do next. Slow steps first, then the whole song.',
    signs: ['thick', ...PATH],
    keys: [
      { keys: ['A', 'N', 'B'], does: 'in the stand view: a take, the next rung, the rung before' },
      { keys: ['Esc'], does: 'leave the stand view' },
    ],
    words: [
      { word: 'take', means: 'Playing the bars once, recorded and judged.' },
      { word: 'rung', means: 'One step of the ladder from easy to the song in full.' },
      { word: 'clean', means: 'Nearly every stroke on its place, and every change on time.' },
      { word: 'rushed, late', means: 'Before the beat, after the beat.' },
    ],
  },
  along: {
    title: 'Along',
    does: 'Play along with a recording: tap its beats, find its chords, slow it down.',
    signs: [],
    keys: [
      { keys: ['T'], does: 'tap a beat while it plays' },
      { keys: ['L'], does: 'a chord lands now' },
      { keys: ['S'], does: 'the song begins here, or stops' },
      { keys: ['[', ']'], does: 'the loop a little earlier, later' },
    ],
    words: [
      { word: 'beats', means: 'Where the beats of the recording are: found by itself, or tapped.' },
    ],
  },
  sheet: {
    title: 'Sheet',
    does: 'The song on paper: for players, singers, leaders and beginners.',
    signs: [...FLAGS, 'down', 'miss', 'bass', 'chuck'],
    keys: [],
    words: [
      { word: 'slashes', means: 'Rhythm on a staff, without pitches.' },
      { word: 'tablature', means: 'A line for each string, with the frets on it.' },
    ],
  },
  log: {
    title: 'Log',
    does: 'What you played, evening by evening, and what to play next.',
    signs: [],
    keys: [],
    words: [
      { word: 'goal', means: 'The tempo you want, and the day you want it by.' },
      { word: 'trend', means: 'How your clean tempo has grown.' },
    ],
  },
};
