/**
 * What is said where storage fails: what is wrong, what was kept, what to do; never a bare code.
 */

/** What a failing write or read of the database is answered with, by the code of SQLite or the system. */
const WHILE_RUNNING: Record<string, { status: number; sentence: string }> = {
  SQLITE_FULL: {
    status: 507,
    sentence:
      'The disk is full, so this could not be saved. What was saved before is whole; make room, and it is sent again.',
  },
  SQLITE_READONLY: {
    status: 507,
    sentence:
      'The data file may not be written to. What was saved before is whole; make the file and its folder writable, and it is sent again.',
  },
  SQLITE_IOERR: {
    status: 507,
    sentence:
      'The disk did not take this. What was saved before is kept; look whether the disk is full or failing, and it is sent again.',
  },
  SQLITE_BUSY: {
    status: 503,
    sentence: 'Another program holds the data file. Nothing was changed; it is tried again.',
  },
  SQLITE_CORRUPT: {
    status: 503,
    sentence:
      'The data file is damaged. Nothing was changed; stop the app, keep the file, and go back to a copy in the data folder.',
  },
  SQLITE_NOTADB: {
    status: 503,
    sentence:
      'The data file is no longer a database. Nothing was changed; stop the app, keep the file, and go back to a copy in the data folder.',
  },
  SQLITE_CANTOPEN: {
    status: 503,
    sentence:
      'The data file cannot be opened. Nothing was changed; look whether its folder is still there.',
  },
};
WHILE_RUNNING.ENOSPC = WHILE_RUNNING.SQLITE_FULL!;

/** The code of an error, wherever its wrappers keep it; an extended one without its last part. */
export function codeOf(error: unknown): string | null {
  const { code, message, original, parent } = (error ?? {}) as {
    code?: unknown;
    message?: unknown;
    original?: unknown;
    parent?: unknown;
  };
  if (typeof code === 'string') return code;
  const within = original ?? parent;
  if (within && within !== error) return codeOf(within);
  return /\b(SQLITE_[A-Z]+)\b/.exec(String(message))?.[1] ?? null;
}

/** The answer to a request that storage failed; null where it was something else. */
export function storageSentence(error: unknown): { status: number; sentence: string } | null {
  const code = codeOf(error);
  return (code && WHILE_RUNNING[code]) || null;
}

/** A data folder or file that the app cannot start with; `message` is all that the player is told. */
export class CannotStart extends Error {}

/**
 * Why the app cannot start, in one sentence.
 * @param file the data file, or the folder where it is the folder that fails
 * @param copies the copies that lie beside it, newest first
 */
export function startSentence(code: string | null, file: string, copies: string[]): string | null {
  const back =
    copies.length > 0
      ? ` To go back to a copy, move the file away and rename ${copies[0]} to its name.`
      : ' There is no copy beside it; a recovery tool for SQLite may read what is left.';
  switch (code) {
    case 'SQLITE_NOTADB':
      return `${file} is not a database of this app. It was left as it is.${back}`;
    case 'SQLITE_CORRUPT':
      return `${file} is damaged. It was left as it is.${back}`;
    case 'SQLITE_FULL':
    case 'ENOSPC':
      return `The disk with ${file} is full. Nothing was changed; make room and start again.`;
    case 'SQLITE_READONLY':
    case 'SQLITE_CANTOPEN':
    case 'EACCES':
    case 'EPERM':
    case 'EROFS':
      return `${file} cannot be written to. Nothing was changed; make it and its folder writable, or name another folder in PLUCKY_DATA.`;
    case 'ENOTDIR':
    case 'EEXIST':
    case 'EISDIR':
      return `${file} is in the way: the data folder must be a folder, and the data file a file. Nothing was changed; name another folder in PLUCKY_DATA.`;
    case 'SQLITE_BUSY':
      return `Another program holds ${file}. Nothing was changed; end it and start again.`;
    case 'SQLITE_IOERR':
      return `The disk with ${file} did not answer as it should. Nothing was changed; look whether it is full or failing.`;
    default:
      return null;
  }
}
