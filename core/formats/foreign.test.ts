import { describe, expect, it } from 'vitest';
import { foreignFile } from './foreign';

describe('what a file is that is no song', () => {
  it.each([
    ['%PDF-1.7', 'a PDF file'],
    ['PK\x03\x04....', 'a ZIP file; an archive of everything is brought in on the Log'],
    ['RIFF\x10\x00\x00\x00WAVEfmt ', 'a sound; Practice listens to those'],
    ['\x89PNG\r\n', 'a picture'],
    ['<!doctype html><p>', 'a web page'],
    [
      '<?xml version="1.0"?>\n<score-timewise>',
      'MusicXML by time; one by parts (score-partwise) can be read',
    ],
  ])('%j is told', (start, what) => {
    expect(foreignFile(start)).toBe(what);
  });

  it.each([
    '{title: Weir}',
    'G | C | D',
    '{"schema": 4}',
    'PK is no chord',
    '<score-partwise>',
    'MThd',
  ])('%j may be one', (start) => {
    expect(foreignFile(start)).toBeNull();
  });
});
