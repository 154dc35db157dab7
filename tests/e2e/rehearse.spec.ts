import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { begin, find, goTo, open } from './helpers.ts';

const fly = async (page: Page, button: RegExp) => {
  await page.getByRole('button', { name: button }).click();
  await expect(page.getByRole('button', { name: 'Fly again' })).toBeVisible({ timeout: 90_000 });
};

test('another craft is begun from, edited part by part, rehearsed, and given back', async ({ page }) => {
  test.setTimeout(240_000);
  const faults = await open(page, '/build/airframe');
  await page.getByRole('link', { name: 'Begin another craft' }).click();
  await begin(page, 'Avocet 7');
  await goTo(page, '/build/airframe');
  await expect(page.getByRole('heading', { name: 'The craft' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Avocet 7/ })).toBeVisible();
  await expect(page.getByTestId('tray-count')).toHaveText(/\d+ edits wait/);
  await expect(page.getByText('Hovers at')).toBeVisible();
  await page.getByRole('list', { name: 'Parts' }).getByRole('button', { name: 'battery' }).click();
  await page.getByRole('textbox', { name: 'capacity' }).fill('3500');
  await page.keyboard.press('Enter');

  await find(page, 'One flight');
  await expect(page.getByRole('heading', { name: 'One flight' })).toBeVisible();
  await page.getByLabel('Outbound distance').fill('800');
  await page.keyboard.press('Enter');
  await page.getByLabel('Link lost after').fill('90');
  await page.keyboard.press('Enter');
  await fly(page, /^Fly it/);
  await expect(page.getByText('Comes home', { exact: true })).toBeVisible();
  const decided = page.getByRole('region', { name: 'What the board decided' });
  await expect(decided.getByText(/Above home: comes down to land/)).toBeVisible();
  // Four other seeds fly behind it; what a verdict rests on is one step away, and the flight is still there.
  await expect(page.getByText(/4 other seeds end alike|Luck decides/)).toBeVisible({ timeout: 120_000 });
  await page.getByRole('link', { name: 'How far to trust it' }).first().click();
  await expect(page.getByRole('heading', { name: 'How far to trust it' })).toBeVisible();
  await expect(page.getByText(/figures lie (within|outside)/)).toBeVisible();
  await page.getByRole('link', { name: 'Back to the flight' }).click();
  await expect(page.getByText('Comes home', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Keep beside' }).click();

  // A device that fails on the way, set by keys alone.
  await page.getByLabel('Let something happen').selectOption('a device fails');
  const flag = page.getByRole('slider', { name: /GNSS receiver falls silent/ });
  await flag.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(flag).toHaveAttribute('aria-valuenow', '155');
  await expect(
    page.getByText('Since it was flown the wind, the way or the events were changed. Fly again.'),
  ).toBeVisible();
  await fly(page, /^Fly again/);
  await expect(decided.getByText(/No fix: goes on by speed through the air/)).toBeVisible();
  await expect(page.getByRole('cell', { name: 'the one shown' })).toBeVisible();
  await page.getByRole('button', { name: 'Let flight 1 go' }).click();
  await expect(page.getByText('Flights side by side')).toBeHidden();

  // Replay moves the cursor; the view in the air is drawn.
  const strip = page.getByRole('slider', { name: 'Time in the flight' });
  await strip.focus();
  await page.getByRole('button', { name: 'Play the flight' }).click();
  await page.waitForTimeout(600);
  await page.getByRole('button', { name: 'Pause the flight' }).click();
  expect(Number(await strip.getAttribute('aria-valuenow'))).toBeGreaterThan(3);
  await page.getByRole('button', { name: 'in the air' }).click();
  // Drawn in software here, which takes its time on a busy machine.
  await expect(page.getByRole('img', { name: /in the air: bank|against the horizon/ })).toBeVisible({
    timeout: 90_000,
  });
  await page.getByRole('button', { name: 'map' }).click();
  await expect(page.getByLabel('Map of Torvholm with the track')).toBeVisible();

  // What was flown is kept with the craft: it outlives the page.
  await page.waitForTimeout(900);
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await find(page, 'One flight');
  await expect(page.getByRole('button', { name: 'Fly again' })).toBeVisible();
  await expect(decided.getByText(/No fix: goes on by speed through the air/)).toBeVisible();
  expect(faults).toEqual([]);
});

test('the first craft comes back on request, whole', async ({ page }) => {
  await open(page, '/build/airframe');
  await page.getByLabel('Mass').fill('2.2');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Begin another craft' }).click();
  await begin(page, 'Dunlin 900');
  await expect(page.getByRole('button', { name: /^Dunlin 900/ })).toBeVisible();
  await goTo(page, '/craft');
  await page.getByRole('button', { name: /^Turnstone 1600/ }).click();
  await goTo(page, '/build/airframe');
  await expect(page.getByLabel('Mass')).toHaveValue('2.2');
  await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
});

test('many winds are flown in workers and drawn as a rose; stopping keeps what was flown', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await open(page);
  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: readFileSync('demo/turnstone.wanderweg.json'),
  });
  await find(page, 'One flight');
  await page.getByLabel('Outbound distance').fill('600');
  await page.keyboard.press('Enter');
  await page.getByLabel('Link lost after').fill('60');
  await page.keyboard.press('Enter');
  await find(page, 'In many winds');
  await page.getByRole('button', { name: 'Fly all 240' }).click();
  // The strongest wind of each side is flown first.
  const field = page.getByRole('option', { name: /^12 m\/s from 0°: \d of 3 come home/ });
  await expect(field).toBeVisible({ timeout: 90_000 });
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText(/stopped with \d+ not flown/)).toBeVisible();
  await field.click();
  await expect(page.getByText('12 m/s from north (0°)')).toBeVisible();
  await page.getByRole('button', { name: 'Look at this flight' }).first().click();
  await expect(page.getByLabel('Wind at 10 m')).toHaveValue('12');
});
