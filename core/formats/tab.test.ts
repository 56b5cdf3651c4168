import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { arrangement, type Strike } from '../arrange';
import { builtInPatterns } from '../pattern';
import type { Song } from '../schema';
import { newSong } from '../song';
import { beatTicks, METERS } from '../time';
import type { ChartReading, ChartWish } from './chart';
import { chartProgression, chordsInRow, readChart } from './chordpro';
import { withChart } from './chartWords';
import { joinedStrikes } from './musicxmlNotes';
import { readTabSystem } from './readTab';
import { TabReader } from './tabReader';
import { toTabText } from './tabText';

function read(text: string, wish: ChartWish = {}): ChartReading {
  const answer = readChart(text, wish);
  if ('problem' in answer) throw new Error(answer.problem.message);
  return answer.chart;
}
const lineOf = (chart: ChartReading) => chartProgression(chart, 'bar').replace(/^Song:\n/, '');
/** Notes of every bar of a chart, and the strokes of those that have a rhythm of their own. */
const barsOf = (chart: ChartReading) =>
  chart.sections.flatMap(({ lines }) =>
    lines.flatMap(({ played = [] }) =>
      played.map(({ pattern, tune }) =>
        tune
          ? tune.notes.map(({ at, string, fret, how }) => `${at} s${string}f${fret}${how ?? ''}`)
          : (pattern?.beats.map(({ slots }) => slots.map(({ kind }) => kind).join(' ')) ?? 'usual'),
      ),
    ),
  );

/** The song that a chart becomes on the instrument of another. */
function becomes(chart: ChartReading, { instrument }: Song): Song {
  const song = newSong({
    title: chart.title ?? 'Untitled',
    instrument,
    meter: chart.meter ?? METERS['4/4'],
    progression: chartProgression(chart, 'bar'),
  });
  return withChart(song, chart);
}
/** What sounds, by tick, string and fret. */
const soundsOf = (song: Song) =>
  new Set(
    arrangement(song).performance.strikes.flatMap(({ tick, kind, notes }) =>
      kind === 'chuck'
        ? [`${tick} x`]
        : notes
            .filter(({ passing }) => !passing)
            .map(({ string, fret }) => `${tick} ${string} ${fret}`),
    ),
  );

