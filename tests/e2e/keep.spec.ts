import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { bench, closeBench, open, plugIn, write } from './helpers.ts';

const kept = '[role=listbox] [role=option]';

test('what was on a board is kept, compared and taken back; it is known when it is met again', async ({
  page,
}) => {
  const faults = await open(page);
  await plugIn(page);
  await closeBench(page);
  await expect(page.getByText('Met for the first time; what it holds was kept.')).toBeVisible();
  await page.goto('/return/way-home');
  await plugIn(page);
  await closeBench(page);
  await page.getByRole('textbox', { name: 'Return height' }).fill('415');
  await page.keyboard.press('Enter');
  await write(page);
  await page.getByRole('link', { name: 'Build' }).click();
  await page
    .getByRole('link', { name: /What was kept/ })
    .first()
    .click();
  await expect(page.locator(kept)).toHaveCount(2);

  // By keys: down to the older one, which had another return height.
  await page.getByRole('listbox').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('1 setting differs.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Differences' })).toContainText('Return height120 m→415 m');
  await page.getByRole('button', { name: 'Take Return height into the tray' }).click();
  await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
  await expect(page.getByText('They are the same in every setting.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();

  // A note, and a named set-up with a snapshot of its own.
  await page.getByLabel('Note on this snapshot').fill('as delivered');
  await page.keyboard.press('Enter');
  await page.getByLabel('Set-up').selectOption({ label: 'another…' });
  await page.getByLabel('New set-up').fill('survey camera');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep the board as it is' }).click();
  await expect(page.locator(kept)).toHaveCount(3);

  // All of it is there after a reload, and the board is met again unchanged.
  await page.reload();
  await expect(page.locator(kept)).toHaveCount(3);
  await expect(page.locator(kept).last()).toContainText('as delivered');
  await page.getByLabel('Search what was kept').fill('camera');
  await expect(page.locator(kept)).toHaveCount(1);
  await plugIn(page);
  await page.getByRole('link', { name: /Who is there/ }).click();
  await expect(page.getByText(/Last seen .* Nothing on it has changed since\./)).toBeVisible();

  // Let go and had back; saved to a file and brought in again.
  await closeBench(page);
  await page
    .getByRole('link', { name: /What was kept/ })
    .first()
    .click();
  await page.locator(kept).last().click();
  await page.getByRole('button', { name: 'Let go', exact: true }).click();
  await expect(page.locator(kept)).toHaveCount(2);
  await page.getByRole('button', { name: 'Have them back' }).click();
  await expect(page.locator(kept)).toHaveCount(3);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save all to a file' }).click();
  const file = await (await download).path();
  expect(JSON.parse(readFileSync(file, 'utf8')).snapshots).toHaveLength(3);
  await page.getByLabel('History file').setInputFiles(file);
  await expect(page.getByText('0 snapshots were brought in; 3 were here already.')).toBeVisible();
  await page
    .getByLabel('History file')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{"format":1}') });
  await expect(page.getByRole('alert')).toContainText('Nothing was taken from it.');
  expect(faults).toEqual([]);
});

test('another craft’s file is laid beside the draft, and a part of it is taken', async ({ page }) => {
  await open(page, '/build/keep');
  await page.getByLabel('Craft file to compare').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText(/\d+ settings differ\./)).toBeVisible();
  await page.getByLabel('Search the differences').fill('return height');
  await page.getByRole('button', { name: 'Take Return height into the tray' }).click();
  await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
});

test('settings kept on an older firmware are carried over by meaning, with a report to decide on', async ({
  page,
}) => {
  await open(page, '/build/keep');
  await page.getByLabel('History file').setInputFiles('demo/turnstone-2.8.wanderweg-history.json');
  await page.locator(kept).first().click();
  await expect(page.getByText('It was kept on Pfad 2.8')).toBeVisible();
  await page.getByRole('button', { name: 'See how each was carried over' }).click();
  const report = page.getByRole('dialog');
  await expect(report).toContainText('speed.home = 68 → return.speed = 18.9 m/s');
  await expect(report).toContainText('km/h / 3.6');
  await report.getByRole('radio', { name: 'take 6' }).click();
  await expect(report).toContainText('return.satellites = 5 → return.satellites = 6');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Take all \d+$/ }).click();
  await expect(page.getByTestId('tray-count')).toContainText('edits wait');
  await page.getByRole('link', { name: 'Return' }).click();
  await page.getByRole('link', { name: /The way home/ }).click();
  await expect(page.getByRole('textbox', { name: 'Return height' })).toHaveValue('300');
});
