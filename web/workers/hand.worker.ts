import { expose } from 'comlink';
import type { ChangeTime, Song } from '#core/schema';
import { arrangement } from '#core/arrange';
import { handFrom, quickestSet, songHand } from '#core/hand';

/** What the hand has time for, worked out away from the page. */
const hand = {
  changes: (song: Song, timings: ChangeTime[]) =>
    songHand(arrangement(song), handFrom(timings, song.instrument)),
  quickest: (song: Song, timings: ChangeTime[]) =>
    quickestSet(arrangement(song), handFrom(timings, song.instrument)),
};

export type HandWorker = typeof hand;

expose(hand);
