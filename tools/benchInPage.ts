import type { Page } from 'playwright-core';
import { remember, writeHistory } from '../src/core/formats/history.ts';
import type { SettingValue, Values } from '../src/core/settings/catalogue.ts';
import { pfadCatalogue } from '../src/firmware/catalogue.ts';
import { longLog } from '../src/testing/longLog.ts';
import { chromiumArgs, findChromium } from './chromium.mjs';

/** What the bench measures in the built application, in Chromium. */

/** Runs in the page: presses a key, and resolves with the time until the new leg is painted. As text, since it is not ours to compile. */
const CHANGE_LEG = `(key) => new Promise((resolve) => {
  const before = document.querySelector('h1');
  const start = performance.now();
  const look = () => {
    const now = document.querySelector('h1');
    if (now && now !== before) requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - start)));
    else requestAnimationFrame(look);
  };
  window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
  look();
})`;

/** Opens the built application in Chromium for a measurement. Null without a Chromium. */
export async function inPage<T>(measure: (page: Page) => Promise<T>): Promise<T | null> {
  const executablePath = findChromium();
  if (!executablePath) return null;
  const { chromium } = await import('playwright-core');
  const { createServer } = await import('../src/server/serve.ts');
  const server = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  const browser = await chromium.launch({ executablePath, args: chromiumArgs });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${port}/`);
    await page.getByRole('button', { name: 'Walk the demo' }).click();
    await page.getByRole('navigation', { name: 'Trail' }).waitFor();
    await page.waitForTimeout(2500);
    return await measure(page);
  } finally {
    await browser.close();
    server.close();
  }
}

/** Median time from the key that changes the leg to the paint of the new one. */
export async function legChangeMs(page: Page): Promise<number> {
  const times: number[] = [];
  for (let round = 0; round < 4; round++) {
    for (const key of ['3', '4', '6', '1']) {
      times.push(await page.evaluate<number>(`(${CHANGE_LEG})(${JSON.stringify(key)})`));
      await page.waitForTimeout(200);
    }
  }
  // The first visit of a leg loads it; the median is of legs that were seen before.
  const later = times.slice(4).sort((a, b) => a - b);
  return later[Math.floor(later.length / 2)]!;
}

/** A thousand snapshots of 450 settings each, of which every one differs from the next in all numbers. */
export function longHistory(): string {
  const usual = Object.entries(pfadCatalogue.defaults());
  const contents: Record<string, Values> = {};
  const snapshots = Array.from({ length: 1000 }, (_, n) => {
    const values: Record<string, SettingValue> = {};
    for (const [key, value] of usual) values[key] = typeof value === 'number' ? value + n / 1000 : value;
    for (let k = usual.length; k < 450; k++) values[`other.${k}`] = n + k;
    const of = {
      cause: n % 3 === 0 ? ('written' as const) : ('met' as const),
      board: 'Fell F7',
      target: 'fell-f7',
      revision: 'A',
      serial: `FF7-${n % 7}`,
      firmware: 'Pfad',
      version: '3.2',
      craft: 'Turnstone 1600',
      setup: n % 5 === 0 ? 'survey camera' : '',
    };
    const { snapshot } = remember([], of, values, new Date(Date.UTC(2026, 0, 1) + n * 3.6e6).toISOString());
    contents[snapshot.content] = values;
    return snapshot;
  });
  return writeHistory({ snapshots, contents });
}

interface TraceEvent {
  readonly ph: string;
  readonly name: string;
  readonly pid: number;
  readonly tid: number;
  readonly args?: { readonly name?: string };
  /** us of the thread's own time. */
  readonly tdur?: number;
}

/**
 * The longest task of a page's main thread while `work` goes on, ms of the thread's own time: a machine that is busy
 * elsewhere makes it wait, which is not the page's doing.
 */
async function longestTaskMs(page: Page, work: () => Promise<void>): Promise<number> {
  const browser = page.context().browser()!;
  await browser.startTracing(page, { categories: ['toplevel'] });
  await work();
  const trace: unknown = JSON.parse((await browser.stopTracing()).toString());
  const events = (trace as { traceEvents: readonly TraceEvent[] }).traceEvents;
  const thread = (e: TraceEvent) => `${e.pid}:${e.tid}`;
  const named = (e: TraceEvent) => e.name === 'thread_name' && e.args?.name === 'CrRendererMain';
  const mains = new Set(events.filter(named).map(thread));
  const tasks = events.filter((e) => e.ph === 'X' && mains.has(thread(e)));
  if (tasks.length === 0) throw new Error('the trace holds no task of the main thread');
  return tasks.reduce((most, e) => Math.max(most, e.tdur ?? 0), 0) / 1000;
}

const TELEMETRY_S = 30;

/** The longest task of the main thread in 30 s with a board connected and everything that it says on the screen. */
export async function telemetryMs(page: Page): Promise<number> {
  await page.evaluate(() => {
    history.pushState({}, '', '/steer/opposes');
    dispatchEvent(new PopStateEvent('popstate'));
  });
  const bench = page.getByRole('button', { name: /^Bench/ });
  await bench.click();
  await page.getByRole('switch', { name: /^USB cable/ }).click();
  await page.getByText('Fell F7, Pfad').waitFor();
  await page.getByRole('switch', { name: /^Battery/ }).click();
  await page.waitForTimeout(3000);
  return longestTaskMs(page, () => page.waitForTimeout(TELEMETRY_S * 1000));
}

/** The longest task of the main thread while the wind of the reach is turned and the place moved by keys. */
export async function reachDragMs(page: Page): Promise<number> {
  await page.evaluate(() => {
    history.pushState({}, '', '/return/reach');
    dispatchEvent(new PopStateEvent('popstate'));
  });
  const wind = page.getByRole('slider', { name: /^Wind/ });
  await wind.waitFor();
  await page.waitForTimeout(4000);
  return longestTaskMs(page, async () => {
    for (const handle of [wind, page.getByRole('slider', { name: /^Place that is looked at/ })]) {
      await handle.focus();
      for (let k = 0; k < 60; k++) {
        await page.keyboard.press('ArrowRight');
        await page.waitForTimeout(33);
      }
    }
    await page.waitForTimeout(2000);
  });
}

const IDLE_S = 15;

/** Share of a core that the page's own thread takes while a board is plugged in and nobody does anything, percent. */
export async function idlePercent(page: Page): Promise<number> {
  const bench = page.getByRole('button', { name: /^Bench/ });
  await bench.click();
  await page.getByRole('switch', { name: /^USB cable/ }).click();
  await page.getByText('Fell F7, Pfad').waitFor();
  await bench.click();
  await page.waitForTimeout(3000);
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable', { timeDomain: 'threadTicks' });
  const taken = async () => {
    const { metrics } = await cdp.send('Performance.getMetrics');
    return metrics.find((m) => m.name === 'TaskDuration')!.value;
  };
  const before = await taken();
  await page.waitForTimeout(IDLE_S * 1000);
  return (100 * ((await taken()) - before)) / IDLE_S;
}

/** Runs in the page: picks the snapshot at an index and waits until what differs is painted, ms. */
const PICK = `(index) => new Promise((resolve) => {
  const option = document.querySelectorAll('[role=listbox] [role=option]')[index];
  const id = option.dataset.id;
  const start = performance.now();
  const look = () => {
    const shown = document.querySelector('[aria-label="What differs"]').dataset.from === id;
    if (shown && document.querySelector('[aria-label=Differences] li'))
      setTimeout(() => resolve(performance.now() - start));
    else requestAnimationFrame(look);
  };
  option.click();
  requestAnimationFrame(look);
})`;

/** The line of time with a thousand snapshots: the longest task while it is scrolled and searched; median time to compare. */
export async function keepMs(page: Page): Promise<{ frame: number; compare: number }> {
  await page.evaluate(() => {
    history.pushState({}, '', '/build/keep');
    dispatchEvent(new PopStateEvent('popstate'));
  });
  await page
    .getByLabel('History file')
    .setInputFiles({ name: 'h.json', mimeType: 'application/json', buffer: Buffer.from(longHistory()) });
  await page.locator('[role=listbox] [role=option]').first().waitFor();
  // As they are met on a later day: read from the browser's store.
  await page.waitForTimeout(3000);
  await page.reload();
  await page.locator('[role=listbox] [role=option]').first().waitFor();
  await page.waitForTimeout(2000);
  // The first key of a page costs the browser itself something.
  await page.getByLabel('Search what was kept').press('s');
  await page.getByLabel('Search what was kept').fill('');
  await page.waitForTimeout(500);
  const frame = await longestTaskMs(page, async () => {
    await page.getByRole('listbox').hover();
    for (let k = 0; k < 60; k++) await page.mouse.wheel(0, 400);
    await page.getByLabel('Search what was kept').pressSequentially('survey camera', { delay: 60 });
    await page.getByLabel('Search what was kept').fill('');
    await page.waitForTimeout(1000);
  });
  const times: number[] = [];
  for (let k = 1; k < 8; k++) {
    times.push(await page.evaluate<number>(`(${PICK})(${k})`));
    await page.waitForTimeout(200);
  }
  times.sort((a, b) => a - b);
  return { frame, compare: times[Math.floor(times.length / 2)]! };
}

const PLOTTED = ['gyro', 'accelerometer'] as const;
const PLOTS_S = Number(process.env.PLOTS_S ?? 60);

/**
 * Twelve values at a hundred a second, plotted for a minute (or as long as `PLOTS_S` says): the longest task of the main thread,
 * ms, and by how much the heap grew after garbage was collected, MB.
 */
export async function plots(page: Page): Promise<{ readonly taskMs: number; readonly heapMb: number }> {
  await page.evaluate(() => {
    history.pushState({}, '', '/sense/everything');
    dispatchEvent(new PopStateEvent('popstate'));
  });
  const bench = page.getByRole('button', { name: /^Bench/ });
  await bench.click();
  await page.getByRole('switch', { name: /^Battery/ }).click();
  await page.getByRole('switch', { name: /^USB cable/ }).click();
  await page.getByText('Fell F7, Pfad').waitFor();
  await bench.click();
  await page.waitForTimeout(3000);
  for (const sensor of PLOTTED) {
    const group = page.getByRole('group', { name: `${sensor}, raw`, exact: true });
    for (const axis of ['x', 'y', 'z']) await group.getByRole('button', { name: axis, exact: true }).click();
  }
  const power = page.getByRole('group', { name: 'power', exact: true });
  for (const name of ['supply', 'current']) await power.getByRole('button', { name, exact: true }).click();
  const attitude = page.getByRole('group', { name: 'attitude', exact: true });
  for (const name of ['yaw', 'roll rate']) await attitude.getByRole('button', { name, exact: true }).click();
  await page.getByText(/^12 are as many/).waitFor();
  await page.waitForTimeout(20_000);
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const heap = async () => {
    await cdp.send('HeapProfiler.collectGarbage');
    const { metrics } = await cdp.send('Performance.getMetrics');
    return metrics.find((m) => m.name === 'JSHeapUsedSize')!.value / 1e6;
  };
  const before = await heap();
  await page.waitForTimeout(Math.max(0, PLOTS_S - 30) * 1000);
  const taskMs = await longestTaskMs(page, () => page.waitForTimeout(30_000));
  return { taskMs, heapMb: (await heap()) - before };
}

const PLAYED_MS = 6000;

/** Pictures a second while a flight plays under its overlay, drawn in software. */
export async function overlayFps(page: Page): Promise<number> {
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await page.getByText('Turnstone 1600 is open.').waitFor();
  await page.evaluate(
    "history.pushState({}, '', '/field/over-picture'); dispatchEvent(new PopStateEvent('popstate'))",
  );
  await page.getByRole('button', { name: 'Rehearse what the pilot sees' }).click();
  await page.getByLabel('Time of the flight').fill('100', { timeout: 120_000 });
  await page.getByRole('button', { name: 'Play the flight' }).click();
  await page.waitForTimeout(1000);
  const frames = await page.evaluate<number>(`new Promise((resolve) => {
    let frames = 0;
    const start = performance.now();
    const count = (now) => {
      if (now - start > ${PLAYED_MS}) return resolve(frames);
      frames++;
      requestAnimationFrame(count);
    };
    requestAnimationFrame(count);
  })`);
  return (1000 * frames) / PLAYED_MS;
}

const SCRUBBED_MS = 6000;

/** An hour of flight with four values along it, its cursor moved at every frame: the longest task, ms, and frames a second. */
export async function scrub(page: Page): Promise<{ readonly taskMs: number; readonly fps: number }> {
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await page.getByText('Turnstone 1600 is open.').waitFor();
  await page.evaluate(
    "history.pushState({}, '', '/field/after-flight'); dispatchEvent(new PopStateEvent('popstate'))",
  );
  const log = { name: 'an-hour.cbor', mimeType: 'application/cbor', buffer: Buffer.from(longLog(3600)) };
  await page.getByLabel('Flight log or track').setInputFiles(log);
  const time = page.getByRole('slider', { name: 'Time in the flight' });
  await time.waitFor({ timeout: 60_000 });
  for (const name of ['throttle', 'climb'])
    await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
  await time.scrollIntoViewIfNeeded();
  await page.waitForTimeout(1500);
  let fps = 0;
  const taskMs = await longestTaskMs(page, async () => {
    const frames = await page.evaluate<number>(`new Promise((resolve) => {
      const slider = document.querySelector('[aria-label="Time in the flight"]');
      slider.focus();
      let frames = 0;
      const start = performance.now();
      const step = (now) => {
        if (now - start > ${SCRUBBED_MS}) return resolve(frames);
        frames++;
        slider.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', shiftKey: true, bubbles: true }));
        requestAnimationFrame(step);
      };
      requestAnimationFrame(step);
    })`);
    fps = (1000 * frames) / SCRUBBED_MS;
  });
  return { taskMs, fps };
}
