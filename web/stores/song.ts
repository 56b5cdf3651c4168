import { messageOf } from '#core/plain';
import { useDebounceFn, useEventListener, useIntervalFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import {
  type Song,
  type StoredSong,
  storedSongSchema,
  MAX_TITLE_LETTERS,
  tooMuch,
} from '#core/schema';
import {
  type Command,
  type History,
  onRhythm,
  patternOf,
  perform,
  redo,
  type RhythmTarget,
  startHistory,
  undo,
} from '#core/edit';
import { api, Away, Refused } from '../remote/client';
import { dropDraft, findDraft, keepDraft, onlyInWindow } from './drafts';

/**
 * Where the latest edit is: with the server, on its way, only in this browser because the server is away
 * or its disk cannot take it, in two versions, of a song that was deleted elsewhere, or refused.
 */
export type SaveState = 'saved' | 'saving' | 'away' | 'full' | 'conflict' | 'gone' | 'refused';

const DRAFT_AFTER = 200;
const SAVE_AFTER = 450;
const NEVER_LATER_THAN = 900;
const RETRY_EVERY = 2500;
/** Milliseconds within which edits of one field are undone as one. */
const ONE_STEP_WITHIN = 1500;
const TOLD_FOR = 4000;
/** Milliseconds for which a song that was asked for ahead is taken as it is. */
const AHEAD_FOR = 2000;
const OTHER_WINDOW = 'other window';
/** The server would keep it, but cannot now: its disk is full, or it is busy. */
const LATER = [503, 507];

/** The open song: its history, and the keeping of every edit. */
export const useSongStore = defineStore('song', () => {
  const id = ref<string | null>(null);
  const revision = ref(0);
  const history = shallowRef<History | null>(null);
  const state = ref<SaveState>('saved');
  /** One sentence about what happened to an edit, for the player. */
  const notice = ref<string | null>(null);
  /** What undo and redo did, for a moment. */
  const told = ref<string | null>(null);
  /** The server's version, where it and ours have parted. */
  const theirs = shallowRef<StoredSong | null>(null);
  let lastRun = 0;
  let kept: Song | null = null;
  let sending: Promise<void> | null = null;

  const song = computed(() => history.value?.song ?? null);
  const title = computed(() => song.value?.title ?? null);
  /** Whose rhythm the Strum station edits; the song's own where the target has none. */
  const target = shallowRef<RhythmTarget>({ of: 'song' });
  const rhythm = computed(() =>
    song.value ? (patternOf(song.value, target.value) ?? song.value.pattern) : null,
  );
  const undoName = computed(() => history.value?.past.at(-1)?.name ?? null);
  const redoName = computed(() => history.value?.future[0]?.name ?? null);

  /** A song that was asked for before it is opened, and when. */
  let ahead: { id: string; at: number; stored: Promise<StoredSong> } | null = null;
  /** Its document, once it is there. */
  const foreseen = shallowRef<Song | null>(null);

  /** Begins with a document: nothing of the one before is left. */
  function begin(songId: string | null, now: number, document: Song, current: Song): void {
    // What was asked for is older than what is edited from here on.
    ahead = null;
    foreseen.value = null;
    id.value = songId;
    revision.value = now;
    kept = document;
    history.value = startHistory(current);
    theirs.value = null;
    target.value = { of: 'song' };
    state.value = 'saved';
    notice.value = null;
  }
  const take = ({ id: songId, revision: now, document }: StoredSong, current: Song = document) =>
    begin(songId, now, document, current);

  /** Asks for a song that is about to be opened: the pointer or the focus is on its name. */
  function foresee(songId: string): void {
    // What is open may have edits on their way, so the server does not have it as it is.
    if (id.value === songId) return;
    if (ahead?.id === songId && Date.now() - ahead.at < AHEAD_FOR) return;
    const stored = api.readSong(songId);
    const mine = { id: songId, at: Date.now(), stored };
    ahead = mine;
    stored.then(
      ({ document }) => {
        if (ahead === mine) foreseen.value = document;
      },
      () => undefined,
    );
  }

  /** What was asked for a moment ago; else, or where that failed, it is asked for now. */
  async function read(songId: string): Promise<StoredSong> {
    const known = ahead?.id === songId && Date.now() - ahead.at < AHEAD_FOR ? ahead.stored : null;
    return (await known?.catch(() => null)) ?? api.readSong(songId);
  }

  /** Opens a song, with the edits that this browser kept for it. */
  async function open(songId: string): Promise<void> {
    if (id.value === songId && song.value) return;
    await flush();
    const stored = await read(songId);
    const draft = findDraft(songId);
    if (!draft || JSON.stringify(draft.document) === JSON.stringify(stored.document)) {
      dropDraft(songId);
      take(stored);
      return;
    }
    take(stored, draft.document);
    if (draft.revision === stored.revision) {
      notice.value = 'An edit that had not reached the server was kept here, and is back.';
      await send();
    } else {
      theirs.value = stored;
      state.value = 'conflict';
    }
  }

  /** Holds something to be played that is no song of the shelf, and is kept nowhere. */
  async function hold(document: Song): Promise<void> {
    await flush();
    begin(null, 0, document, document);
  }

  /** Whether edits are in this window alone: the browser has no room for them. */
  const onlyHere = ref(false);
  function writeDraft(): void {
    if (id.value && song.value && song.value !== kept) {
      keepDraft(id.value, revision.value, song.value);
      onlyHere.value = onlyInWindow();
    }
  }

  /** Sends the latest edit; one request at a time, and again while newer edits wait. */
  function send(keepalive = false): Promise<void> {
    sending ??= sendAll(keepalive).finally(() => {
      sending = null;
    });
    return sending;
  }

  async function sendAll(keepalive: boolean): Promise<void> {
    while (id.value && song.value && song.value !== kept && !theirs.value) {
      const [songId, document] = [id.value, song.value];
      state.value = 'saving';
      try {
        const stored = await api.replaceSong(songId, revision.value, document, keepalive);
        if (id.value !== songId) return;
        revision.value = stored.revision;
        kept = document;
      } catch (error) {
        writeDraft();
        if (error instanceof Away) {
          state.value = 'away';
        } else if (error instanceof Refused && error.status === 409) {
          theirs.value = storedSongSchema.parse(error.current);
          state.value = 'conflict';
        } else if (error instanceof Refused && error.status === 404) {
          state.value = 'gone';
        } else if (error instanceof Refused && LATER.includes(error.status)) {
          state.value = 'full';
          notice.value = error.message;
        } else {
          state.value = 'refused';
          notice.value = messageOf(error);
        }
        return;
      }
    }
    if (id.value && song.value === kept) {
      dropDraft(id.value);
      onlyHere.value = onlyInWindow();
      state.value = 'saved';
      notice.value = null;
    }
  }

  const draftSoon = useDebounceFn(writeDraft, DRAFT_AFTER, { maxWait: NEVER_LATER_THAN });
  const sendSoon = useDebounceFn(() => send(), SAVE_AFTER, { maxWait: NEVER_LATER_THAN });

  function edited(next: History): void {
    if (next === history.value) return;
    history.value = next;
    if (!id.value) return;
    if (state.value === 'saved') state.value = 'saving';
    void draftSoon();
    void sendSoon();
  }

  /**
   * Does a command on the open song.
   * @param joins whether it may be one step with the same command just before: typing in a field
   */
  function run(command: Command, joins = false): void {
    const now = Date.now();
    const goesOn = joins && now - lastRun < ONE_STEP_WITHIN;
    lastRun = now;
    if (!history.value) return;
    const next = perform(history.value, command, goesOn);
    const much = next === history.value ? null : tooMuch(next.song);
    if (much) notice.value = `That was not done: the song then ${much}.`;
    else edited(next);
  }

  /** Does a command on the rhythm that is edited. */
  function runOnRhythm(command: Command, joins = false): void {
    const has = song.value && patternOf(song.value, target.value);
    run(has ? onRhythm(target.value, command) : command, joins);
  }

  function stepBack(): void {
    const name = undoName.value;
    if (!history.value || name === null) return;
    edited(undo(history.value));
    tell(`Undone: ${name}.`);
  }

  function stepForth(): void {
    const name = redoName.value;
    if (!history.value || name === null) return;
    edited(redo(history.value));
    tell(`Done again: ${name}.`);
  }

  /** Says what was just done, for a moment. */
  function tell(words: string): void {
    told.value = words;
    forget();
  }
  const forget = useDebounceFn(() => (told.value = null), TOLD_FOR);

  /** Sends what waits, now. */
  async function flush(): Promise<void> {
    await send();
  }

  /** A version as a song of its own on the shelf. */
  const shelve = (document: Song, suffix: string) => {
    const room = MAX_TITLE_LETTERS - suffix.length - 3;
    return api.createSong({ ...document, title: `${document.title.slice(0, room)} (${suffix})` });
  };

  /** Where two versions have parted: goes on with ours; the newest of the other becomes a song of its own. */
  async function keepMine(): Promise<void> {
    if (!theirs.value) return;
    const other = await api.readSong(theirs.value.id);
    await shelve(other.document, OTHER_WINDOW);
    revision.value = other.revision;
    kept = other.document;
    theirs.value = null;
    await send();
    notice.value = `The other version is on the shelf as “${OTHER_WINDOW}”.`;
  }

  /** Keeps ours as a song of its own and goes on with the newest of the other. */
  async function keepBoth(): Promise<void> {
    if (!theirs.value || !song.value || !id.value) return;
    const other = await api.readSong(theirs.value.id);
    await shelve(song.value, 'my copy');
    dropDraft(other.id);
    take(other);
    notice.value = 'Your version is on the shelf as “my copy”.';
  }

  /** Puts a song back that was deleted elsewhere, as it is here. @returns where it is now */
  async function putBack(): Promise<string | null> {
    if (!song.value || !id.value) return null;
    const was = { id: id.value, revision: revision.value };
    const stored = await api.createSong(song.value, was);
    dropDraft(id.value);
    take(stored);
    notice.value = 'The song is back on the shelf.';
    return stored.id;
  }

  /** A window that comes to the front again shows the newest, unless it has an edit of its own. */
  async function catchUp(): Promise<void> {
    const songId = id.value;
    if (!songId || state.value !== 'saved' || song.value !== kept) return;
    const stored = await api.readSong(songId).catch(() => null);
    if (!stored || id.value !== songId || song.value !== kept) return;
    if (stored.revision <= revision.value) return;
    take(stored);
    notice.value = 'Changed in another window; this is the newest.';
  }

  /** Lets go of the open song, as after it was deleted. */
  function close(): void {
    if (id.value) dropDraft(id.value);
    id.value = null;
    history.value = null;
    kept = null;
    theirs.value = null;
    state.value = 'saved';
  }

  useIntervalFn(() => {
    if (state.value === 'away' || state.value === 'full') void send();
  }, RETRY_EVERY);
  useEventListener(window, 'online', () => void send());
  useEventListener(window, 'focus', () => void catchUp());
  useEventListener(window.document, 'visibilitychange', () => {
    if (window.document.visibilityState === 'visible') void catchUp();
  });
  useEventListener(window, 'beforeunload', (event) => {
    writeDraft();
    // Asked only where leaving would lose something.
    if (onlyInWindow()) event.preventDefault();
  });
  useEventListener(window, 'pagehide', () => {
    writeDraft();
    void send(true);
  });

  return {
    id,
    song,
    title,
    state,
    onlyHere,
    notice,
    told,
    theirs,
    undoName,
    redoName,
    foreseen,
    tell,
    foresee,
    open,
    hold,
    run,
    target,
    rhythm,
    runOnRhythm,
    stepBack,
    stepForth,
    flush,
    keepMine,
    keepBoth,
    putBack,
    catchUp,
    close,
  };
});
