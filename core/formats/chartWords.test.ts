import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { rhythmCommands } from '../edit';
import { tries } from '../properties.test-kit';
import { type Song, songSchema } from '../schema';
import {
  barLength,
  joinedWords,
  newSong,
  playedBars,
  printWords,
  readWords,
  lyricsByBar,
} from '../song';
import { chartProgression, type ChartRule, readChart } from './chordpro';
import { toMusicXml } from './files';
import { readMusicXml } from './readMusicXml';
import { withChartWords } from '.';
import { toChordPro } from './writeChordPro';

/** The song that a chart becomes. */
function songOf(text: string, rule: ChartRule = 'bar', read = readChart): Song {
  const answer = read(text);
  if ('problem' in answer) throw new Error(answer.problem.message);
  const progression = chartProgression(answer.chart, rule);
  const song = newSong({ title: 'Chart', instrument: 'guitar', progression });
  return songSchema.parse(withChartWords(song, answer.chart));
}
const words = (song: Song, section = 0, line = 0, verse = 1) =>
  printWords(song.sections[section]!.lines[line]!, song.meter, verse);
const sung = (song: Song) =>
  lyricsByBar(song, playedBars(song)).map((row) => joinedWords(row.map(({ text }) => text)));

describe('words that come in with a chart', () => {
  it('lie under the chords that they follow, whatever their length', () => {
    const chart = '[G]Down the tow-[C]path, [D]slow';
    expect(words(songOf(chart))).toBe('Down_the_tow- | path, | slow');
    expect(words(songOf(chart, 'half'))).toBe('Down_the_tow- . path, | slow');
    expect(words(songOf(chart, 'two'))).toBe('Down_the_tow- |  | path, |  | slow');
  });

  it('get a hyphen where a chord parts a word, and keep what comes before the first', () => {
    expect(words(songOf('And [G]lan[C]terns [D]'))).toBe('And_lan- | terns');
  });

  it('are taken from under a line of chords by their columns', () => {
    const chart = ['G        C', 'Down the towpath', '', 'D', 'slow water'].join('\n');
    expect(words(songOf(chart))).toBe('Down_the | towpath');
    expect(words(songOf(chart), 0, 1)).toBe('slow_water');
    expect(words(songOf('G   C\nlanterns'))).toBe('lant- | erns');
  });

  it('are the next verse where the chords are the same', () => {
    const chart = [
      '{start_of_verse}',
      '[G]One [C]boat',
      '{end_of_verse}',
      '{start_of_verse}',
      '[G]Two [C]boats',
      '{end_of_verse}',
    ].join('\n');
    const song = songOf(chart);
    expect(song.sections).toHaveLength(1);
    expect([words(song), words(song, 0, 0, 2)]).toEqual(['One | boat', 'Two | boats']);
    expect(sung(song)).toEqual(['One', 'boat', 'Two', 'boats']);
  });

  it('leave out what the line cannot hold, and nothing else', () => {
    const { chart } = readChart('[G]One [C]boat') as { chart: never };
    const other = newSong({ title: 'Short', instrument: 'guitar', progression: 'Song:\nG' });
    expect(withChartWords(other, chart).sections).toEqual(other.sections);
  });
});

const base = newSong({
  title: 'Lanterns',
  instrument: 'guitar',
  progression: 'Verse:\nG | C | D | G\nReach:\nEm | C\nOrder: Verse, Reach, Verse',
});
const bar = barLength({}, base.meter);
const write = (song: Song, section: number, verse: number, text: string) => {
  const count = song.sections[section]!.lines[0]!.bars.length;
  const read = readWords(
    text,
    Array.from({ length: count }, () => bar),
  );
  return rhythmCommands.setWords(section, 0, verse, 'bars' in read ? read.bars : []).apply(song);
};
const written = write(
  write(write(base, 0, 1, 'Low- er the | lan- terns | . to the | wa- ter'), 0, 2, 'Lift | them'),
  1,
  1,
  'All of us | to- ge- ther',
);

describe('words that go out', () => {
  it('come back from ChordPro as they were, and stand among its chords for others', () => {
    const text = toChordPro(written);
    expect(text).toContain('[G]Lower the [C]lanterns [D]to the [G]water');
    expect(text).toContain('[G]Lift [C]them [D][G]');
    const back = songOf(text);
    expect(back.sections).toEqual(written.sections);
  });

  it('come back from MusicXML where they were sung', () => {
    const back = songOf(toMusicXml(written), 'bar', readMusicXml);
    expect(sung(back)).toEqual(sung(written));
    const places = (song: Song) =>
      lyricsByBar(song, playedBars(song)).map((row) => row.map(({ tick }) => tick));
    expect(places(back)).toEqual(places(written));
  });

  it('lose no syllable of any document', () => {
    fc.assert(
      fc.property(documents, (song) => {
        const letters = (text: string) => text.replaceAll(/[-\s]/g, '');
        const all = lyricsByBar(song, playedBars(song)).flat();
        const lyrics = [
          ...toMusicXml(song).matchAll(/<syllabic>\w+<\/syllabic>\s*<text>(.*?)<\/text>/g),
        ];
        const text = lyrics.map(([, found]) => found).join('');
        const plain = text.replaceAll('&lt;', '<').replaceAll('&gt;', '>').replaceAll('&amp;', '&');
        expect(letters(plain)).toBe(letters(all.map((piece) => piece.text).join('')));
      }),
      tries(60),
    );
  });
});
