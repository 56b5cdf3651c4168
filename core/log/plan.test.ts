import { describe, expect, it } from 'vitest';
import { type DueThing, type PlannedSong, tonight } from '.';

const TODAY = '2031-05-08';
const song = (id: string, change: Partial<PlannedSong> = {}): PlannedSong => ({
  songId: id,
  song: `Song ${id}`,
  goal: 100,
  by: null,
  clean: 80,
  next: { rung: 'two before', name: 'Two Strokes Before', tempo: 72 },
  due: null,
  left: null,
  ...change,
});
const thing = (what: string, due: string): DueThing => ({
  what,
  songId: 'a',
  rung: null,
  tempo: null,
  due,
});
const main = (songs: PlannedSong[]) =>
  tonight(songs, 20, TODAY).find(({ kind }) => kind === 'rung')!.songId;
const dues = (songs: PlannedSong[], minutes: number, others: DueThing[] = []) =>
  tonight(songs, minutes, TODAY, others)
    .filter(({ kind }) => kind === 'due')
    .map(({ what }) => what);

describe('the song that an evening is for', () => {
  it('is the one that misses most of its goal, in any order of the shelf', () => {
    const [far, near] = [song('far', { clean: 50 }), song('near', { clean: 90 })];
    expect(main([far, near])).toBe('far');
    expect(main([near, far])).toBe('far');
    // As a share of its goal, and not in beats.
    expect(
      main([song('slow', { goal: 60, clean: 40 }), song('quick', { goal: 180, clean: 150 })]),
    ).toBe('slow');
  });

  it('was never clean: half of its goal is what it is taken for', () => {
    expect(main([song('never', { clean: null }), song('sixty', { clean: 60 })])).toBe('never');
    expect(main([song('never', { clean: null }), song('forty', { clean: 40 })])).toBe('forty');
    // What is beyond its goal misses nothing, and no less than nothing.
    expect(
      main([song('beyond', { clean: 140, by: '2031-05-09' }), song('ninety', { clean: 90 })]),
    ).toBe('ninety');
  });

  it('weighs more as its day comes near, twice as much two weeks before', () => {
    const soon = song('soon', { clean: 85, by: '2031-05-22' });
    expect(main([song('some', { clean: 71 }), soon])).toBe('soon');
    expect(main([song('more', { clean: 69 }), soon])).toBe('more');
    // A day that is over weighs as one that is tomorrow.
    expect(
      main([song('over', { clean: 98, by: '2031-05-01' }), song('other', { clean: 71 })]),
    ).toBe('over');
    expect(
      main([song('over', { clean: 99, by: '2031-05-01' }), song('other', { clean: 71 })]),
    ).toBe('other');
  });

  it('says why, with the days that are left', () => {
    const [first] = tonight([song('a', { by: '2031-05-10' })], 20, TODAY).filter(
      ({ kind }) => kind === 'rung',
    );
    expect(first).toMatchObject({
      what: 'Song a: two strokes before',
      why: 'farthest from its goal of 100, with 2 days left',
      rung: 'two before',
      tempo: 72,
    });
    const why = (by: string | null) =>
      tonight([song('a', { by })], 20, TODAY).find(({ kind }) => kind === 'rung')!.why;
    expect(why('2031-05-09')).toMatch(/1 day left$/);
    expect(why('2031-05-01')).toMatch(/0 days left$/);
    expect(why(null)).toBe('farthest from its goal of 100');
  });
});

describe('what is due again', () => {
  const far = song('far', { clean: 20 });
  it('is the song that waits longest, today or before, and not the one that is practised anyway', () => {
    const [old, older] = [song('old', { due: '2031-05-07' }), song('older', { due: '2031-05-02' })];
    expect(dues([far, old, older], 20)).toEqual(['Song older']);
    expect(dues([far, older, old], 20)).toEqual(['Song older']);
    expect(dues([far, song('today', { due: TODAY })], 20)).toEqual(['Song today']);
    expect(dues([far, song('tomorrow', { due: '2031-05-09' })], 20)).toEqual([]);
    expect(dues([song('far', { clean: 20, due: '2031-05-01' })], 20)).toEqual([]);
  });

  it('is played in full at what was clean, or at what comes next where nothing was', () => {
    const tempo = (change: Partial<PlannedSong>) =>
      tonight([far, song('due', { due: TODAY, ...change })], 20, TODAY).find(
        ({ kind }) => kind === 'due',
      );
    expect(tempo({ clean: 88 })).toMatchObject({
      rung: 'song',
      tempo: 88,
      why: 'due again, before it fades',
    });
    expect(tempo({ clean: null })!.tempo).toBe(72);
  });

  it('leaves room for changes and rhythms: one where no song is due, two from half an hour on', () => {
    const others = [
      thing('C to F', '2031-05-06'),
      thing('Am to G', '2031-05-04'),
      thing('D to A', TODAY),
      thing('E to B', '2031-05-09'),
    ];
    expect(dues([far], 29, others)).toEqual(['Am to G']);
    expect(dues([far], 30, others)).toEqual(['Am to G', 'C to F']);
    expect(dues([far], 30, [...others].reverse())).toEqual(['Am to G', 'C to F']);
    const song2 = song('due', { due: TODAY });
    expect(dues([far, song2], 29, others)).toEqual(['Song due']);
    expect(dues([far, song2], 30, others)).toEqual(['Song due', 'Am to G', 'C to F']);
    expect(dues([far], 30, [thing('D to A', TODAY), thing('E to B', '2031-05-09')])).toEqual([
      'D to A',
    ]);
  });

  it('is no change that is to be mended anyway', () => {
    const held = song('far', { clean: 20, left: 'C to F' });
    expect(dues([held], 20, [thing('C to F, to and fro', TODAY)])).toEqual([]);
    expect(dues([held], 20, [thing('F to C, to and fro', TODAY)])).toEqual(['F to C, to and fro']);
  });
});

