import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { test as base, expect, type Page } from '@playwright/test';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

/** The built server as its own process, on a data folder of its own. */
export class App {
  private child: ChildProcess | null = null;
  readonly folder: string;
  url = '';

  /**
   * @param name of what it is for, to tell its data folder by
   * @param host the address it listens on; of this machine alone where it is left out
   * @param https whether it serves with a certificate
   */
  constructor(
    name: string,
    private readonly host = '127.0.0.1',
    private readonly https = false,
  ) {
    this.folder = mkdtempSync(path.join(tmpdir(), `plucky-${name}-`));
  }

  /** Starts, on the port it had before if it ran before. */
  async start(): Promise<void> {
    const child = this.spawn();
    this.url = await readyAt(child);
  }

  /** Starts and kills it after so many milliseconds, wherever it is by then. */
  async startAndKill(after: number): Promise<void> {
    const child = this.spawn();
    const gone = new Promise((resolve) => child.once('exit', resolve));
    setTimeout(() => child.kill('SIGKILL'), after);
    await gone;
    this.child = null;
  }

  private spawn(): ChildProcess {
    const port = this.url ? new URL(this.url).port : '0';
    const options = ['--demo', ...(this.https ? ['--https'] : [])];
    const child = spawn('node', ['dist/server/index.js', ...options], {
      cwd: root,
      env: { ...process.env, PORT: port, HOST: this.host, PLUCKY_DATA: this.folder },
    });
    this.child = child;
    return child;
  }

  get running(): boolean {
    return this.child !== null;
  }

  /** Stops it in the middle of whatever it does. */
  async kill(): Promise<void> {
    const { child } = this;
    if (!child) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
    this.child = null;
  }

  /** Asks it to end, as a system that shuts down does. @returns milliseconds that it took */
  async terminate(): Promise<number> {
    const { child } = this;
    if (!child) return 0;
    const began = performance.now();
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    await gone;
    this.child = null;
    return performance.now() - began;
  }

