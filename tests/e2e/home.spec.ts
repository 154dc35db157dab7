import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { atTheDrawer } from './drawer.ts';
import { bench, closeBench, goTo, open, openBench, plugIn } from './helpers.ts';

test('home is set by arming outdoors, and the arrow is walked away from', async ({ page }) => {
  test.setTimeout(240_000);
  const faults = await open(page, '/return/home');
  await expect(page.getByRole('status', { name: 'Where home is' })).toContainText(
    'With a board on the cable',
  );
  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: readFileSync('demo/turnstone.wanderweg.json'),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page, true);
  await goTo(page, '/return/home');
  const told = page.getByRole('status', { name: 'Where home is' });
  await expect(told).toContainText('The board has no home yet', { timeout: 20_000 });
  await expect(page.getByRole('button', { name: 'It points back' })).toBeDisabled();

  await bench(page, 'Craft is', true);
  const hands = atTheDrawer(page);
  await hands.transmitter(true);
  await expect(page.getByText(/wait for the fix: (9|\d\d) satellites now/)).toBeVisible({ timeout: 150_000 });
  await bench(page, 'Arm', true);
  await expect(told).toContainText(/^Home is \d m away/, { timeout: 20_000 });
  await openBench(page);
  await page.getByRole('button', { name: 'Tools', exact: true }).click();
  const east = page.getByRole('button', { name: 'east', exact: true });
  for (let k = 0; k < 2; k++) await east.click();
  await closeBench(page);
  await expect(told).toContainText(/^Home is (3[5-9]|4[0-5]) m away on bearing (2[5-9]\d)°/, {
    timeout: 60_000,
  });
  await page.getByRole('button', { name: 'It points back' }).click();
  await expect(page.getByText(/the arrow points home\.$/)).toBeVisible();
  await expect(page.getByRole('link', { name: /^Home .*proven/ })).toBeVisible();
  expect(faults).toEqual([]);
});
