import fc from 'fast-check';
import { expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { arrange } from '../arrange';
import { secondsPerTick } from '../time';
import { BEFORE_ALL, nextCues, voices } from '.';

it('strings ring from when to when as the cues have it, in any song', () => {
  fc.assert(
    fc.property(documents, (song) => {
      const performance = arrange(song);
      const perTick = secondsPerTick(song.tempo, song.meter);
      const close = performance.seconds + performance.tail * perTick;
      const { cues } = nextCues(
        BEFORE_ALL,
        { performance, family: 'guitar', click: null, groove: null },
        { from: 0, to: performance.ticks + performance.tail, at: (tick) => tick * perTick },
      );
      const ends = new Map(cues.flatMap((cue) => (cue.act === 'stop' ? [[cue.id, cue.time]] : [])));
      const rung = cues.flatMap((cue) => {
        // What nobody strikes is no note in a file.
        if (cue.act !== 'start' || !('midi' in cue.sound) || cue.sound.kind === 'along') return [];
        const end = Math.min(close, ends.get(cue.id) ?? close);
        return end > cue.time ? [[cue.sound.midi, cue.time.toFixed(6), end.toFixed(6)].join()] : [];
      });
      const said = voices(performance, song.meter).map(({ midi, start, end }) =>
        [midi, start.toFixed(6), end.toFixed(6)].join(),
      );
      expect(said.sort()).toEqual(rung.sort());
    }),
  );
});
