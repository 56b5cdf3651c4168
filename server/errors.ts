import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { ErrorBody } from '#core';
import type { z } from 'zod';

/** A refusal with its status; `body` is what the client is told. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly body: ErrorBody,
  ) {
    super(body.error);
  }
}

function fieldPath(path: PropertyKey[]): string {
  return path.reduce<string>(
    (text, part) =>
      typeof part === 'number'
        ? `${text}[${part}]`
        : text
          ? `${text}.${String(part)}`
          : String(part),
    '',
  );
}

/**
 * Validates what came in.
 * @throws Refusal 400 that names the path of every bad field
 */
export function check<T extends z.ZodType>(schema: T, input: unknown): z.infer<T> {
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const problems = result.error.issues.flatMap((issue) => {
    const extra = issue.code === 'unrecognized_keys' ? issue.keys : [undefined];
    return extra.map((key) => ({
      path: fieldPath(key === undefined ? issue.path : [...issue.path, key]),
      message: issue.message,
    }));
  });
  const place = problems[0]!.path;
  throw new Refusal(400, {
    error: `Nothing was changed: ${place ? `${place}: ` : ''}${problems[0]!.message}`,
    problems,
  });
}

export const noSuchRoute: RequestHandler = (request) => {
  throw new Refusal(404, {
    error: `There is nothing at ${request.method} ${request.baseUrl}${request.path}.`,
  });
};

/** The last stop of every failed request. */
export const answerErrors: ErrorRequestHandler = (error, request, response, next) => {
  if (response.headersSent) return next(error);
  if (error instanceof Refusal) {
    response.status(error.status).json(error.body);
  } else if (error?.type === 'entity.too.large') {
    response.status(413).json({ error: 'The request is larger than 1 MB; nothing was changed.' });
  } else if (error?.type === 'entity.parse.failed') {
    const message = `The request is not JSON; nothing was changed: ${error.message}`;
    response.status(400).json({ error: message, problems: [{ path: '', message: error.message }] });
  } else if (typeof error?.status === 'number' && error.status < 500) {
    response.status(error.status).json({ error: `The request cannot be read: ${error.message}` });
  } else {
    request.log?.error({ err: error }, 'request failed');
    response.status(500).json({ error: 'The server could not do this. What you had is kept.' });
  }
};
