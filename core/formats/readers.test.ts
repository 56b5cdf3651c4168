import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { arrangement } from '../arrange';
import { parseChord } from '../neck';
import { said } from '../pattern/said.test-kit';
import { tries } from '../properties.test-kit';
import type { Song } from '../schema';
import { newSong, printProgression } from '../song';
import { countCycle, METERS } from '../time';
import { judgeOnsets } from '../take';
import { chartProgression, readChart } from './chordpro';
import { toChordPro } from './writeChordPro';
import { toAbc } from './abc';
import { toMidi } from './midi';
import { toMusicXml } from './musicxml';
import { withChart } from './chartWords';
import { READERS, readAbc, readMidi, readMusicXml, takeOfMidi } from './readers';

function song(progression: string, words = 'down, down, down, down'): Song {
  const start = newSong({ title: 'Weir', instrument: 'guitar', progression, tempo: 92 });
  return { ...start, pattern: said(words) };
}
type Answer = ReturnType<typeof readMidi>;
function chart(answer: Answer) {
  if (!('chart' in answer)) throw new Error(answer.problem.message);
  return answer.chart;
}
/** Where chords land, of a song and of what was read of its file. */
const landings = (of: Song) =>
  arrangement(of).changes.map(({ tick, symbol }) => `${tick} ${symbol}`);
const again = (answer: Answer, of: Song) =>
  newSong({
    title: 'Read',
    instrument: 'guitar',
    meter: of.meter,
    progression: chartProgression(chart(answer), 'bar'),
  });

const score = (measures: string) =>
  `<?xml version="1.0"?><score-partwise><work><work-title>Weir &amp; sluice</work-title></work><part id="P1">${measures}</part></score-partwise>`;
const harmony = (step: string, kind = 'major') =>
  `<harmony><root><root-step>${step}</root-step></root><kind>${kind}</kind></harmony>`;
const rest = (duration: number) => `<note><rest/><duration>${duration}</duration></note>`;

describe('what this app wrote', () => {
  it.each([
    ['MusicXML', (of: Song) => readMusicXml(toMusicXml(of))],
    ['ABC', (of: Song) => readAbc(toAbc(of))],
  ])('gives its landings when it is read as %s', (_, readBack) => {
    fc.assert(
      fc.property(progressions, (progression) => {
        const of = song(progression);
        if (arrangement(of).bars.length === 0 || arrangement(of).changes.length === 0) return;
        const answer = readBack(of);
        if (!('chart' in answer) || answer.chart.left.length > 0) return;
        // What names no chord is written as none.
        const readable = landings(of).map((one) => {
          const [tick, symbol] = one.split(' ');
          return parseChord(symbol!) ? one : `${tick} N.C.`;
        });
        const plain = readable.filter(
          (one, index) => one.split(' ')[1] !== readable[index - 1]?.split(' ')[1],
        );
        expect(landings(again(answer, of))).toEqual(plain);
      }),
      tries(60),
    );
  });

  const strokes = fc
    .array(fc.constantFrom('down up', 'down', 'miss up', 'DOWN up', 'chuck', 'down miss'), {
      minLength: 4,
      maxLength: 4,
    })
    .map((beats) => beats.join(', '));
  it.each([
    ['MusicXML', (of: Song) => readMusicXml(toMusicXml(of))],
    ['ABC', (of: Song) => readAbc(toAbc(of))],
  ])('gives its strokes when it is read as %s', (_, readBack) => {
    fc.assert(
      fc.property(strokes, (words) => {
        const of = song('G | C | D | G', words);
        const told = (one: Song) =>
          arrangement(one).performance.strikes.map(
            ({ tick, dir, kind, accent }) => `${tick} ${dir} ${kind} ${accent}`,
          );
        if (told(of).length === 0) return;
        const read = chart(readBack(of));
        const back = withChart(again({ chart: read }, of), read);
        expect(told(back)).toEqual(told(of));
      }),
      tries(40),
    );
  });
});