describe('the change that is mended', () => {
  const change = (songs: PlannedSong[]) =>
    tonight(songs, 20, TODAY).find(({ kind }) => kind === 'change');
  it('is the one that holds most songs back, and says how many', () => {
    const songs = [
      song('a', { left: 'A to E' }),
      song('b', { left: 'C to F' }),
      song('c', { left: 'C to F' }),
      song('d'),
    ];
    expect(change(songs)).toMatchObject({
      what: 'C to F, to and fro',
      songId: 'b',
      why: 'it holds 2 songs back',
      rung: null,
      tempo: null,
    });
    expect(change(songs.slice(0, 1))).toMatchObject({ why: 'it holds Song a back' });
    expect(change([song('d')])).toBeUndefined();
  });
});

describe('how an evening begins and ends', () => {
  it('begins with the arm alone at three fifths of the song that is best, and ends on that song', () => {
    const items = tonight(
      [
        song('far', { clean: 40 }),
        song('good', { clean: 95 }),
        song('better', { goal: 50, clean: 49 }),
      ],
      30,
      TODAY,
    );
    expect(items[0]).toMatchObject({
      kind: 'warm-up',
      songId: 'better',
      what: 'The arm alone, to Song better',
      why: 'small and loose before anything is quick',
      rung: 'arm',
      tempo: 29,
    });
    expect(items.at(-1)).toMatchObject({
      kind: 'end',
      songId: 'better',
      what: 'Song better',
      why: 'clean at 49: good to end on',
      rung: 'song',
      tempo: 49,
    });
  });

  it('has nothing to end on where nothing was ever clean, and warms up by the goal', () => {
    const items = tonight([song('a', { clean: null })], 20, TODAY);
    expect(items.map(({ kind }) => kind)).toEqual(['warm-up', 'pause', 'rung']);
    expect(items[0]).toMatchObject({ songId: 'a', tempo: 60 });
  });

  it('ends on another song than was just played, where there is one', () => {
    const songs = [
      song('far', { clean: 20 }),
      song('due', { clean: 99, due: TODAY }),
      song('third', { clean: 60 }),
    ];
    expect(tonight(songs, 20, TODAY).at(-1)!.songId).toBe('third');
    expect(tonight(songs.slice(0, 2), 20, TODAY).at(-1)!.songId).toBe('due');
  });

  it('pauses before the long part, a minute from twenty minutes on and two from forty', () => {
    const pauses = (minutes: number) =>
      tonight([song('a')], minutes, TODAY).filter(({ kind }) => kind === 'pause');
    expect(pauses(19)).toEqual([]);
    expect(pauses(20).map(({ minutes }) => minutes)).toEqual([1]);
    expect(pauses(39).map(({ minutes }) => minutes)).toEqual([1]);
    expect(pauses(40)).toMatchObject([
      {
        minutes: 2,
        what: 'Hands off the strings',
        why: 'a rest that is taken keeps the hand well',
      },
    ]);
    const kinds = tonight([song('a')], 40, TODAY).map(({ kind }) => kind);
    expect(kinds.indexOf('pause')).toBe(kinds.indexOf('rung') - 1);
  });

  it('gives the rung what is over, and never more things than minutes', () => {
    const items = tonight([song('a')], 20, TODAY);
    const most = Math.max(...items.map(({ minutes }) => minutes));
    expect(items.find(({ kind }) => kind === 'rung')!.minutes).toBe(most);
    expect(
      tonight([song('a', { left: 'C to F' }), song('b', { due: TODAY })], 2, TODAY),
    ).toHaveLength(2);
  });
});
