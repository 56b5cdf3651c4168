import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { ErrorBody } from '#core/schema';
import type { z } from 'zod';
import { storageSentence } from './storage';

/** A refusal with its status; `body` is what the client is told. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly body: ErrorBody,
    readonly headers: Readonly<Record<string, string>> = {},
  ) {
    super(body.error);
  }
}

/** What is answered where a part of a file is asked for that it has not got; null where something else is wrong. */
export const noRange = (error: unknown): Refusal | null =>
  (error as { status?: number }).status === 416
    ? new Refusal(416, { error: 'The file has no such part.' })
    : null;

/** Problems that an answer lists; the rest are counted. */
const LISTED = 20;
/** Letters of a path or a message that an answer repeats: it stays below 16 KB whatever was sent. */
const MAX_PATH_LETTERS = 200;
const MAX_MESSAGE_LETTERS = 300;
const MEGABYTE = 2 ** 20;

const short = (text: string, letters: number) =>
  text.length > letters ? `${text.slice(0, letters - 1)}…` : text;

function fieldPath(path: PropertyKey[]): string {
  const whole = path.reduce<string>((text, part) => {
    if (text.length > MAX_PATH_LETTERS) return text;
    if (typeof part === 'number') return `${text}[${part}]`;
    const key = short(String(part), MAX_PATH_LETTERS);
    return text ? `${text}.${key}` : key;
  }, '');
  return short(whole, MAX_PATH_LETTERS);
}

type Issue = z.core.$ZodIssue;

/** One problem for each unknown field, one for any other issue; no more than are listed. */
function problemsOf(issues: Issue[]): {
  problems: { path: string; message: string }[];
  all: number;
} {
  const problems: { path: string; message: string }[] = [];
  let all = 0;
  const add = (path: PropertyKey[], message: string) => {
    all += 1;
    if (problems.length < LISTED) {
      problems.push({ path: fieldPath(path), message: short(message, MAX_MESSAGE_LETTERS) });
    }
  };
  for (const issue of issues) {
    if (issue.code !== 'unrecognized_keys') add(issue.path, issue.message);
    else issue.keys.forEach((key) => add([...issue.path, key], 'is not a field of this document'));
  }
  return { problems, all };
}

/** The result of a schema; more issues than a call can carry count as one. */
function safely<T extends z.ZodType>(schema: T, input: unknown): z.ZodSafeParseResult<z.infer<T>> {
  try {
    return schema.safeParse(input);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    const message = 'almost nothing in it is as it should be';
    throw new Refusal(400, {
      error: `Nothing was changed: ${message}.`,
      problems: [{ path: '', message }],
    });
  }
}

/**
 * Validates what came in.
 * @param within where it lies in what was sent
 * @throws Refusal 400 that names the path of the bad fields, the first of them where they are many
 */
export function check<T extends z.ZodType>(
  schema: T,
  input: unknown,
  within: PropertyKey[] = [],
): z.infer<T> {
  const result = safely(schema, input);
  if (result.success) return result.data;
  const issues = result.error.issues.map((issue) => ({
    ...issue,
    path: [...within, ...issue.path],
  }));
  const { problems, all } = problemsOf(issues);
  const { path, message } = problems[0]!;
  const others = all > 1 ? ` (and ${all - 1} more)` : '';
  throw new Refusal(400, {
    error: `Nothing was changed: ${path ? `${path}: ` : ''}${message}${others}`,
    problems,
    ...(all > problems.length && { more: all - problems.length }),
  });
}

export const noSuchRoute: RequestHandler = (request) => {
  const path = short(request.baseUrl + request.path, MAX_PATH_LETTERS);
  throw new Refusal(404, { error: `There is nothing at ${request.method} ${path}.` });
};

/** What a failed request is answered with. */
function answerOf(
  error: unknown,
): { status: number; body: ErrorBody; headers?: Readonly<Record<string, string>> } | null {
  // What reads a body gives a refusal another status, and puts the whole of what was sent into it.
  const verified = (error as { type?: string }).type === 'entity.verify.failed';
  if (error instanceof Refusal)
    return verified ? { status: 400, body: { error: error.message } } : error;
  const { type, status, message, limit } = error as {
    type?: string;
    status?: number;
    message?: string;
    limit?: number;
  };
  const said = short(String(message), MAX_MESSAGE_LETTERS);
  if (type === 'entity.too.large') {
    return {
      status: 413,
      body: {
        error: `The request is larger than ${Math.round((limit ?? MEGABYTE) / MEGABYTE)} MB; nothing was changed.`,
      },
    };
  }
  if (type === 'entity.parse.failed') {
    const problems = [{ path: '', message: said }];
    return {
      status: 400,
      body: { error: `The request is not JSON; nothing was changed: ${said}`, problems },
    };
  }
  if (typeof status === 'number' && status >= 400 && status < 500) {
    return { status, body: { error: `The request cannot be read: ${said}` } };
  }
  const storage = storageSentence(error);
  return storage && { status: storage.status, body: { error: storage.sentence } };
}

/** The last stop of every failed request. */
export const answerErrors: ErrorRequestHandler = (error, request, response, next) => {
  if (response.headersSent) return next(error);
  const answer = answerOf(error);
  if (!answer || answer.status >= 500) request.log?.error({ err: error }, 'request failed');
  if (answer?.headers) response.set(answer.headers);
  response
    .status(answer?.status ?? 500)
    .json(answer?.body ?? { error: 'The server could not do this. What you had is kept.' });
};
