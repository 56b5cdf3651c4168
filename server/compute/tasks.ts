import type { ChangeTime, TakeOnset, Song } from '#core/schema';
import { arrange, arrangement } from '#core/arrange';
import { handFrom, songHand } from '#core/hand';
import { judgeOnsets, judgeSound, readWav } from '#core/take';
import {
  chordPicture,
  pageSvg,
  pathPicture,
  type SheetWish,
  songSheet,
  USUAL_SHEET,
} from '#core/sheet';
import type { Format } from '#core/formats';
import { WRITERS } from '#core/formats/files';
import { engrave } from '#core/sheet/engrave';
import { sheetPdf } from '#core/sheet/pdf';
import { pictureFonts, sheetFonts } from './fonts';

/**
 * What is worked out from a song away from the thread that answers requests: its performance as JSON, a file,
 * what the hand has time for, or how a take of it was played. Each takes the document and gives what is sent.
 */
export type TaskName = 'performance' | 'changes' | 'take' | 'sheet' | 'picture' | Format['id'];

/** What a task takes beside the song. */
export interface TaskInput {
  /** For `changes`: what was timed on these strings. */
  timings?: ChangeTime[];
  /** For `take`: the bars that were played, from 0, and the sound of a WAV file or the onsets. */
  part?: { first: number; last: number };
  sound?: Uint8Array;
  onsets?: TakeOnset[];
  /** For `sheet`: for whom, and on which paper. */
  sheet?: SheetWish;
  /** For `picture`: the chord that is drawn; the path of the song's rhythm where it is left out. */
  chord?: { symbol: string; leftHanded: boolean };
}

/** @returns the bytes to send; text in UTF-8 */
export async function runTask(
  task: TaskName,
  song: Song,
  input: TaskInput = {},
): Promise<Uint8Array> {
  const made = await make(task, song, input);
  return typeof made === 'string' ? new TextEncoder().encode(made) : made;
}

function make(
  task: TaskName,
  song: Song,
  input: TaskInput,
): string | Uint8Array | Promise<Uint8Array> {
  const { timings = [], part, sound, onsets = [] } = input;
  switch (task) {
    case 'performance':
      return JSON.stringify(arrange(song));
    case 'changes':
      return JSON.stringify(songHand(arrangement(song), handFrom(timings, song.instrument)));
    case 'take': {
      const arranged = arrangement(song);
      return JSON.stringify(
        sound ? judgeSound(arranged, readWav(sound), part) : judgeOnsets(arranged, onsets, part),
      );
    }
    case 'sheet': {
      const sheet = songSheet(song, input.sheet ?? USUAL_SHEET, engrave);
      return sheetPdf([sheet], sheet.title, sheetFonts());
    }
    case 'picture': {
      const { chord } = input;
      const page = chord
        ? chordPicture(song, chord.symbol, chord.leftHanded)
        : pathPicture(song.pattern, song.instrument.strings.length, 'numbers');
      return page ? pageSvg(page, pictureFonts()) : '';
    }
    default:
      return WRITERS[task](song);
  }
}

/** Works something out from a song; rejects with a `Refusal` 503 where it takes too long or too much. */
export type Compute = (task: TaskName, song: Song, input?: TaskInput) => Promise<Uint8Array>;