/** A song with a pick-up, pushes, a passage that comes again, and words. */
const written = (progression: string, more: Partial<Song> = {}): Song => ({
  ...newSong({ title: 'Weir & <sluice>', instrument: 'guitar', tempo: 92, progression }),
  ...more,
});
const WAYS = [
  ['MusicXML', (of: Song) => readMusicXml(toMusicXml(of))],
  ['ABC', (of: Song) => readAbc(toAbc(of))],
  ['ChordPro', (of: Song) => readChart(toChordPro(of))],
] as const;

/** Songs whose every bar can be read: chords, pushes, other meters, a pick-up, endings and an order. */
const chordWords = fc.constantFrom('G', 'C', 'D7', 'Em', 'F#m', 'Bb', 'C/G', 'N.C.');
const pushed = fc
  .tuple(fc.constantFrom('', '', '<', '<<'), chordWords)
  .map((parts) => parts.join(''));
const cells = fc.oneof(
  { weight: 4, arbitrary: chordWords },
  { weight: 2, arbitrary: fc.tuple(chordWords, pushed).map(([a, b]) => `${a} ${b}`) },
  { weight: 1, arbitrary: pushed },
  { weight: 1, arbitrary: fc.constant('.') },
  { weight: 1, arbitrary: chordWords.map((chord) => `(5/4) ${chord}`) },
);
const rowOf = fc.array(cells, { minLength: 1, maxLength: 4 }).map((row) => row.join(' | '));
const readable = fc
  .record({
    meter: fc.constantFrom(
      METERS['4/4'],
      METERS['3/4'],
      METERS['6/8'],
      METERS['12/8'],
      countCycle(12, [12, 3, 6], 12),
    ),
    pickup: fc.boolean(),
    verse: fc.array(rowOf, { minLength: 1, maxLength: 2 }),
    endings: fc.tuple(rowOf, rowOf),
    reach: rowOf,
    order: fc.constantFrom(
      'Verse x2, Reach',
      'Verse, Reach, Verse',
      'Reach, Verse x2, last line of Reach, Verse x2',
    ),
    over: fc.boolean(),
    capo: fc.integer({ min: 0, max: 7 }),
    tempo: fc.integer({ min: 30, max: 220 }),
  })
  .map(({ meter, pickup, verse, endings, reach, order, over, capo, tempo }): Song => {
    const rows = [
      'Verse:',
      // Something has to sound first, and nothing can land before it.
      ...(pickup ? ['(pickup 1) G'] : ['G']),
      ...verse,
      `1) ${endings[0]}`,
      `2) ${endings[1]}`,
      'Reach:',
      reach,
      `Order: ${order}`,
      ...(over ? ['Endings: over the song'] : []),
    ];
    const start = { title: 'Weir', instrument: 'guitar', meter, tempo } as const;
    return { ...newSong({ ...start, progression: rows.join('\n') }), capo };
  });

describe.each(WAYS)('our own files as %s', (name, readBack) => {
  it('come back as they were, whatever the song: chords, meters, pick-up, order, capo, tempo', () => {
    fc.assert(
      fc.property(readable, (of) => {
        const read = chart(readBack(of));
        expect(read.progression).toBe(printProgression(of.sections, of.meter, of.order, of));
        expect(read.meter).toEqual(of.meter);
        expect(read.tempo).toBe(of.tempo);
        expect(read.capo ?? 0).toBe(of.capo);
        expect(landings(again(readBack(of), of))).toEqual(landings(of));
      }),
      tries(40),
    );
  });

  it('come back as they were: pick-up, pushes, order, capo, tempo, title', () => {
    const of = written(
      'Verse:\n(pickup 1) G\nG | <D . <<Em . | C | D\nReach:\nC | . . <D . | G\nOrder: Verse, Reach, Verse',
      { capo: 2 },
    );
    const read = chart(readBack(of));
    expect(read.progression).toBe(printProgression(of.sections, of.meter, of.order));
    expect(read).toMatchObject({ capo: 2, tempo: 92, meter: of.meter, left: [] });
    if (name !== 'ABC') expect(read.title).toBe('Weir & <sluice>');
  });

  it('come back in twelve counts, in 6/8 and in 7/8', () => {
    for (const meter of [
      countCycle(12, [12, 3, 6, 8, 10], 12),
      METERS['6/8'],
      METERS['12/8'],
      METERS['7/8'],
    ]) {
      const of = newSong({
        title: 'Sill',
        instrument: 'guitar',
        meter,
        tempo: 70,
        progression: 'Am | G',
      });
      const read = chart(readBack(of));
      expect(read.meter).toEqual(meter);
      expect(read.tempo).toBe(70);
      expect(landings(again({ chart: read }, of))).toEqual(landings(of));
    }
  });

  it('say what another program wrote into them', () => {
    if (name === 'ChordPro') return;
    const of = written('G | C | D | G');
    const text = (name === 'ABC' ? toAbc(of) : toMusicXml(of))
      .replace('"C"', '"Em"')
      .replace('<root-step>C<', '<root-step>F<');
    const read = chart(name === 'ABC' ? readAbc(text) : readMusicXml(text));
    expect(read.progression).toBeNull();
    expect(chartProgression(read, 'bar')).toContain(name === 'ABC' ? 'G | Em' : 'G | F');
  });
});

