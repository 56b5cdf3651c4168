import path from 'node:path';
import { tmpdir } from 'node:os';
import express from 'express';
import request from 'supertest';
import { describe, expect, it } from 'vitest';
import { version } from '../package.json';
import { aboutRoutes } from './routes/about';
import { isLoopback } from './reach';

describe('what the app says of itself', () => {
  it('is its version, and to the machine itself where the data lie', async () => {
    const app = express().use('/about', aboutRoutes(tmpdir()));
    const { body } = await request(app).get('/about');
    expect(body).toEqual({ version, folder: path.resolve(tmpdir()) });
  });

  it('names no folder where there is none, nor to another machine', async () => {
    const app = express().use('/about', aboutRoutes(undefined));
    expect((await request(app).get('/about')).body).toEqual({ version, folder: null });
    for (const own of ['127.0.0.1', '::1', '::ffff:127.0.0.1']) expect(isLoopback(own)).toBe(true);
    for (const other of ['192.0.2.7', '::ffff:192.0.2.7', '0.0.0.0'])
      expect(isLoopback(other)).toBe(false);
  });
});
