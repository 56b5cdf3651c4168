import type { Page } from '@playwright/test';

/** One sound handed to the audio clock. */
export interface Sound {
  /** When it is to sound, and when it was handed over, in seconds of the audio clock. */
  at: number;
  handed: number;
  /** Length of what is played, in seconds: clicks and chucks are short, plucks are long. */
  seconds: number;
}

/** Lets the test listen: notes every sound as it is handed to the audio clock. */
export async function listen(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const sounds: Sound[] = [];
    Object.assign(window, { heardSounds: sounds, heardIn: null });
    const { start } = AudioBufferSourceNode.prototype;
    AudioBufferSourceNode.prototype.start = function (
      this: AudioBufferSourceNode,
      at = 0,
      ...rest
    ) {
      const { currentTime } = this.context;
      Object.assign(window, { heardIn: this.context });
      sounds.push({ at, handed: currentTime, seconds: this.buffer?.duration ?? 0 });
      return start.call(this, at, ...(rest as []));
    };
  });
}

export const sounds = (page: Page): Promise<Sound[]> =>
  page.evaluate(() => (window as unknown as { heardSounds: Sound[] }).heardSounds);

/**
 * Seconds by which the latest sound came too late. None may on a free machine, which is for the bench to
 * say; where tests share two cores, a stall of the page may cost a little.
 */
export const lateness = (all: Sound[]) => Math.max(0, ...all.map(({ at, handed }) => handed - at));
export const A_STALL = 0.25;

/** How long a string that only rings along is rendered for. */
const ALONG = 2.4;
/** Plucks are rendered for seconds; everything percussive is much shorter. */
export const isPluck = (sound: Sound) =>
  sound.seconds > 1 && Math.abs(sound.seconds - ALONG) > 0.01;
export const isClick = (sound: Sound) => sound.seconds < 0.07;

/** Moments at which something begins that was silent for a while before: one for each strike. */
export function strikeTimes(all: Sound[]): number[] {
  const times = all
    .filter(isPluck)
    .map((sound) => sound.at)
    .sort((a, b) => a - b);
  return times.filter((time, index) => index === 0 || time - times[index - 1]! > 0.03);
}

/** Presses keys at moments of the audio clock, in seconds, as a player hears them. */
export function pressAt(page: Page, presses: { key: string; at: number }[]): Promise<void> {
  return page.evaluate(async (wanted) => {
    const context = (window as unknown as { heardIn: AudioContext }).heardIn;
    for (const { key, at } of wanted) {
      while (context.currentTime - (context.outputLatency || 0) < at) {
        await new Promise((resolve) => setTimeout(resolve, 2));
      }
      window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    }
  }, presses);
}
