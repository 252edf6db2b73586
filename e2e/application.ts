import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { launch } from 'puppeteer-core';
import { CHROMIUM, CHROMIUM_FLAGS } from '../scripts/chromium.mjs';
import { barriersOn } from './barriers';

const root = new URL('../', import.meta.url).pathname;

/** What was made ready for the one of those that run suites who runs this one. */
const ofWorker = (name: string): string | undefined =>
  process.env[`${name}_${process.env.JEST_WORKER_ID ?? '1'}`];

/** Files of the demonstration. */
export const made = (name: string): string => join(root, 'demo/made', name);

/** Has a page begin as on a second visit: the tour of the workbench was left before. */
async function leaveTour(page: Page): Promise<void> {
  await page.evaluateOnNewDocument(() => {
    // The page may be one that has no storage, such as an empty one.
    if (location.protocol.startsWith('http') && localStorage.getItem('warper-preferences') === null)
      localStorage.setItem('warper-preferences', JSON.stringify({ toured: true }));
  });
}

/** Waits until an element has stayed where it is for a picture, as a message that slides in has not. */
const atRest = async (element: Element): Promise<void> => {
  const place = (): string => {
    const { x, y } = element.getBoundingClientRect();
    return `${x} ${y}`;
  };
  for (let tries = 0; tries < 60; tries++) {
    const before = place();
    await new Promise(requestAnimationFrame);
    if (place() === before) return;
  }
};

/** The served application in a browser, with a folder for what it downloads. */
export class Application {
  private constructor(
    readonly browser: Browser,
    readonly page: Page,
    readonly origin: string,
    private readonly server: ChildProcess,
    /** Folders that go with it: the library's, what is downloaded, the browser's profile. */
    private readonly folders: readonly [library: string, downloads: string, profile: string],
    /** Errors that the page threw or logged, and requests that left the machine. */
    readonly faults: string[],
  ) {}

