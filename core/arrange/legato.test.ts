import { describe, expect, it } from 'vitest';

import { newPattern, placeStroke } from '../pattern';
import { said } from '../pattern/said.test-kit';
import { say } from '../stroke';
import { newSong } from '../song';
import { METERS } from '../time';
import { dryMix, USUAL_LEVELS, voices } from '../sound';
import { toMusicXml } from '../formats/musicxml';
import type { Song, Stroke } from '../schema';
import { arrange } from '.';

/** What the fretting hand sounds by itself, worked out by hand. */

const patternOf = (words: string) => said(words, newPattern(METERS['4/4']));

function songOf(words: string, progression = 'A', over: Partial<Song> = {}): Song {
  const song = newSong({ title: 'Lock', instrument: 'guitar', progression });
  return { ...song, pattern: patternOf(words), ...over };
}

/** Strings and frets that go on, with when, in beats. */
const legatoOf = (song: Song) =>
  arrange(song).strikes.flatMap(({ tick, notes }) =>
    notes.flatMap(({ string, fret, legato, passing }) =>
      legato && !passing
        ? [[tick / 960, 6 - string, `${legato.how} ${legato.from} to ${fret}`]]
        : [],
    ),
  );
const silentOf = (song: Song) => arrange(song).silent.map(({ message }) => message);

describe('in a slot of its own', () => {
  it('a hammer-on completes the chord an eighth after its pinch', () => {
    // A is x02220; the pinch has the second string open, one finger lifted.
    const song = songOf('R+R+3^-2 hammer, miss miss, miss miss, miss miss');
    expect(legatoOf(song)).toEqual([[0.5, 2, 'hammer 0 to 2']]);
    expect(silentOf(song)).toEqual([]);
  });

  it('a tag goes up and down on one string', () => {
    const song = songOf('s3f0 hammer:s3f2, pull:s3f0 miss, s4f2 slide:s4f4, miss miss');
    expect(legatoOf(song)).toEqual([
      [0.5, 3, 'hammer 0 to 2'],
      [1, 3, 'pull 2 to 0'],
      [2.5, 4, 'slide 2 to 4'],
    ]);
  });

  it('several in order share the slot', () => {
    const { strikes } = arrange(
      songOf('s3f0 hammer:s3f2>pull:s3f0, miss miss, miss miss, miss miss'),
    );
    const { notes } = strikes[1]!;
    expect(notes.map(({ fret }) => fret)).toEqual([2, 0]);
    expect(notes[1]!.delay).toBeGreaterThan(notes[0]!.delay);
  });

  it('what cannot be is silent, and says why', () => {
    const of = (words: string) => silentOf(songOf(`${words}, miss miss, miss miss, miss miss`));
    expect(of('miss hammer:s3f2')).toEqual([
      'Nothing rings on string 3 that could be hammered on.',
    ]);
    expect(of('s3f4 hammer:s3f2')).toEqual(['A hammer-on goes up, and string 3 rings at fret 4.']);
    expect(of('s3f2 pull:s3f4')).toEqual(['A pull-off goes down, and string 3 rings at fret 2.']);
    expect(of('s3f4 pull:s3f3')).toEqual([
      'No finger is behind the pull-off at fret 3 of string 3.',
    ]);
    expect(of('s3f4 pull:s3f3.2')).toEqual([]);
    expect(of('s3f2 slide:s3f2')).toEqual(['String 3 already sounds fret 2.']);
    expect(of('chuck hammer')).toEqual([
      'Hammer-on to the shape: nothing rings that it would change.',
    ]);
  });

  it('a chuck in between leaves nothing to sound', () => {
    const song = songOf('s3f0 chuck, hammer:s3f2 miss, miss miss, miss miss');
    expect(legatoOf(song)).toEqual([]);
  });

  it('a slide passes the frets between, and no strike has more notes than its instrument can', () => {
    const passed = (words: string) =>
      arrange(songOf(words)).strikes[1]!.notes.map(({ fret }) => fret);
    const rest = 'miss miss, miss miss, miss miss';
    expect(passed(`s4f2 slide:s4f7, ${rest}`)).toEqual([3, 4, 5, 6, 7]);
    expect(passed(`s4f9 slide:s4f7, ${rest}`)).toEqual([8, 7]);
    const far = passed(`down slide:s1f24+s2f24+s3f24+s4f24>slide:s1f1+s2f1+s3f1+s4f1, ${rest}`);
    expect(far.length).toBeLessThanOrEqual(40);
    expect(far.at(-1)).toBe(1);
  });

  it('the whole shape slides into the next chord, or away', () => {
    const song = songOf('down miss, miss miss, miss miss, miss slide:next', 'A | D');
    // D is xx0232: of the strings of A that ring, one stays under a finger. Nothing slides from or to an open one.
    expect(legatoOf(song)).toEqual([[3.5, 2, 'slide 2 to 3']]);
    const away = songOf('down slide:away, miss miss, miss miss, miss miss');
    expect(legatoOf(away)).toHaveLength(3);
    const frets = arrange(away).strikes[1]!.notes.map(({ fret }) => fret);
    expect(Math.min(...frets)).toBe(1);
  });

  it('nothing slides from an open string, or to one, and it is said', () => {
    expect(silentOf(songOf('s3f0 slide:s3f4, miss miss, miss miss, miss miss'))).toEqual([
      'Nothing slides from an open string, and string 3 rings open.',
    ]);
    expect(silentOf(songOf('s3f2 slide:s3f0, miss miss, miss miss, miss miss'))).toEqual([
      'Nothing slides to an open string, and string 3 would.',
    ]);
  });

  it('an open string that rings over a landing can be hammered on it', () => {
    // The first string of A rings open as D comes.
    const song = songOf('down miss, miss miss, miss miss, hammer:s1f2 miss', 'A . . D');
    expect(silentOf(song)).toEqual([]);
    expect(legatoOf(song)).toEqual([[3, 1, 'hammer 0 to 2']]);
  });
});