it('a pick-up and pushes come back without what is our own', () => {
  const of = written('(pickup 1) D\nG | <D | <<Em | C');
  const foreign = [
    readMusicXml(toMusicXml(of).replaceAll(/<miscellaneous-field.*/g, '')),
    readAbc(toAbc(of).replaceAll(/^% plucky.*$/gm, '')),
  ];
  for (const answer of foreign) {
    const read = chart(answer);
    expect(read.progression).toBeNull();
    expect(chartProgression(read, 'bar')).toBe('Song:\n(pickup 1) D | G | <D | <<Em\nC');
  }
  const midi = chart(readMidi(toMidi(of) as Uint8Array));
  expect(midi.meter).toEqual(METERS['4/4']);
  expect(chartProgression(midi, 'bar')).toMatch(/^Song:\n\(pickup 1\) D/);
});

it('MusicXML names chords as they sound, at the tempo that its metronome says', () => {
  const of = { ...written('C | F'), capo: 2 };
  expect(toMusicXml(of)).toMatch(/<root-step>D<[\s\S]*<root-step>G</);
  const slow = newSong({
    title: 'T',
    instrument: 'guitar',
    meter: METERS['6/8'],
    tempo: 60,
    progression: 'A',
  });
  const text = toMusicXml(slow);
  expect(text).toContain('<sound tempo="90"/>');
  expect(text).toMatch(/<beat-unit>quarter<\/beat-unit>\s*<beat-unit-dot\/>\s*<per-minute>60</);
  const half = { beats: 2, unit: 2 as const, groups: [2] };
  const cut = newSong({
    title: 'T',
    instrument: 'guitar',
    meter: half,
    tempo: 60,
    progression: 'A',
  });
  expect(toMusicXml(cut)).toContain('<sound tempo="120"/>');
});

describe('reading MusicXML', () => {
  it('takes title, meter, tempo and sections, and writes repeats and endings out', () => {
    const text = score(`
      <measure><attributes><divisions>2</divisions><time><beats>3</beats><beat-type>4</beat-type></time></attributes>
        <direction><direction-type><rehearsal>Verse</rehearsal></direction-type><sound tempo="104"/></direction>
        <barline location="left"><repeat direction="forward"/></barline>${harmony('G')}${rest(6)}</measure>
      <measure><barline location="left"><ending number="1" type="start"/></barline>${harmony('C')}${rest(4)}${harmony('D', 'dominant')}${rest(2)}
        <barline location="right"><ending number="1" type="stop"/><repeat direction="backward"/></barline></measure>
      <measure><barline location="left"><ending number="2" type="start"/></barline>${harmony('E', 'minor')}${rest(6)}
        <barline location="right"><ending number="2" type="stop"/></barline></measure>
      <measure>${harmony('A', 'half-diminished')}${rest(6)}</measure>`);
    const read = chart(readMusicXml(text));
    expect(read).toMatchObject({ tempo: 104, meter: { beats: 3, unit: 4 } });
    expect(chartProgression(read, 'bar')).toBe('Verse:\nG | C . D7\nVerse 2:\nG | Em | Am7b5');
  });

  it.each([
    ['<score-partwise><part>', /not whole XML/],
    ['<score-partwise/>', /no bars/],
    [score('<measure><note><duration>4</duration></note></measure>'), /names no chords/],
  ])('says why %j cannot be read', (text, message) => {
    const answer = readMusicXml(text);
    expect('problem' in answer && answer.problem.message).toMatch(message);
  });

  it('takes any text without failing', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => {
        expect(readMusicXml(score(text.replace(/[<&]/g, '')))).toBeDefined();
        expect(readMusicXml(text)).toBeDefined();
      }),
      tries(100),
    );
  });
});

