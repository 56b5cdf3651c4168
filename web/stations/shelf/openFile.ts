import type { RouteLocationRaw } from 'vue-router';
import { type Song, songSchema, MAX_TITLE_LETTERS } from '#core/schema';
import { type ChartAnswer, foreignFile, type ChartWish } from '#core/formats';
import { api } from '../../remote/client';
import { openSentTake } from '../../remote/sentTake';
import { useIncomingStore } from '../../stores/incoming';
import { readForeign, readTextChart } from '../../workers/readers';

const MAX_BYTES = 10_000_000;
const MAX_BYTES_OF_TAKE = 120_000_000;
const OPENS =
  'A song of this app (JSON), ChordPro, MusicXML (also compressed), ABC, MIDI files, tablature, and charts of chords over words can be opened.';

/**
 * Opens a song (JSON), a take that was sent (ZIP), or a chart (ChordPro, MusicXML, ABC, MIDI, chords over words).
 * @returns the way to what it became
 * @throws Error with what is wrong with it; nothing is changed then
 */
export async function openFile(file: File): Promise<RouteLocationRaw> {
  const start = new TextDecoder('latin1').decode(await file.slice(0, 2000).arrayBuffer());
  const isScore = /\.mxl$/i.test(file.name) || /^PK[^]*META-INF\/container\.xml/.test(start);
  const isTake = start.startsWith('PK') && !isScore;
  const most = isTake ? MAX_BYTES_OF_TAKE : MAX_BYTES;
  if (file.size > most) throw new Error(`it is larger than ${most / 1_000_000} MB.`);
  if (isTake) return openSentTake(file);
  const foreign = isScore ? null : foreignFile(start);
  if (foreign) throw new Error(`it is ${foreign}. ${OPENS}`);
  if (!isScore && !/^(MThd|\s*<|%abc|(%[^\n]*\n|\s)*X:\s*\d)/.test(start)) {
    const text = await file.text();
    if (/^\s*\{\s*"/.test(text)) return openSong(text);
    return lookThrough(await readTextChart(text), (wish) => readTextChart(text, wish));
  }
  const bytes = new Uint8Array(await file.arrayBuffer());
  const answer = await readForeign(bytes);
  if (!answer) throw new Error(`it can’t be read. ${OPENS}`);
  return lookThrough(answer, (wish) => readForeign(bytes, wish));
}

/** Puts what was read into the form of a new song, to be looked through. */
function lookThrough(
  answer: ChartAnswer,
  again: (wish: ChartWish) => Promise<ChartAnswer | null>,
): RouteLocationRaw {
  if ('problem' in answer) {
    const { line, column, message } = answer.problem;
    throw new Error(`line ${line}, column ${column}: ${message}`);
  }
  const incoming = useIncomingStore();
  incoming.open(answer.chart, again);
  return { name: 'new' };
}

/** Where in a text a JSON reader stopped, from its own words. */
function placeOf(text: string, message: string): string {
  const at = Number(/position (\d+)/.exec(message)?.[1] ?? text.length);
  const before = text.slice(0, at).split('\n');
  return `line ${before.length}, column ${before.at(-1)!.length + 1}`;
}

async function openSong(text: string): Promise<RouteLocationRaw> {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    throw new Error(`${placeOf(text, String(error))}: this is not whole JSON.`, { cause: error });
  }
  if (typeof raw !== 'object' || raw === null || !('schema' in raw && 'sections' in raw)) {
    throw new Error(`it is JSON of another program. ${OPENS}`);
  }
  const checked = songSchema.safeParse(raw);
  if (!checked.success) {
    const [issue] = checked.error.issues;
    throw new Error(`${issue!.path.join('.') || 'the document'}: ${issue!.message}.`);
  }
  const { title } = checked.data;
  const here = (await api.listSongs()).filter((song) => song.title === title);
  if (here.length > 0) throw new SongIsHere(checked.data, here[0]!.id);
  return songWay((await api.createSong(checked.data)).id);
}

const songWay = (id: string): RouteLocationRaw => ({ name: 'song', params: { id } });

/** A song of that title is on the shelf: whoever opens the file says what is to become of both. */
export class SongIsHere extends Error {
  constructor(
    readonly document: Song,
    readonly id: string,
  ) {
    super(`“${document.title}” is on the shelf already.`);
  }
}

/**
 * Puts the song of a file in the place of the one on the shelf.
 * @throws Error where that has been changed meanwhile
 */
export async function replaceSong({ document, id }: SongIsHere): Promise<RouteLocationRaw> {
  const { revision } = await api.readSong(id);
  await api.replaceSong(id, revision, document);
  return songWay(id);
}

/** Puts the song of a file beside the one on the shelf, under the next title that is free: "… 2". */
export async function keepBoth({ document }: SongIsHere): Promise<RouteLocationRaw> {
  const titles = new Set((await api.listSongs()).map(({ title }) => title));
  const named = (number: number) =>
    `${document.title.slice(0, MAX_TITLE_LETTERS - String(number).length - 1)} ${number}`;
  let number = 2;
  while (titles.has(named(number))) number += 1;
  return songWay((await api.createSong({ ...document, title: named(number) })).id);
}
