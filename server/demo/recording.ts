import { Readable } from 'node:stream';
import type { Ticks } from '#core/plain';
import { beatMapSchema, type Song } from '#core/schema';
import { pulseTicks, secondsPerTick } from '#core/time';
import { arrangement, type Performance } from '#core/arrange';
import { dryMix, USUAL_LEVELS } from '#core/sound';
import { toWav } from '#core/formats';

import type { Database } from '../database';
import { keepFile } from '../recordings';

/** The circle's own recording of a song: its strings, with a tempo that breathes as players do. */

export const RECORDED = 'Ropes at First Light';
const RATE = 22_050;
/** Share by which the tempo goes up and down, and seconds from the one to the other and back. */
const BREATH = 0.04;
const TURN = 19;

/** Ticks by which a place of the song comes late, or early, where the tempo breathes. */
function shiftOf(song: Song): (tick: Ticks) => number {
  const perTick = secondsPerTick(song.tempo, song.meter);
  const wave = (BREATH * TURN) / (2 * Math.PI);
  return (tick) => (wave * (1 - Math.cos((2 * Math.PI * tick * perTick) / TURN))) / perTick;
}

/** A performance whose tempo breathes. */
function breathing(performance: Performance, shift: (tick: Ticks) => number): Performance {
  const late = <T extends { tick: Ticks; late: number }>(one: T): T => ({
    ...one,
    late: one.late + shift(one.tick),
  });
  return {
    ...performance,
    strikes: performance.strikes.map(late),
    landings: performance.landings.map(late),
  };
}

/** Renders the recording of the demo, and keeps it beside its song. */
export async function recordDemo(
  { recordings }: Pick<Database, 'recordings'>,
  folder: string,
  songId: string,
  song: Song,
): Promise<void> {
  const { performance } = arrangement(song);
  const shift = shiftOf(song);
  const perTick = secondsPerTick(song.tempo, song.meter);
  const sound = dryMix({
    performance: breathing(performance, shift),
    meter: song.meter,
    family: song.instrument.family,
    click: null,
    groove: null,
    levels: USUAL_LEVELS,
    sampleRate: RATE,
  });
  const wav = toWav(sound, RATE);
  const kept = await keepFile(folder, songId, Readable.from([Buffer.from(wav.buffer)]));
  const pulse = pulseTicks(song.meter);
  const pulses = Array.from({ length: Math.floor(performance.ticks / pulse) }, (_, index) => {
    const tick = index * pulse;
    return Number(((tick + shift(tick)) * perTick).toFixed(4));
  });
  const map = beatMapSchema.parse({
    meter: song.meter,
    pulses,
    sure: pulses.map(() => 1),
    one: 0,
    set: [],
  });
  await recordings.create({
    songId,
    name: 'The circle on a Thursday, from the sluice bench',
    madeAt: new Date(),
    map: JSON.stringify({ map, landings: [] }),
    ...kept,
  });
}
