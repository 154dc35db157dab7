import { type ChildProcess, spawn } from 'node:child_process';
import { expect, test } from '@playwright/test';
import { bench, closeBench, goTo, plugIn } from './helpers.ts';

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
  test.setTimeout(240_000);
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
  const { readFileSync } = await import('node:fs');
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
