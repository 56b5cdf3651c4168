import type { IncomingMessage, ServerResponse } from 'node:http';
import express, { type RequestHandler } from 'express';
import { MAX_BARS_OF_LINE, MAX_ROWS_AT_ONCE } from '#core/schema';
import { Refusal } from './errors';

/**
 * How large what is sent may be as a structure, beside its bytes: more than any valid document has, few
 * enough to be looked through in a few milliseconds. It is checked before the schema, which says of every
 * wrong field what is wrong with it.
 */
const DEEPEST = 24;
const MAX_KEYS = 60;
const MAX_ITEMS = MAX_BARS_OF_LINE;
/** A valid document of 1 MB has at most about 140,000: a miss is 16 bytes for two. Rows of a log have sixteen each. */
const MAX_VALUES = 16 * MAX_ROWS_AT_ONCE;
/** Letters of a path that an answer repeats. */
const MAX_PATH_LETTERS = 120;

interface Place {
  value: object;
  depth: number;
  path: string;
}

function refuse(path: string, message: string): never {
  const shown = path.slice(0, MAX_PATH_LETTERS);
  throw new Refusal(400, {
    error: `Nothing was changed: ${shown ? `${shown}: ` : ''}${message}`,
    problems: [{ path: shown, message }],
  });
}

/**
 * Refuses what no document could be, without recursion.
 * @param mostItems of any list in it
 * @throws Refusal 400 with the place
 */
export function checkBounds(body: unknown, mostItems: number = MAX_ITEMS): void {
  if (typeof body !== 'object' || body === null) return;
  const waiting: Place[] = [{ value: body, depth: 1, path: '' }];
  let values = 1;
  for (let place = waiting.pop(); place; place = waiting.pop()) {
    const { value, depth, path } = place;
    const isList = Array.isArray(value);
    if (depth > DEEPEST) refuse(path, `is nested more than ${DEEPEST} levels deep`);
    // Its length is asked before it is walked: a list of millions is not.
    if (isList && value.length > mostItems) {
      refuse(path, `has ${value.length} items; ${mostItems} is the most of any list here`);
    }
    const entries = Object.entries(value);
    if (!isList && entries.length > MAX_KEYS) {
      refuse(path, `has ${entries.length} fields; ${MAX_KEYS} is the most of anything`);
    }
    values += entries.length;
    if (values > MAX_VALUES) refuse('', `holds more than ${MAX_VALUES} values`);
    for (const [key, inner] of entries) {
      if (typeof inner !== 'object' || inner === null) continue;
      const at = isList ? `${path}[${key}]` : path ? `${path}.${key}` : key;
      waiting.push({ value: inner, depth: depth + 1, path: at.slice(0, MAX_PATH_LETTERS) });
    }
  }
}

/** Nothing deeper or longer than it can be comes near a schema: with lists of so many items. */
export const boundedTo =
  (mostItems: number): RequestHandler =>
  (request, _response, next) => {
    // Bytes are no structure.
    if (!Buffer.isBuffer(request.body)) checkBounds(request.body, mostItems);
    next();
  };
export const bounded = boundedTo(MAX_ITEMS);

/** Beyond this nothing is made of a text at all: the structure, looked through afterwards, says where it is too much. */
const MAX_READ = 2 * MAX_VALUES;
const DEEPEST_READ = 4 * DEEPEST;
const [QUOTE, BACKSLASH, COMMA] = [0x22, 0x5c, 0x2c];
const [OPENS, CLOSES] = [
  [0x5b, 0x7b],
  [0x5d, 0x7d],
];

/**
 * Refuses a text of JSON that would become millions of things, before any of them is made: its brackets and commas are
 * counted as bytes, some ten milliseconds for a megabyte of them.
 * @param most values, as everything counts that is or is in a list or an object
 * @throws Refusal 400
 */
export function checkText(bytes: Uint8Array, most: number = MAX_READ): void {
  let [values, depth] = [1, 0];
  for (let at = 0; at < bytes.length; at += 1) {
    const byte = bytes[at]!;
    if (byte === QUOTE) {
      for (at += 1; at < bytes.length && bytes[at] !== QUOTE; at += 1) {
        if (bytes[at] === BACKSLASH) at += 1;
      }
    } else if (byte === COMMA) values += 1;
    else if (OPENS!.includes(byte)) {
      values += 1;
      depth += 1;
      if (depth > DEEPEST_READ) refuse('', `is nested more than ${DEEPEST} levels deep`);
    } else if (CLOSES!.includes(byte)) depth -= 1;
    if (values > most) refuse('', `holds more than ${most} values`);
  }
}

/** Reads a body of JSON up to a size, as `1mb`, after its text has been looked through. */
export const jsonUpTo = (
  limit: string,
  type: string | ((request: IncomingMessage) => boolean) = 'application/json',
): RequestHandler =>
  express.json({
    limit,
    type,
    verify: (_request: IncomingMessage, _response: ServerResponse, bytes: Buffer) =>
      checkText(bytes),
  });