  /**
   * @param settings environment of the server, such as the folder of its library
   * @param isFirst whether nobody was here before; else the browser has the demonstration already
   */
  static async start(settings: Readonly<Record<string, string>> = {}, isFirst = false): Promise<Application> {
    const PORT = isFirst ? '0' : (ofWorker('WARPER_E2E_PORT') ?? '0');
    const temporary = (name: string): string => mkdtempSync(join(tmpdir(), `warper-${name}-`));
    // Without clips to measure, unless a suite says which: that takes seconds of both cores.
    const library = temporary('library');
    const server = spawn(process.execPath, ['server/dist/server.mjs'], {
      cwd: root,
      env: { ...process.env, PORT, WARPER_LIBRARY: library, ...settings },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    const origin = await new Promise<string>((resolve, reject) => {
      server.stdout.on('data', (text: Buffer) => {
        const found = /http:\/\/localhost:\d+/.exec(String(text));
        if (found) resolve(found[0]);
      });
      server.on('exit', () => reject(new Error('The server stopped.')));
    });
    const downloads = temporary('downloads');
    const userDataDir = temporary('browser');
    const visited = ofWorker('WARPER_E2E_PROFILE');
    if (!isFirst && visited) cpSync(visited, userDataDir, { recursive: true });
    const browser = await launch({
      executablePath: CHROMIUM,
      headless: true,
      args: CHROMIUM_FLAGS,
      userDataDir,
    });
    const page = await browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    await leaveTour(page);
    const faults: string[] = [];
    page.on('pageerror', (error) => faults.push(error instanceof Error ? error.message : String(error)));
    page.on('request', (request) => {
      if (!request.url().startsWith(origin) && !/^(blob|data):/.test(request.url()))
        faults.push(`asked for ${request.url()}`);
    });
    const session = await browser.target().createCDPSession();
    await session.send('Browser.setDownloadBehavior', {
      behavior: 'allow',
      downloadPath: downloads,
      eventsEnabled: true,
    });
    return new Application(browser, page, origin, server, [library, downloads, userDataDir], faults);
  }

  async stop(): Promise<void> {
    await this.browser.close();
    await this.stopServer();
    for (const folder of this.folders) rmSync(folder, { recursive: true, force: true });
  }

  /** Ends the server, and leaves the page open. */
  async stopServer(): Promise<void> {
    if (this.server.exitCode !== null || this.server.signalCode !== null) return;
    const ended = new Promise((done) => this.server.once('exit', done));
    this.server.kill('SIGTERM');
    await ended;
  }

  async open(path: string): Promise<void> {
    await this.page.goto(this.origin + path);
  }

  /** Opens the library with the demonstration in it, as from a first visit. */
  async openLibrary(): Promise<void> {
    await this.open('/');
    await this.find('link', 'The Lamp Round');
    await this.press('link', 'Library');
    await this.page.waitForSelector('[data-clip-card="Walk"]', { timeout: 60_000 });
    await this.hasAllClips();
  }

  /** Waits until every clip of the demonstration has come, not only those of its scene. */
  async hasAllClips(): Promise<void> {
    await this.page.waitForFunction(() => localStorage.getItem('warper-demonstration') !== null, {
      timeout: 60_000,
    });
  }

  /** What axe finds serious or critical on the page as it is; by all of its rules, or by some. */
  barriers(rules: readonly string[] = []): Promise<string[]> {
    return barriersOn(this.page, rules);
  }

  /** An element by its role and name, as a screen reader finds it. */
  async find(role: string, name: string): Promise<ElementHandle<Element>> {
    const handle = await this.page.waitForSelector(`::-p-aria([name="${name}"][role="${role}"])`, {
      timeout: 60_000,
    });
    if (!handle) throw new Error(`There is no ${role} "${name}".`);
    return handle;
  }

  /** Presses an element; one that was drawn anew in the meantime is found again. */
  async press(role: string, name: string): Promise<void> {
    for (let i = 0; ; i++) {
      try {
        const element = await this.find(role, name);
        await element.evaluate(atRest);
        return await element.click();
      } catch (error) {
        if (i === 5 || !/detached|not clickable/i.test(String(error))) throw error;
      }
    }
  }

  /** Selects a character or prop by the head of its lane. */
  async select(name: string): Promise<void> {
    const head = await this.page.waitForSelector(
      `xpath/.//section[@aria-label="Timeline"]//button[.//span[normalize-space(.)="${name}"]]`,
    );
    await head?.evaluate((e) => {
      e.scrollIntoView({ block: 'center' });
      (e as HTMLElement).click();
    });
    await this.until(async () => (await this.card()).includes(name), `${name} is in hand`);
  }

  /** Chooses what begins with a text from a list that opens below its field. */
  async choose(name: string, text: string): Promise<void> {
    await this.press('combobox', name);
    await this.page.waitForSelector('[role=listbox]');
    const options = await this.page.$$('[role=option]');
    for (const option of options) {
      if (!(await option.evaluate((e) => (e as HTMLElement).innerText)).startsWith(text)) continue;
      // By its key: a list moves with its field while what is measured comes in above it.
      await option.press('Enter');
      await this.page.waitForSelector('[role=listbox]', { hidden: true });
      // The field has the focus again a moment after its list has gone, unless the choice has taken it away.
      const back = (): boolean => document.activeElement?.getAttribute('role') === 'combobox';
      await this.page.waitForFunction(back, { timeout: 3000 }).catch(() => undefined);
      return;
    }
    throw new Error(`${name} has no choice ${text}.`);
  }

  /** Opens a menu and presses an item of it; a menu that went with a button which was drawn anew is opened again. */
  async pressInMenu(button: string, item: string): Promise<void> {
    const selector = `::-p-aria([name="${item}"][role="menuitem"])`;
    for (let i = 0; ; i++) {
      await this.press('button', button);
      const shown = await this.page.waitForSelector(selector, { timeout: 8000 }).catch(() => null);
      if (shown) return this.press('menuitem', item);
      // What is behind an open menu cannot be found.
      await this.page.keyboard.press('Escape');
      if (i === 3) throw new Error(`The menu of "${button}" has no "${item}".`);
    }
  }

  /** Types a value into a field and leaves it. */
  async fill(name: string, value: string): Promise<void> {
    const field = await this.page.waitForSelector(`::-p-aria([name="${name}"][role="textbox"])`);
    await field!.click({ count: 3 });
    await field!.type(value);
    await field!.press('Enter');
  }

  /** A place at a segment: its middle, or just inside one of its edges; pixels of the page, a little below its top. */
  async grip(segment: string, part: 'body' | 'start' | 'end'): Promise<{ x: number; y: number }> {
    const element = await this.page.waitForSelector(`[data-segment="${segment}"]`);
    const { x, y, width } = (await element!.boundingBox())!;
    const at = { body: width / 2, start: 3, end: width - 3 }[part];
    return { x: x + at, y: y + 44 };
  }

  /** Waits until no join is being chosen. */
  async joinsSettled(page: Page = this.page): Promise<void> {
    // Asked again and again: a tab in the background draws no frames to wait for.
    while (await page.$('[data-timeline][aria-busy=true]'))
      await new Promise((resolve) => setTimeout(resolve, 50));
  }

  /** Labels of the segments on all lanes, in order, once their joins are chosen. */
  async segments(): Promise<string[]> {
    await this.joinsSettled();
    return this.page.$$eval('[data-segment]', (all) => all.map((e) => e.getAttribute('aria-label') ?? ''));
  }

  /** Labels of the seams on all lanes, in order. */
  async seams(): Promise<string[]> {
    await this.joinsSettled();
    const measuring = (): boolean =>
      [...document.querySelectorAll('[data-seam]')].some((e) => /being measured/.test(e.ariaLabel ?? ''));
    await this.page.waitForFunction(`!(${measuring.toString()})()`);
    return this.page.$$eval('[data-seam]', (all) => all.map((e) => e.getAttribute('aria-label') ?? ''));
  }

  /** Names of the clips that the browser keeps, in their order. */
  clips(): Promise<string[]> {
    return this.page.evaluate(
      () =>
        new Promise<string[]>((resolve) => {
          const open = indexedDB.open('warper');
          open.onsuccess = () => {
            const clips = open.result.transaction('clips').objectStore('clips').index('order').getAll();
            clips.onsuccess = () => {
              open.result.close();
              resolve((clips.result as { name: string }[]).map((c) => c.name));
            };
          };
        }),
    );
  }

  /** Brings a clip of the drawer to its top by looking for it, and waits until the list has come to rest. */
  async lookFor(name: string): Promise<ElementHandle<Element>> {
    const field = (await this.page.waitForSelector('aside[aria-label=Library] input[type=search]'))!;
    await field.click({ count: 3 });
    await field.type(name);
    const first = `[data-index="0"] [data-clip="${name}"]`;
    const listed = (): Promise<string> =>
      this.page.$$eval('[data-clip]', (all) => all.map((e) => (e as HTMLElement).dataset.clip).join());
    let before = '';
    await this.until(async () => {
      const now = await listed();
      const rests = now === before;
      before = now;
      await new Promise((resolve) => setTimeout(resolve, 60));
      return rests && (await this.page.$(first)) !== null;
    }, `${name} is found`);
    return (await this.page.$(first))!;
  }

  /** Waits until a condition on the page's text or elements holds. */
  async until(what: () => Promise<boolean>, why: string): Promise<void> {
    for (let since = Date.now(); Date.now() - since < 60_000;) {
      if (await what()) return;
      await new Promise((resolve) => setTimeout(resolve, 40));
    }
    const focus = await this.page.evaluate(() => document.activeElement?.outerHTML.slice(0, 160));
    throw new Error(`It never came to be that ${why}. The focus is on ${focus}`);
  }

  /** Waits until nothing moves in the view, which is then drawn twice as finely. */
  async viewAtRest(): Promise<void> {
    await this.page.waitForFunction(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('section[aria-label^="View"] canvas');
      return canvas !== null && canvas.width > 1.9 * canvas.clientWidth;
    });
  }

  /** What the card says of what is selected. */
  card(): Promise<string> {
    return this.page.$eval('aside[aria-label="Selection"]', (e) => e.innerText);
  }

  /** Presses a key while others are held. */
  async key(name: string, ...held: ('Control' | 'Shift')[]): Promise<void> {
    for (const h of held) await this.page.keyboard.down(h);
    await this.page.keyboard.press(name as 'Enter');
    for (const h of held) await this.page.keyboard.up(h);
  }

  /** Takes the focus from whatever has it. */
  blur(): Promise<void> {
    return this.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  }

  /** Drags with the pointer, in steps as a hand does. */
  async drag(from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
    const { mouse } = this.page;
    await mouse.move(from.x, from.y);
    await mouse.down();
    await mouse.move(from.x + 6, from.y + 3, { steps: 2 });
    await mouse.move(to.x, to.y, { steps: 6 });
    await mouse.up();
  }

  /** Makes a new scene with the Keeper in it. */
  async newKeeperScene(): Promise<void> {
    await this.open('/');
    await this.find('link', 'The Lamp Round');
    await this.press('button', 'New scene');
    await this.press('button', 'Character');
    await (await this.page.waitForSelector('[role=menuitem] ::-p-text(Keeper)'))!.click();
    await this.page.waitForSelector('[data-lane]');
  }

  /** Puts the playhead at a frame, at the zoom that a page begins with. */
  async seek(frame: number): Promise<void> {
    const { x, y } = (await (await this.page.$('[data-ruler]'))!.boundingBox())!;
    await this.page.mouse.click(x + frame * 1.25, y + 8);
  }

  /** Drags a clip of the drawer to a frame of the first character's own lane. */
  async dropClip(name: string, frame: number): Promise<void> {
    const before = (await this.segments()).length;
    await this.dragClip(name, frame);
    await this.until(async () => (await this.segments()).length === before + 1, `${name} is on the lane`);
  }

  /** The same, whether it is taken there or not. */
  async dragClip(name: string, frame: number): Promise<void> {
    const clip = await this.lookFor(name);
    await clip.scrollIntoView();
    const from = (await clip.boundingBox())!;
    const own = await this.page.waitForSelector('[data-lane][aria-label^="Lane of"]');
    const lane = (await own!.boundingBox())!;
    await this.drag({ x: from.x + 40, y: from.y + 12 }, { x: lane.x + frame * 1.25, y: lane.y + 40 });
  }

  /** Saves a scene as a file from the list of scenes; by the keyboard, since pictures that come move what is below them. */
  async savedAsFile(scene: string): Promise<Uint8Array> {
    await this.open('/');
    await this.find('link', scene);
    await (await this.find('button', `More for ${scene}`)).press('Enter');
    await (await this.find('menuitem', 'Save as file')).press('Enter');
    return this.downloaded('.warper');
  }

  /** Whether a file was downloaded that nobody has taken yet. */
  hasDownloaded(extension: string): boolean {
    return readdirSync(this.folders[1]).some((name) => name.endsWith(extension));
  }

  /** The newest downloaded file, once it is whole. */
  async downloaded(extension: string): Promise<Uint8Array> {
    const [, folder] = this.folders;
    // The browser keeps the place of a file with an empty one while its content comes.
    const whole = (): string | undefined =>
      readdirSync(folder).find((name) => name.endsWith(extension) && statSync(join(folder, name)).size > 0);
    await this.until(() => Promise.resolve(whole() !== undefined), `a ${extension} file was downloaded`);
    const path = join(folder, whole()!);
    const bytes = new Uint8Array(readFileSync(path));
    rmSync(path);
    return bytes;
  }
}
