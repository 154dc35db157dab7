import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { goTo, open, putPlace } from './helpers.ts';

const share = (page: Page) => page.getByRole('status', { name: 'Share that it comes home from' });
const there = (page: Page) => page.getByRole('region', { name: 'From there' });

test('the reach: a place behind the hill is mended by what the map says, and the map checked by flights', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page, '/return/reach');
  await expect(page.getByText(/not set to return home/)).toBeVisible();
  await page.getByRole('button', { name: 'Let it return' }).click();
  await expect(share(page)).toHaveText(/\d+ %/, { timeout: 20_000 });
  // A craft that does not arm tells nothing about its way home.
  const fly = page.getByRole('button', { name: 'Fly 12 pairs along the line' });
  await fly.click({ timeout: 20_000 });
  await expect(page.getByText(/never left the hand.*So nothing was flown/)).toBeVisible({ timeout: 30_000 });

  const file = JSON.parse(readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
  Object.assign(file.settings, { 'return.height': 120, 'return.climb': 'climb-on-the-way' });
  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(file)),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await goTo(page, '/return/reach');
  await putPlace(page, 318, 5600);
  await expect(there(page)).toContainText('it does not come home: ground', { timeout: 20_000 });
  await page.locator('#work').evaluate((e) => e.scrollTo(0, 900));
  // What the map offers is an edit like any other.
  await there(page)
    .getByRole('button', { name: /above home/ })
    .click({ timeout: 20_000 });
  await expect(there(page)).toContainText('it comes home', { timeout: 20_000 });
  await expect(page.getByTestId('tray-count')).toHaveText('3 edits wait');

  await fly.click({ timeout: 20_000 });
  await expect(page.getByText(/still to fly/)).toBeVisible();
  await expect(page.getByText(/^The map was right in \d+ of 24 flights\./)).toBeVisible({ timeout: 150_000 });
  await page.locator('#work').evaluate((e) => e.scrollTo(0, 0));
  const told = await page.getByText(/^The map was right/).textContent();
  expect(Number(/right in (\d+) of/.exec(told!)![1])).toBeGreaterThanOrEqual(22);

  // Another draft: what was flown was flown with the old one.
  const speed = page.getByRole('textbox', { name: 'Return speed' });
  await speed.fill('17');
  await speed.press('Enter');
  await expect(page.getByText(/Since then/)).toBeVisible();
  expect(faults).toEqual([]);
});
