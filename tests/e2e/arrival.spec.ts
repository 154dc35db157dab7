import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

test('an arrival is drawn on the site, flown in eight winds, and stale once its settings change', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page, '/return/arrival');
  await page.getByRole('button', { name: 'Fly eight winds' }).click();
  await expect(page.getByText(/So nothing was flown/)).toBeVisible({ timeout: 40_000 });

  const file = JSON.parse(readFileSync('demo/ruff.wanderweg.json', 'utf8'));
  Object.assign(file.settings, { 'return.height': 100 });
  await page.getByLabel('Craft file').setInputFiles({
    name: 'ruff.wanderweg.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(file)),
  });
  await expect(page.getByText(/^Ruff.* is open\./)).toBeVisible();
  await goTo(page, '/return/arrival');
  await page.getByRole('button', { name: 'Fly eight winds' }).click();
  await expect(page.getByText(/^8 of 8 come home; they touch down up to/)).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Wind from 90°: home' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Wind from 90°: comes home/)).toBeVisible();
  const sink = page.getByRole('textbox', { name: 'Landing speed' });
  await sink.fill('1');
  await sink.press('Enter');
  await expect(page.getByText(/Since then settings it rests on were changed/)).toBeVisible();

  // A wing that lands: approaches against each wind, and what stands under them.
  const wing = JSON.parse(readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
  Object.assign(wing.settings, { 'return.height': 120, 'return.arrival': 'land' });
  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(wing)),
  });
  await expect(page.getByText(/^Turnstone 1600 is open\./)).toBeVisible();
  await goTo(page, '/return/arrival');
  await page.getByRole('button', { name: 'Fly eight winds' }).click();
  await expect(page.getByText(/of 8 come home/)).toBeVisible({ timeout: 160_000 });

  // Along a strip: its bearing is asked for only then, and the text says so.
  const bearing = page.getByRole('textbox', { name: 'Strip', exact: true });
  await expect(page.getByText('comes in against the wind')).toBeVisible();
  await expect(bearing).toHaveCount(0);
  await page.getByRole('combobox', { name: 'Approach along' }).selectOption('strip');
  await expect(page.getByText('comes in along the strip')).toBeVisible();
  await bearing.fill('60');
  await bearing.press('Enter');
  await expect(bearing).toHaveValue('60');
  expect(faults).toEqual([]);
});
