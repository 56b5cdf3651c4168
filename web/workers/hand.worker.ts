import { expose } from 'comlink';
import { arrangement, type ChangeTime, handFrom, quickestSet, type Song, songHand } from '#core';

/** What the hand has time for, worked out away from the page. */
const hand = {
  changes: (song: Song, timings: ChangeTime[]) =>
    songHand(arrangement(song), handFrom(timings, song.instrument)),
  quickest: (song: Song, timings: ChangeTime[]) =>
    quickestSet(arrangement(song), handFrom(timings, song.instrument)),
};

export type HandWorker = typeof hand;

expose(hand);
