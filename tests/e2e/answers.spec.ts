import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { begin, closeBench, goTo, open, plugIn, write } from './helpers.ts';

test('gains are raised together by keys, seen to ring before they fly, and taken down by the finding', async ({
  page,
}) => {
  const faults = await open(page, '/build/airframe');
  await page.getByRole('link', { name: 'Begin another craft' }).click();
  await begin(page, 'Avocet 7');
  await plugIn(page, true);
  await closeBench(page);
  await goTo(page, '/refine/answers');
  await expect(page.getByRole('heading', { level: 1, name: 'How it answers' })).toBeVisible();
  const status = page.getByRole('main').getByRole('status').first();
  await expect(status).toContainText(/In a hover it is up in 0\.\d+ s/);
  await expect(page.getByRole('img', { name: /degrees left over; .*motors/ })).toBeVisible();
  const handle = page.getByRole('slider', { name: /P, I and D together/ });
  await handle.focus();
  for (let k = 0; k < 9; k++) await page.keyboard.press('Shift+ArrowRight');
  await expect(status).toContainText(/it rings by itself, \d+\.?\d* times a second/);
  await page
    .getByRole('button', { name: /finding/ })
    .last()
    .click();
  const finding = page.getByText('Roll would ring in a hover');
  await expect(finding).toBeVisible();
  await page
    .getByRole('button', { name: /^Take P, I and D down to \d+ %$/ })
    .first()
    .click();
  await expect(finding).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(status).toContainText(/In a hover it is up in 0\.\d+ s/);
  // What was promised is what the board has once it has read it back.
  await write(page);
  await expect(handle).toHaveAttribute('aria-valuenow', '1');
  await page.getByRole('button', { name: 'Fly it', exact: true }).click();
  await expect(
    page.getByText(/^Flown in the bench, its stick thrown about for a minute: up in 0\.\d+ s/),
  ).toBeVisible();
  await page.getByRole('radio', { name: 'Yaw' }).click();
  await expect(page.getByText(/^Flown in the bench/)).toHaveCount(0);
  await expect(page.getByRole('group', { name: /^Asked for \d+ degrees a second of yaw/ })).toBeVisible();
  expect(faults).toEqual([]);
});

test('a wanted answer is solved for gains and flown; a craft that does not arm says why it cannot be', async ({
  page,
}) => {
  await open(page, '/build/airframe');
  await goTo(page, '/refine/answers');
  const status = page.getByRole('main').getByRole('status').first();
  // As it comes out of its box the demo's craft turns half as fast as it is asked to, and does not arm.
  await expect(status).toContainText(/it comes to \d+ % of what is asked and no farther/);
  await page.getByRole('button', { name: 'Fly it', exact: true }).click();
  await expect(page.getByText(/the board refuses to arm\..* So nothing can be shown\.$/)).toBeVisible();
  await page.getByRole('button', { name: 'Find gains' }).click();
  await expect(status).toContainText(/it is up in 0\.\d+ s/);
  await expect(page.getByText(/So nothing can be shown/)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(status).toContainText(/no farther/);
  await page.keyboard.press('1');
  await page.getByRole('link', { name: 'Begin another craft' }).click();
  await begin(page, 'Sandpiper 1900');
  await goTo(page, '/refine/answers');
  await page.getByRole('radio', { name: 'Pitch' }).click();
  await page.getByLabel('Most over what is asked').fill('15');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Find gains' }).click();
  await expect(status).toContainText(/it is up in 0\.\d+ s, (\d|1[0-5]) % over/);
  await page.getByRole('button', { name: 'Fly it', exact: true }).click();
  await expect(page.getByText(/^Flown in the bench at .* up in 0\.\d+ s/)).toBeVisible();
});

test('a wing without a rudder is told so, and one is looked at over its speeds', async ({ page }) => {
  await open(page, '/build/airframe');
  await page.getByRole('link', { name: 'Begin another craft' }).click();
  await begin(page, 'Dunlin 900');
  await goTo(page, '/refine/answers');
  await page.getByRole('radio', { name: 'Yaw' }).click();
  await expect(page.getByText('Nothing on this craft turns it about yaw')).toBeVisible();
  await page.getByRole('radio', { name: 'Pitch' }).click();
  const mark = page.getByRole('slider', { name: 'Speed that is looked at' });
  const before = Number(await mark.getAttribute('aria-valuenow'));
  await mark.focus();
  for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+ArrowLeft');
  await expect(mark).toHaveAttribute('aria-valuenow', String(Number((before - 3).toFixed(1))));
  await expect(page.getByRole('main').getByRole('status').first()).toContainText(/^At \d+\.?\d* m\/s/);
});

test('an elevator with play is found out from a log, whatever its columns are called', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'wanderweg-e2e-'));
  const demo = 'demo/turnstone.wanderweg.json';
  const built = JSON.parse(readFileSync(demo, 'utf8'));
  const rod = { armMm: 11, hornMm: 19.123, rodMm: 62, shaftAftMm: -62, shaftUpMm: -8.123 };
  built.bench.linkages = [{ surface: 'elevator', ...rod, armLeanDeg: 0, hornLeanDeg: 0, playDeg: 3 }];
  writeFileSync(join(folder, 'built.json'), JSON.stringify(built));
  const log = join(folder, 'evening.csv');
  execFileSync(process.execPath, [
    ...['bin/wanderweg.mjs', 'answers', join(folder, 'built.json')],
    ...['--axis', 'pitch', '--log', log],
  ]);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles(demo);
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await goTo(page, '/refine/answers');
  await page.getByRole('radio', { name: 'Pitch' }).click();
  const lay = page.getByLabel('Log to lay over it');
  const why = page.getByRole('region', { name: 'Why it flew otherwise' });
  await lay.setInputFiles(log);
  await expect(why).toContainText(/is loose between servos and surfaces, about [2-3]\.?\d*° at the elevator/);
  // Of another axis it says nothing; nor does a table that is not understood, until its columns are named.
  await page.getByRole('radio', { name: 'Roll' }).click();
  await expect(why).toHaveCount(0);
  await page.getByRole('radio', { name: 'Pitch' }).click();
  const [, ...rows] = readFileSync(log, 'utf8').split('\n');
  const foreign = join(folder, 'foreign.csv');
  writeFileSync(foreign, `Zeit;Soll;Ist\n${rows.join('\n').replaceAll(',', ';')}`);
  await lay.setInputFiles(foreign);
  const columns = page.getByRole('group', { name: 'Columns of foreign.csv' });
  await columns.getByLabel('Time', { exact: true }).selectOption('Zeit');
  await columns.getByLabel('Rate asked for', { exact: true }).selectOption('Soll');
  await columns.getByLabel('Rate that came', { exact: true }).selectOption('Soll');
  await expect(columns).toContainText('One column cannot be two things.');
  await expect(columns.getByRole('button', { name: 'Read it so' })).toBeDisabled();
  await columns.getByLabel('Rate that came', { exact: true }).selectOption('Ist');
  await columns.getByLabel('Unit of time').selectOption('ms');
  await columns.getByRole('button', { name: 'Read it so' }).click();
  await expect(why).toContainText('is loose between servos and surfaces');
  await lay.setInputFiles({ name: 'holiday.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no log') });
  await expect(page.getByText(/holiday\.jpg is no flight log of a board/)).toBeVisible();
  await why.waitFor({ state: 'detached' });
  expect(faults).toEqual([]);
});