describe('tablature as text', () => {
  const weir = newSong({
    title: 'Weir',
    instrument: 'guitar',
    progression: 'Verse:\nC | G . . D\nOrder: Verse x2',
  });

  it('has chords above, strings from the highest, counts below, and says what comes again', () => {
    const quarters = builtInPatterns().find(({ name }) => name === 'Four downs')!;
    expect(toTabText({ ...weir, capo: 2, pattern: quarters })).toBe(
      [
        'Weir',
        'Tempo 80',
        'Meter 4/4',
        'Capo 2',
        'Tuning E A D G B E',
        '',
        '[Verse] (x2)',
        '',
        '   C         G     D',
        'e|-0-0-0-0-|-3-3-3-2-|',
        'B|-1-1-1-1-|-0-0-0-3-|',
        'G|-0-0-0-0-|-0-0-0-2-|',
        'D|-2-2-2-2-|-0-0-0-0-|',
        'A|-3-3-3-3-|-2-2-2---|',
        'E|---------|-3-3-3---|',
        '   1 2 3 4   1 2 3 4',
        '',
      ].join('\n'),
    );
  });

  it('comes back with every note where it was, for every strum of the shelf, on guitars and ukuleles', () => {
    for (const pattern of builtInPatterns().filter(({ meter }) => !meter.cycle)) {
      for (const instrument of ['guitar', 'ukulele'] as const) {
        const start = { title: pattern.name, instrument, meter: pattern.meter };
        const song = { ...newSong({ ...start, progression: 'G | C | D | Em' }), pattern };
        const back = becomes(read(toTabText(song)), song);
        expect(soundsOf(back), pattern.name).toEqual(soundsOf(song));
      }
    }
  }, 60_000);

  const strikesOf = (song: Song) => {
    const { bars, performance } = arrangement(song);
    const strikes = joinedStrikes(performance.strikes);
    const strings = song.instrument.strings.length;
    const words = ({ kind, notes }: Strike) =>
      kind === 'chuck'
        ? 'x'
        : [
            ...new Map(
              notes.map(({ string, fret }) => [string, `${strings - string}:${fret}`]),
            ).values(),
          ]
            .sort()
            .join(' ');
    return bars.map((bar) => {
      const into = ({ tick }: Strike) => tick - bar.tick + bar.lead;
      const own = strikes.filter(({ tick }) => tick >= bar.tick && tick < bar.tick + bar.ticks);
      const part = beatTicks(bar.meter) / 24;
      const hasPlaces = own.every(
        (strike, at) =>
          into(strike) % part === 0 && (at === 0 || into(strike) !== into(own[at - 1]!)),
      );
      // A cycle begins on any of its numbers, so that a part of one cannot be told from a bar of its own.
      if (!hasPlaces || (bar.lead > 0 && bar.meter.cycle)) return null;
      return own
        .filter(({ kind, notes }) => kind === 'chuck' || notes.length > 0)
        .map((strike) => `${into(strike)} ${words(strike)}`);
    });
  };

  it('has every note of any song on its string, at its time, in rows of 76 letters', () => {
    fc.assert(
      fc.property(documents, (song) => {
        const text = toTabText(song);
        const rows = text.split('\n');
        for (const row of rows.slice(rows.indexOf(''))) expect(row.length).toBeLessThanOrEqual(76);
        if (song.instrument.strings.length < 3 || /^\[.*\] \(x/m.test(text)) return;
        const reader = new TabReader(rows, chordsInRow, {});
        const wish = { meter: song.meter, noteTicks: 480 };
        const found = reader.systems.flatMap((system) =>
          readTabSystem(system, wish).bars.map(({ events }) =>
            events.map(({ at, notes, damped }) =>
              damped
                ? `${at} x`
                : `${at} ${notes
                    .map(({ string, fret }) => `${string}:${fret}`)
                    .sort()
                    .join(' ')}`,
            ),
          ),
        );
        const meant = strikesOf(song);
        expect(found).toHaveLength(meant.length);
        meant.forEach((bar, at) => bar && expect(found[at]).toEqual(bar));
      }),
      tries(120),
    );
  });
});

describe('tablature of others', () => {
  it('is notes on their strings where it is a line, with how they are joined', () => {
    const riff = read(
      [
        'Weir Riff',
        'e|-----------------|-----------------|',
        'B|-----------------|-----------------|',
        'G|-----------------|-----------------|',
        'D|-----0-2-0-------|-----0h2p0-------|',
        'A|-2-3-------3-2---|-2-3-------3/5\\3-|',
        'E|---------------3-|---------------3-|',
      ].join('\n'),
    );
    expect(barsOf(riff)).toEqual([
      [
        '0 s5f2',
        '480 s5f3',
        '960 s4f0',
        '1440 s4f2',
        '1920 s4f0',
        '2400 s5f3',
        '2880 s5f2',
        '3360 s6f3',
      ],
      [
        '0 s5f2',
        '480 s5f3',
        '960 s4f0',
        '1440 s4f2hammer',
        '1920 s4f0pull',
        '2400 s5f3',
        '2880 s5f5slide',
        '3360 s6f3',
        '3360 s5f3',
      ],
    ]);
    expect(riff.instrument).toBe('guitar');
    // A riff names no chord, and nobody said the meter.
    expect(lineOf(riff)).toBe('. | .');
    expect(riff.likelyMeters![0]).toBe(METERS['4/4']);
    expect(riff.unsureBars).toBeUndefined();
  });

  it('is picks on the chord that is named over it, the same for all that are picked alike', () => {
    const picked = read(
      [
        '    C               G',
        'E||-----0-------0---|-----3-------3---||',
        'B||---1---1---1---1-|---0---0---0---0-||',
        'G||-----------------|-----------------||',
        'D||-----------------|-----------------||',
        'A||-3-------3-------|-----------------||',
        'E||-----------------|-3-------3-------||  x2',
      ].join('\n'),
    );
    expect(lineOf(picked)).toBe('C | G x2');
    expect(barsOf(picked)).toEqual(['usual', 'usual']);
    expect(picked.pattern!.beats.flatMap(({ slots }) => slots.map(({ kind }) => kind))).toEqual([
      ...['bass', 'pick', 'pick', 'pick', 'bass', 'pick', 'pick', 'pick'],
    ]);
  });

  it('is damped strokes, soft notes, and names its chords by what sounds where nobody does', () => {
    const chucks = read(
      [
        'e|-0-x-0-x-|-(3)-----',
        'B|-1-x-1-x-|---------',
        'G|-2-x-2-x-|---------',
        'D|-2-x-2-x-|---------',
        'A|-0-x-0-x-|---------',
        'E|---x---x-|---------',
      ].join('\n'),
    );
    expect(lineOf(chucks)).toBe('Am | .');
    expect(barsOf(chucks)[0]).toEqual(['strum miss', 'chuck miss', 'strum miss', 'chuck miss']);
    expect(chucks.sections[0]!.lines[0]!.played![1]!.tune!.notes[0]).toMatchObject({
      fret: 3,
      accent: 'ghost',
    });
  });

  it('goes by the counts under it, meters, pick-ups and all', () => {
    const counted = read(
      [
        '   G     D       G',
        'e|---3-|-2-2-2-|-3-----|',
        'B|-0-0-|-3-3-3-|-0-----|',
        'G|-0-0-|-2-2-2-|-0---0-|',
        'D|-----|-0-----|-0-----|',
        '   3 &   1 2 3   1 2 3',
      ].join('\n'),
    );
    expect(counted.meter).toBe(METERS['3/4']);
    expect(counted.likelyMeters).toBeUndefined();
    expect(lineOf(counted)).toBe('(pickup 1) G | D | G');
    expect(counted.instrument).toBe('baritone');
  });

  it('asks where neither counts nor spacing say when notes come, and is read again', () => {
    const text = [
      'G|-0--2---3-----5--7-|',
      'D|-------------------|',
      'A|-------------------|',
    ].join('\n');
    const first = read(text);
    expect(first.unsureBars).toBe(1);
    expect(barsOf(first)).toEqual([['0 s1f0', '480 s1f2', '960 s1f3', '1440 s1f5', '1920 s1f7']]);
    const again = read(text, { noteTicks: 240, meter: METERS['3/4'] });
    expect(again.meter).toBe(METERS['3/4']);
    expect(barsOf(again)).toEqual([['0 s1f0', '240 s1f2', '480 s1f3', '720 s1f5', '960 s1f7']]);
  });

  it('says what has no place here, and keeps to one number of strings', () => {
    const bent = read(
      ['e|-5b7-5~-|', 'B|-------|', 'G|-------|', '', 'A|-1-|', 'E|---|', 'C|---|', 'G|---|'].join(
        '\n',
      ),
    );
    expect(bent.left.map(({ text }) => text)).toEqual([
      'bends',
      'tablature on 4 strings, beside one on 3',
    ]);
  });

  it('is left to its bars where the song is for another number of strings', () => {
    const chart = read(['A|-0-2-3-2-|', 'E|---------|', 'C|---------|', 'G|---------|'].join('\n'));
    expect(chart.instrument).toBe('ukulele');
    const guitar = newSong({ title: 'Weir', instrument: 'guitar', progression: '' });
    expect(becomes(chart, guitar).sections[0]!.lines[0]!.bars[0]!.rules).toBeUndefined();
    const ukulele = newSong({ title: 'Weir', instrument: 'ukulele', progression: '' });
    expect(soundsOf(becomes(chart, ukulele))).toEqual(
      new Set(['0 3 0', '960 3 2', '1920 3 3', '2880 3 2']),
    );
  });
});