describe('reading MIDI', () => {
  it('names the chords of what this app wrote where they land', () => {
    const of = song('G | C | D . G . | Em');
    const read = readMidi(toMidi(of) as Uint8Array);
    expect(landings(again(read, of))).toEqual(landings(of));
    expect(chart(read).tempo).toBe(92);
  });

  it('spells the chords as the key does', () => {
    const of = song('F | Bb | F | Gm . C7 . | Bb | F');
    const read = readMidi(toMidi(of) as Uint8Array);
    expect(landings(again(read, of))).toEqual(landings(of));
  });

  it('says why it cannot be read', () => {
    const of = song('G', 'chuck, chuck, chuck, chuck');
    expect(readMidi(toMidi(of) as Uint8Array)).toHaveProperty('problem');
    expect(readMidi(new Uint8Array([77, 84, 104, 100, 0, 0]))).toHaveProperty('problem');
  });

  it('takes any bytes without failing', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        const start = new Uint8Array([...new TextEncoder().encode('MThd'), 0, 0, 0, 6, ...bytes]);
        expect(readMidi(start)).toBeDefined();
      }),
      tries(200),
    );
  });
});

describe('a take in a MIDI file', () => {
  it('is the strokes of the song that was written, with their way and their moments', () => {
    const of = song('G | Em | <C | D', 'down, down up, miss up, down up');
    const strokes = takeOfMidi(toMidi(of));
    const meant = arrangement(of).performance.strikes;
    expect(strokes).toHaveLength(meant.length);
    strokes.forEach(({ seconds, direction }, at) => {
      expect(Math.abs(seconds - meant[at]!.seconds)).toBeLessThan(0.01);
      expect(direction).toBe(meant[at]!.dir);
    });
    expect(judgeOnsets(arrangement(of), strokes).verdict.trouble).toBe('clean');
  });

  it('is none where there are no notes, or no file', () => {
    expect(() => takeOfMidi(new Uint8Array(3))).toThrow('This is no MIDI file that can be read.');
    const bare = toMidi(song('G'));
    const start = Array.from('MTrk', (letter) => letter.charCodeAt(0));
    const at = bare.findIndex((_, index) => start.every((code, by) => bare[index + by] === code));
    const empty = [...bare.slice(0, at), ...start, 0, 0, 0, 4, 0, 0xff, 0x2f, 0];
    empty[11] = 1;
    expect(() => takeOfMidi(Uint8Array.from(empty))).toThrow('There are no notes in this file.');
  });
});

describe('what reads a file', () => {
  it('is told by how it begins', () => {
    const of = song('G');
    const reader = (start: string) => READERS.findIndex(({ starts }) => starts.test(start));
    expect(reader('MThd')).toBe(0);
    expect(reader(toAbc(of).slice(0, 600))).toBe(1);
    expect(reader('% a tune\nX: 1\nT:Weir')).toBe(1);
    expect(reader((toMusicXml(of) as string).slice(0, 600))).toBe(2);
    expect(reader('PK\x03\x04')).toBe(3);
    expect(reader('PK is no chord')).toBe(-1);
    expect(reader('{title: Weir}')).toBe(-1);
  });
});