describe('an ornament', () => {
  it('is struck so many frets away and arrives at once', () => {
    const { strikes } = arrange(songOf('s3f2:hammer2 miss, miss miss, miss miss, miss miss'));
    const [first, then] = strikes[0]!.notes;
    expect([first!.fret, then!.fret]).toEqual([0, 2]);
    expect(then!.delay).toBeCloseTo(0.07, 3);
  });

  it('before its time arrives on it', () => {
    const { strikes } = arrange(songOf('down miss, s3f2:<slide1 miss, miss miss, miss miss'));
    const grace = strikes[1]!;
    expect(grace.tick).toBe(960);
    const arrives = grace.seconds + grace.notes.at(-1)!.delay;
    expect(arrives).toBeCloseTo(60 / 80, 2);
    expect(grace.seconds).toBeLessThan(60 / 80);
  });

  it('is each string’s own in a pinch, and both begin together', () => {
    const { strikes } = arrange(
      songOf('s5f5+s2f7:slide-2@5:pull3@2 miss, miss miss, miss miss, miss miss'),
    );
    const notes = strikes[0]!.notes.filter(({ passing }) => !passing);
    const of = (string: number) =>
      notes.filter((note) => note.string === string).map(({ fret }) => fret);
    expect([of(1), of(4)]).toEqual([
      [7, 5],
      [10, 7],
    ]);
    const early = arrange(
      songOf('down miss, s5f5+s2f7:<slide2@5:<hammer2@2 miss, miss miss, miss miss'),
    ).strikes[1]!;
    const onTime = early.notes.filter(({ legato }) => legato).map(({ delay }) => delay);
    expect(onTime).toHaveLength(2);
    for (const delay of onTime) expect(early.seconds + delay).toBeCloseTo(60 / 80, 2);
  });

  it('may go as far as the neck does', () => {
    const { strikes } = arrange(songOf('s3f12:slide7 miss, miss miss, miss miss, miss miss'));
    expect(strikes[0]!.notes[0]!.fret).toBe(5);
  });

  it('has no room below the nut', () => {
    const song = songOf('s3f1:hammer2 miss, miss miss, miss miss, miss miss');
    expect(silentOf(song)).toEqual([
      'No string of this stroke can be hammered on from 2 frets below.',
    ]);
  });
});

describe('a chord that arrives by a slide', () => {
  const slid = (): Song => {
    const song = songOf('down up, down up, down up, down up', "A . . A'");
    const [section] = song.sections;
    const [line] = section!.lines;
    const chords = line!.bars[0]!.chords.map((placement, index) =>
      index === 1 ? { ...placement, arrive: 'slide' as const } : placement,
    );
    return {
      ...song,
      sections: [{ ...section!, lines: [{ ...line!, bars: [{ chords }] }] }],
      chosenShapes: [
        {
          symbol: "A'",
          shape: { frets: [null, 0, 7, 6, 5, 0], fingers: [0, 0, 3, 2, 1, 0] },
          locked: false,
        },
      ],
    };
  };

  it('is not struck, and rings on along its strings', () => {
    const performance = arrange(slid());
    const landing = performance.strikes.find(({ tick }) => tick === 2880)!;
    expect(landing.kind).toBe('legato');
    expect(landing.landing).toBe(true);
    const to = landing.notes.filter(({ passing }) => !passing);
    expect(to.map(({ string, fret }) => [6 - string, fret])).toEqual([
      [2, 5],
      [3, 6],
      [4, 7],
    ]);
    expect(performance.landings[1]!.slides).toBe(true);
    // The open strings ring through; nothing is silenced as the chord lands.
    const rings = voices(performance, METERS['4/4']).filter(({ legato }) => legato);
    expect(rings.length).toBeGreaterThan(3);
  });
});

