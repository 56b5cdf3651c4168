import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Recording } from '#core/take';
import { wavOf } from './secondVoice';

/** Another onset detector to be measured beside, where it is installed: aubio-tools of Debian. */
const METHODS = ['energy', 'hfc', 'complex', 'specdiff', 'kl', 'mkl', 'specflux'];

/** Its methods; none where it is not installed. */
export const aubio = (): string[] =>
  spawnSync('aubioonset', ['--help']).status === 0 ? METHODS : [];

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-bench-'));
let last: Recording | null = null;

/** The onsets that it finds, in seconds; strokes are never nearer than a rake is long. */
export function aubioOnsets(recording: Recording, method: string): number[] {
  const file = path.join(folder, 'take.wav');
  if (last !== recording) writeFileSync(file, wavOf(recording.samples, recording.sampleRate));
  last = recording;
  const { stdout } = spawnSync('aubioonset', ['-i', file, '-O', method, '-M', '0.058'], {
    encoding: 'utf8',
  });
  return stdout.split('\n').filter(Boolean).map(Number);
}
