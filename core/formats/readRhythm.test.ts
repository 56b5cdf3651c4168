import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { commands } from '../edit';
import { said } from '../pattern/said.test-kit';
import type { Song } from '../schema';
import { joinedWords, newSong, playedBars, lyricsByBar } from '../song';
import { say } from '../stroke';
import { METERS } from '../time';
import { toAbc } from './abc';
import type { ChartAnswer } from './chart';
import { chartProgression } from './chordpro';
import { toMidi, toMusicXml } from './files';
import { readAbc, readMidi, readMusicXml } from './readers';
import { commonRhythm } from './readRhythm';
import { withChart } from '.';

const chartOf = (answer: ChartAnswer) => {
  if ('problem' in answer) throw new Error(answer.problem.message);
  return answer.chart;
};
/** The song that a file becomes. */
function songOf(answer: ChartAnswer): Song {
  const chart = chartOf(answer);
  const meter = chart.meter ?? METERS['4/4'];
  const progression = chartProgression(chart, 'bar');
  return withChart(newSong({ title: 'Read', instrument: 'guitar', meter, progression }), chart);
}
const song = (words: string, progression = 'G | C | D . Em . | G'): Song => ({
  ...newSong({ title: 'Weir', instrument: 'guitar', progression }),
  pattern: said(words),
});
const strikes = (of: Song) =>
  arrangement(of).performance.strikes.map(
    ({ tick, dir, kind, accent }) => `${tick} ${dir} ${kind === 'chuck'} ${accent === 'accent'}`,
  );
const landed = (of: Song) => arrangement(of).changes.map(({ tick, symbol }) => `${tick} ${symbol}`);

const RHYTHMS = [
  'down, down up, miss up, down up',
  'down miss DOWN up, chuck miss miss UP, miss up down up, chuck miss down up',
  'down up down, down, DOWN, chuck',
];

describe('the rhythm of a file', () => {
  it.each(RHYTHMS)(
    'comes back from ABC with its directions, accents and damped strokes: %s',
    (words) => {
      const back = songOf(readAbc(toAbc(song(words))));
      expect(strikes(back)).toEqual(strikes(song(words)));
      expect(landed(back)).toEqual(landed(song(words)));
    },
  );

  it.each(RHYTHMS)('comes back from MusicXML: %s', (words) => {
    const back = songOf(readMusicXml(toMusicXml(song(words))));
    expect(strikes(back)).toEqual(strikes(song(words)));
    expect(landed(back)).toEqual(landed(song(words)));
  });

  it('comes back from MIDI where strings sound: their order says the way of the stroke', () => {
    const words = 'down, down up, miss up, down up';
    const back = songOf(readMidi(toMidi(song(words, 'G | C | D | G'))));
    expect(strikes(back)).toEqual(strikes(song(words, 'G | C | D | G')));
  });

  it('is none where no two bars are alike', () => {
    const meter = METERS['4/4'];
    const stroke = (at: number) => ({ at, dir: null, accent: false, damped: false });
    expect(
      commonRhythm(
        [
          { meter, strokes: [stroke(0)] },
          { meter, strokes: [stroke(960)] },
        ],
        meter,
      ),
    ).toBeNull();
    expect(commonRhythm([{ meter }, { meter }], meter)).toBeNull();
    const even = commonRhythm(
      [0, 0].map(() => ({ meter, strokes: [stroke(0), stroke(480)] })),
      meter,
    )!;
    expect(say(even)).toBe('down up, miss miss, miss miss, miss miss');
  });
});

describe('tablature of a file', () => {
  it('brings the shapes that are not the usual ones', () => {
    const start = song('down, down, down, down', 'G | C | G | C');
    const high = { frets: [null, 3, 5, 5, 5, 3], fingers: [0, 1, 3, 3, 3, 1] };
    const own = commands.addOwnShape('C', high).apply(start);
    const back = songOf(readMusicXml(toMusicXml(own)));
    expect(back.chosenShapes.map(({ symbol, shape }) => [symbol, shape.frets])).toEqual([
      ['C', high.frets],
    ]);
    expect(songOf(readMusicXml(toMusicXml(start))).chosenShapes).toEqual([]);
  });

  it('is left out where the instrument has other strings', () => {
    const chart = chartOf(readMusicXml(toMusicXml(song('down, down, down, down'))));
    const ukulele = newSong({ title: 'Reed', instrument: 'ukulele', progression: 'G | C' });
    expect(withChart(ukulele, chart).ownShapes).toEqual([]);
  });
});

const TUNE = `X:1
T:Lanterns
M:4/4
L:1/8
Q:1/4=90
K:G
P:Verse
|: "G"vB2 uB vB "C"B4 |1 "D"B8 :|2 "Em"B8 |
w: Low-er the lan-terns down low
P:Reach
"Am"B4 "riff"B4 | "D7"B8 |]
`;

describe('an ABC tune', () => {
  it('is read with repeats and endings, parts, words, tempo, and what was left', () => {
    const chart = chartOf(readAbc(TUNE));
    expect(chart).toMatchObject({ title: 'Lanterns', tempo: 90 });
    expect(chartProgression(chart, 'bar')).toBe(
      'Verse:\nG . C . | D\nVerse 2:\nG . C . | Em\nReach:\nAm | D7',
    );
    expect(chart.left).toContainEqual({ line: 1, text: 'riff' });
    const read = songOf(readAbc(TUNE));
    const sung = lyricsByBar(read, playedBars(read)).map((row) =>
      joinedWords(row.map(({ text }) => text)),
    );
    expect(sung[0]).toBe('Lower the lan-');
    expect(sung[1]).toBe('terns');
  });

  it('says why it cannot be read, and never throws', () => {
    for (const text of ['', 'X:1', 'X:1\nK:C\nCDEF|', 'X:1\nK:\n|:|:[[[', '%abc\n\u0000']) {
      expect(readAbc(text)).toHaveProperty('problem');
    }
  });
});