describe('in words and in files', () => {
  it('is said as it is read', () => {
    for (const words of [
      'hammer down, pull:s3f0 up, slide:next down, slide:1^2+2^2 up',
      's2f8.1+s5f7 hammer:s3f4>pull:s3f2, resting-bass up, down:hammer2@1 up, R:<slide-2 miss',
    ]) {
      expect(say(patternOf(words))).toBe(words);
    }
  });

  it('has its own elements in MusicXML', () => {
    const text = toMusicXml(
      songOf('s3f0 hammer:s3f2, slide:s3f4 miss, s2f3:hammer2 miss, s3f2 pull:s3f0'),
    );
    expect(text.match(/<hammer-on type="start" number="1">H<\/hammer-on>/g)).toHaveLength(2);
    expect(text.match(/<hammer-on type="stop" number="1">/g)).toHaveLength(2);
    expect(text.match(/<pull-off type="start"/g)).toHaveLength(1);
    expect(text.match(/<slide type="start"/g)).toHaveLength(1);
    expect(text.match(/<grace\/>/g)).toHaveLength(1);
  });
});

describe('two ornaments that come to one string', () => {
  it('are one, the first, and it is told', () => {
    // Above the root of A lies the D string, the fourth.
    const song = songOf('s3f0 miss, miss miss, miss miss, miss miss', 'A');
    const pinch: Stroke = {
      kind: 'pick',
      dir: 'down',
      accent: 'normal',
      strings: [{ string: '1' }, { string: 's4' }],
      grace: { how: 'hammer', frets: 1, string: '1' },
      moreGraces: [{ how: 'pull', frets: 2, string: 's4' }],
    };
    const { strikes, silent } = arrange({ ...song, pattern: placeStroke(song.pattern, 0, pinch) });
    expect(strikes[0]!.notes.map(({ string, legato }) => [string, legato?.how])).toEqual([
      [2, undefined],
      [2, 'hammer'],
    ]);
    expect(silent[0]!.message).toMatch(/^Two ornaments come to one string/);
  });
});

describe('as it is heard', () => {
  const RATE = 16000;
  function rendered(words: string): Float32Array {
    const song = songOf(words, 'A', { tempo: 60 });
    return dryMix({
      performance: arrange(song),
      meter: song.meter,
      family: 'guitar',
      click: null,
      groove: null,
      levels: USUAL_LEVELS,
      sampleRate: RATE,
    });
  }
  /** The most that energy rises within 10 ms, from 30 ms before a time to 50 ms after it. */
  function rise(sound: Float32Array, seconds: number): number {
    const block = RATE / 100;
    const energyAt = (index: number) =>
      sound.slice(index * block, (index + 1) * block).reduce((sum, one) => sum + one * one, 0);
    const first = Math.round(seconds * 100);
    return Math.max(
      ...Array.from(
        { length: 8 },
        (_, step) => energyAt(first - 3 + step) - energyAt(first - 4 + step),
      ),
    );
  }

  it('a hammer-on has no attack: its rise is 12 dB below that of a stroke', () => {
    const sound = rendered('miss s3f0, hammer:s3f2 miss, miss miss, miss miss');
    const [struck, hammered] = [rise(sound, 0.5), rise(sound, 1)];
    expect(10 * Math.log10(struck / Math.max(1e-12, hammered))).toBeGreaterThan(12);
  });

  it('a hammer-on is in tune within 3 cents', () => {
    const sound = rendered('s3f0 hammer:s3f2, miss miss, miss miss, miss miss').slice(
      Math.round(0.7 * RATE),
      Math.round(1.7 * RATE),
    );
    // A at 220 Hz: the phase of its fundamental over half a second says how far it is off.
    const phase = (from: number) => {
      let [re, im] = [0, 0];
      for (let index = 0; index < RATE / 4; index += 1) {
        const turn = (2 * Math.PI * 220 * (from + index)) / RATE;
        const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * index) / (RATE / 4));
        re += window * sound[from + index]! * Math.cos(turn);
        im -= window * sound[from + index]! * Math.sin(turn);
      }
      return Math.atan2(im, re);
    };
    const turned = phase(RATE / 4) - phase(0);
    const wrapped = Math.atan2(Math.sin(turned), Math.cos(turned));
    const hertz = 220 + wrapped / (2 * Math.PI * 0.25);
    expect(Math.abs(1200 * Math.log2(hertz / 220))).toBeLessThan(3);
  });
});
