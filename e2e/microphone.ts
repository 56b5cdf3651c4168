import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page, PlaywrightWorkerArgs } from '@playwright/test';
import { type PlayedStroke, secondVoice, wavOf } from '../bench/secondVoice';
import type { App } from './app';

/** A stroke of a song, as the server tells it. */
export type ServedStroke = PlayedStroke & { landing: boolean; bar: number; chord: string | null };

/** The strokes of a song, as the server has them. */
export async function strokesOf(app: App, id: string): Promise<ServedStroke[]> {
  const answered = await fetch(`${app.url}/api/songs/${id}/performance`);
  return ((await answered.json()) as { strikes: ServedStroke[] }).strikes;
}

/** The strokes with every landing but the first so many seconds late. */
export const landingLate = (strokes: ServedStroke[], by: number): ServedStroke[] =>
  strokes.map((stroke) => ({
    ...stroke,
    seconds: stroke.seconds + (stroke.landing && stroke.seconds > 0 ? by : 0),
  }));

/** Gives strokes as a sound file, where the page asks for one. */
export async function sendTake(page: Page, strokes: PlayedStroke[]): Promise<void> {
  const sampleRate = 32_000;
  const samples = secondVoice(strokes, { sampleRate, lead: 1.3, noise: 40 });
  await page.locator('input[type=file]').setInputFiles({
    name: 'take.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(wavOf(samples, sampleRate)),
  });
}

/** The song that the page has open. */
export const songOf = (page: Page) => /songs\/([^/?]+)/.exec(page.url())![1]!;

/** What Chromium is started with so that a sound file plays the part of the microphone. */
export const hearing = (file: string) => [
  '--no-sandbox',
  '--disable-gpu',
  '--autoplay-policy=no-user-gesture-required',
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
  `--use-file-for-fake-audio-capture=${file}`,
];

/** Samples as a file that can be the microphone. */
export function microphoneFile(samples: Float32Array, rate: number): string {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'plucky-microphone-')), 'microphone.wav');
  writeFileSync(file, wavOf(samples, rate));
  return file;
}

/** A page whose microphone hears these samples, from their start each time that it is opened. */
export async function pageHearing(
  playwright: PlaywrightWorkerArgs['playwright'],
  samples: Float32Array,
  rate: number,
): Promise<Page> {
  const browser = await playwright.chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: hearing(microphoneFile(samples, rate)),
  });
  // A certificate that a server made for itself is one that the player said yes to.
  const viewport = { width: 1280, height: 800 };
  const page = await browser.newPage({ viewport, ignoreHTTPSErrors: true });
  page.on('close', () => void browser.close());
  return page;
}
