import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import express from 'express';
import { bench, closeBench, flyOut, goTo, plugIn } from './helpers.ts';

test.use({ serviceWorkers: 'allow' });

const PORT = Number(process.env.E2E_PORT ?? 4379) + 40;
let server: ChildProcess;

test.beforeAll(async () => {
  server = spawn(process.execPath, ['bin/wanderweg.mjs', 'serve', '--port', String(PORT)], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve) => server.stdout!.once('data', () => resolve()));
});
test.afterAll(() => void server.kill());

test('after one visit all of it works with the network off and its server stopped', async ({
  page,
  context,
}) => {
  test.setTimeout(400_000);
  const faults: string[] = [];
  page.on('pageerror', (e) => faults.push(e.message));
  const origin = `http://127.0.0.1:${PORT}`;
  await page.goto(origin);
  await page.getByRole('button', { name: 'Walk the demo' }).click();
  await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null, undefined, {
    timeout: 60_000,
  });
  const manifest = await page.evaluate(async () => {
    const link = document.querySelector<HTMLLinkElement>('link[rel=manifest]')!;
    return (await (await fetch(link.href)).json()) as { display: string; file_handlers: unknown[] };
  });
  expect(manifest).toMatchObject({ display: 'standalone', file_handlers: [{ action: '/' }] });
  server.kill();
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
  // A page that was never looked at.
  await page.goto(`${origin}/field/when-lost`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('When it is lost');
  // A craft that is dropped on the page, and something that is none.
  const drop = async (name: string, text: string) =>
    page.evaluate(
      ([n, t]) => {
        const data = new DataTransfer();
        data.items.add(new File([t!], n!, { type: 'application/json' }));
        document.body.dispatchEvent(
          new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }),
        );
      },
      [name, text],
    );
  await drop('poem.txt', 'roses are red');
  await expect(page.getByRole('alert')).toContainText(
    'poem.txt is no craft, site or history of ours. Nothing was changed.',
  );
  await drop('turnstone.wanderweg.json', readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
  await expect(page.getByText('Turnstone 1600 is open. What was open before is kept')).toBeVisible();
  // Rehearsed.
  await goTo(page, '/rehearse/one-flight');
  await page.getByRole('button', { name: 'Fly it' }).click();
  await expect(page.getByText('Comes home', { exact: true })).toBeVisible({ timeout: 60_000 });
  // A firmware out of what is kept.
  await plugIn(page, true);
  await closeBench(page);
  await goTo(page, '/build/firmware');
  await page.getByRole('button', { name: 'Take Pfad 3.2', exact: true }).click();
  await page.getByRole('button', { name: 'Put Pfad 3.2 on the board' }).click();
  await expect(page.getByText(/Writing: /)).toBeVisible({ timeout: 40_000 });
  await expect(page.getByText('The new firmware runs, read back as it was sent.')).toBeVisible({
    timeout: 120_000,
  });
  // Flown, and its flight read.
  await flyOut(page);
  await plugIn(page);
  await closeBench(page);
  await goTo(page, '/field/after-flight');
  await page.getByRole('button', { name: 'Read flight 1 from the board' }).click();
  await expect(page.getByRole('heading', { name: 'What surprised' })).toBeVisible({ timeout: 90_000 });
  await bench(page, 'USB cable', false);
  // Printed.
  await goTo(page, '/field/before-throw');
  await page.evaluate(() => {
    window.print = () => document.body.setAttribute('data-printed', 'yes');
  });
  await page.getByRole('button', { name: 'Print it on one page' }).click();
  await expect(page.locator('body')).toHaveAttribute('data-printed', 'yes');
  expect(faults).toEqual([]);
});

test('a newer application is told of, waits for what is under way, and is taken when the person wants', async ({
  page,
}) => {
  // A copy of what is built, so that a newer one can take its place.
  const root = mkdtempSync(join(tmpdir(), 'wanderweg-newer-'));
  cpSync('dist/app', root, { recursive: true });
  const app = express();
  app.use('/releases', express.static('dist/firmware'));
  app.use(express.static(root, { etag: false }));
  app.get(/^[^.]*$/, (_, response) => void response.sendFile('index.html', { root }));
  const listening = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => listening.once('listening', resolve));
  const rewrite = (file: string, from: RegExp, to: string) => {
    const text = readFileSync(join(root, file), 'utf8');
    expect(text).toMatch(from);
    writeFileSync(join(root, file), text.replace(from, to));
  };
  try {
    await page.goto(`http://127.0.0.1:${(listening.address() as AddressInfo).port}`);
    await page.getByRole('button', { name: 'Walk the demo' }).click();
    await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null, undefined, {
      timeout: 60_000,
    });
    rewrite('index.html', /<title>Wanderweg</, '<title>Wanderweg, newer<');
    rewrite('sw.js', /(url:"index\.html",revision:")[0-9a-f]+/, '$1ffffffffffffffffffffffffffffffff');
    // A page asks for it every hour; here at once.
    await page.evaluate(async () => (await navigator.serviceWorker.getRegistration())?.update());
    const told = page.getByRole('status').filter({ hasText: 'A newer Wanderweg is here.' });
    await expect(told).toContainText('Your work is kept', { timeout: 60_000 });
    await expect(page).toHaveTitle(/Wanderweg$/);
    // Not in the middle of a flight.
    await goTo(page, '/rehearse/one-flight');
    await page.getByRole('button', { name: 'Fly it' }).click();
    await expect(told).toContainText('It is not taken while a flight is being rehearsed.');
    await expect(told.getByRole('button', { name: 'Take it now' })).toBeDisabled();
    const take = told.getByRole('button', { name: 'Take it now' });
    await expect(take).toBeEnabled({ timeout: 90_000 });
    await take.click();
    await expect(page).toHaveTitle('Wanderweg, newer', { timeout: 60_000 });
    await expect(told).toBeHidden();
    await expect(page.getByText('Turnstone 1600').first()).toBeVisible();
  } finally {
    listening.close();
    listening.closeAllConnections();
    rmSync(root, { recursive: true });
  }
});
