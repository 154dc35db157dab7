import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

test('a battery that is watched by the way home turns back in time, as drawn and as flown', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const faults = await open(page, '/return/enough');
  // The demo as found was never told what the way home takes.
  await page.getByRole('radio', { name: /^The way home/ }).click();
  await expect(page.getByText(/never told what the way home takes/)).toBeVisible();

  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: readFileSync('demo/turnstone.wanderweg.json'),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await goTo(page, '/return/enough');
  const told = page.locator('#work').getByRole('status').first();
  await expect(told).toContainText('From there it does not come home any more', { timeout: 20_000 });
  await page.getByRole('radio', { name: /^The way home/ }).click();
  await page.getByRole('combobox', { name: 'When the battery is low' }).selectOption('return');
  await expect(told).toContainText(/% are left above home\./, { timeout: 20_000 });
  const seconds = await told.textContent();

  // A cold day shortens it.
  const cells = page.getByRole('textbox', { name: 'The cells have' });
  await cells.fill('-5');
  await cells.press('Enter');
  await expect(page.getByText(/of their warm charge/)).toBeVisible();
  await expect(told).not.toHaveText(seconds!, { timeout: 20_000 });

  // Flown far out over the sea, without a lost link, the board turns back by itself, and says why.
  const bearing = page.getByRole('textbox', { name: 'Out on bearing' });
  await bearing.fill('110');
  await bearing.press('Enter');
  await goTo(page, '/rehearse/one-flight');
  await page.getByRole('slider', { name: /^link lost/ }).focus();
  await page.keyboard.press('Delete');
  await page.getByRole('slider', { name: /^Outbound point/ }).focus();
  for (let k = 0; k < 70; k++) await page.keyboard.press('Shift+ArrowUp');
  await page.getByRole('button', { name: 'Fly it' }).click();
  await expect(page.getByText(/mAh are left: \d+ for the way home/).first()).toBeVisible({ timeout: 90_000 });
  expect(faults).toEqual([]);
});