  async end(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** The address that a server says it listens on. */
function readyAt(child: ChildProcess): Promise<string> {
  return new Promise<string>((resolve, reject) => {
    let said = '';
    const listen = (data: Buffer) => {
      said += String(data);
      const ready = /ready: (https?:\S+)/.exec(said);
      if (ready) resolve(ready[1]!);
    };
    child.stdout!.on('data', listen);
    child.stderr!.on('data', listen);
    child.once('exit', () => reject(new Error(`the server did not start: ${said}`)));
  });
}

/** A document of the shelf as it was at the start, and where it is now. */
interface Kept {
  id: string;
  revision: number;
  document: unknown;
}

const each = <T>(all: T[], act: (one: T) => Promise<void>) => Promise.all(all.map(act));

/** The shelf of a server, to be put back after a test as it was before the first. */
class Shelf {
  private readonly kinds = new Map<'songs' | 'patterns', Kept[]>();
  private timings: string[] = [];
  /** Of each song its takes, and what is known of the recording beside it, as text. */
  private readonly beside = new Map<string, { takes: string[]; recording: string }>();
  /** Rows of the log, by their ids. */
  private readonly rows = new Map<string, object>();

  constructor(private readonly app: App) {}

  private async ask(method: string, path: string, body?: unknown) {
    const answer = await fetch(`${this.app.url}/api/${path}`, {
      method,
      ...(body !== undefined && {
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      }),
    });
    return answer.status === 204 ? null : answer.json();
  }

  async remember(): Promise<void> {
    this.timings = await this.timed();
    for (const row of await this.logged()) this.rows.set(row.id, row);
    for (const kind of ['songs', 'patterns'] as const) {
      const list: { id: string }[] = await this.ask('GET', kind);
      const whole = list.map(({ id }) => this.ask('GET', `${kind}/${id}`));
      this.kinds.set(kind, await Promise.all(whole));
    }
    await each(this.kinds.get('songs')!, async ({ id }) => {
      this.beside.set(id, await this.besideOf(id));
    });
  }

  private async besideOf(id: string): Promise<{ takes: string[]; recording: string }> {
    const [takes, known]: [{ id: string }[], { map: unknown; landings: unknown } | null] =
      await Promise.all([
        this.ask('GET', `songs/${id}/takes`),
        this.ask('GET', `songs/${id}/recording/map`),
      ]);
    const recording = JSON.stringify(known && { map: known.map, landings: known.landings });
    return { takes: takes.map((take) => take.id), recording };
  }

  /** Takes that were judged, and recordings that were brought or mapped, as they were. */
  private async restoreBeside(): Promise<void> {
    await each([...this.beside], async ([id, { takes, recording }]) => {
      const now = await this.besideOf(id);
      for (const take of now.takes) {
        if (!takes.includes(take)) await this.ask('DELETE', `songs/${id}/takes/${take}`);
      }
      if (now.recording === recording) return;
      if (recording === 'null') await this.ask('DELETE', `songs/${id}/recording`);
      else await this.ask('PUT', `songs/${id}/recording/map`, JSON.parse(recording));
    });
  }

  private async timed(): Promise<string[]> {
    const list: { id: string }[] = await this.ask('GET', 'change-times');
    return list.map(({ id }) => id);
  }

  private async logged(): Promise<{ id: string }[]> {
    const file: { entries: { id: string }[] } = await this.ask('GET', 'log/export.json');
    return file.entries;
  }

  /** Takes out what was added, puts back what was changed, and makes anew what is missing. */
  async restore(): Promise<void> {
    await Promise.all([this.restoreTimings(), this.restoreLog(), this.restoreDocuments()]);
    // A song has to be there before what lies beside it.
    await this.restoreBeside();
  }

  private async restoreTimings(): Promise<void> {
    await each(await this.timed(), async (id) => {
      if (!this.timings.includes(id)) await this.ask('DELETE', `change-times/${id}`);
    });
  }

  private async restoreLog(): Promise<void> {
    const rows = await this.logged();
    await each(rows, async ({ id }) => {
      if (!this.rows.has(id)) await this.ask('DELETE', `log/${id}`);
    });
    const there = new Set(rows.map(({ id }) => id));
    await each([...this.rows], async ([id, row]) => {
      if (!there.has(id)) await this.ask('PUT', `log/${id}`, row);
    });
  }

  private async restoreDocuments(): Promise<void> {
    await each([...this.kinds], async ([kind, kept]) => {
      const list: { id: string; revision: number }[] = await this.ask('GET', kind);
      await each(list, async ({ id }) => {
        if (!kept.some((one) => one.id === id)) await this.ask('DELETE', `${kind}/${id}`);
      });
      await each(kept, async (one) => {
        const { document } = one;
        const now = list.find(({ id }) => id === one.id)?.revision;
        if (now === one.revision) return;
        const { id, revision } =
          now === undefined
            ? await this.ask('POST', kind, {
                document,
                was: { id: one.id, revision: one.revision },
              })
            : await this.ask('PUT', `${kind}/${one.id}`, { revision: now, document });
        Object.assign(one, { id, revision });
      });
    });
  }
}

interface Fixtures {
  app: App;
  /** What the test expects the page to log as errors. */
  expected: { errors: RegExp[] };
}
interface WorkerFixtures {
  served: { app: App; shelf: Shelf };
}

/** Tests on a running app, one server a worker; a page that logs an error fails its test. */
export const test = base.extend<Fixtures, WorkerFixtures>({
  served: [
    async ({ browserName }, use) => {
      const app = new App(browserName);
      await app.start();
      const shelf = new Shelf(app);
      await shelf.remember();
      await use({ app, shelf });
      await app.end();
    },
    { scope: 'worker' },
  ],
  app: async ({ served: { app, shelf } }, use) => {
    if (!app.running) await app.start();
    await shelf.restore();
    await use(app);
  },
  expected: [{ errors: [] }, { option: true }],
  // It asks for the app, so that the page is done with before the app ends.
  page: async ({ page, app, expected }, use) => {
    expect(app.url).not.toBe('');
    // Most journeys change settings: their line stays open, as for a player who opened it once.
    await page.addInitScript(() => localStorage.setItem('plucky-wrist:settings-open', 'true'));
    const errors: string[] = [];
    page.on('console', (message) => {
      const text = `${message.type()}: ${message.text()}`;
      const foreseen = expected.errors.some((pattern) => pattern.test(text));
      if (['error', 'warning'].includes(message.type()) && !foreseen) errors.push(text);
    });
    page.on('pageerror', (error) => errors.push(error.message));
    await use(page);
    expect(errors, 'what the page logged').toEqual([]);
    // What is still on its way to the server belongs to this test and not to the next.
    await page.close();
  },
});

export { expect };

/** Opens a demo song from the shelf. */
export async function openSong(page: Page, app: App, title: string): Promise<void> {
  await page.goto(app.url);
  await page.getByRole('link', { name: title }).click();
  await expect(page.getByRole('button', { name: /^Bar 1:/ })).toBeVisible();
}

/** Goes to a station, and is there. */
export async function goTo(page: Page, station: string): Promise<void> {
  const link = page.getByRole('navigation').getByRole('link', { name: station, exact: true });
  await link.click();
  await expect(link).toHaveAttribute('aria-current', 'page');
}

export const saved = (page: Page) =>
  expect(page.getByTestId('save-state')).toHaveText(/^\s*Saved\s*$/);

/** The sentence that a slot of the wrist path speaks. */
export const slot = (page: Page, index: number) =>
  page.getByRole('listbox', { name: 'Strokes of the pattern' }).getByRole('option').nth(index);

/** Opens a panel of the station. */
export async function look(page: Page, panel: string): Promise<void> {
  await page
    .getByRole('group', { name: 'Look at' })
    .getByRole('button', { name: panel, exact: true })
    .click();
}
