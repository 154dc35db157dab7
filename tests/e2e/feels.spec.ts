import { expect, test } from '@playwright/test';
import { goTo, open, plugIn, write } from './helpers.ts';

test('a feel worked out for the craft is taken, told in seconds and metres, written; a set is carried to another', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await page.keyboard.press('5');
  await expect(page.getByRole('heading', { level: 1, name: 'How it feels' })).toBeVisible();
  const status = page.getByRole('main').getByRole('status').first();
  await expect(status).toContainText(
    /^Leant over to 45° at its cruise of 15\.5 m\/s it flies a circle of 2\d m radius/,
  );
  await page.getByRole('button', { name: 'Calm survey' }).click();
  await expect(status).toContainText(/^Leant over to \d\d° .* it cruises 1\.[5-9]\d* times as fast\.$/);
  await expect(page.getByRole('button', { name: 'Calm survey' })).toBeDisabled();
  await page.getByRole('button', { name: 'Roll it once' }).click();
  // One bank too many is said where it is set.
  const bank = page.getByRole('main').getByRole('textbox', { name: 'Bank limit' });
  await bank.fill('75');
  await page.keyboard.press('Enter');
  await expect(status).toContainText(/It falls out of such a turn\.|which a gust takes away\./);
  await page.keyboard.press('Control+z');
  await write(page);
  const sets = page.getByRole('region', { name: 'Control sets' });
  await sets.getByRole('combobox', { name: 'From' }).selectOption('set 1');
  await sets.getByRole('combobox', { name: 'To' }).selectOption('set 3');
  await sets.getByRole('button', { name: /^Carry \d+ settings$/ }).click();
  await expect(sets.getByRole('button', { name: 'Nothing to carry' })).toBeDisabled();
  await page.getByRole('radio', { name: 'Set 3' }).click();
  await expect(status).toContainText(/it cruises 1\.[5-9]\d* times as fast/);
  await write(page);
  expect(faults).toEqual([]);
});

test('rotors are told how far they may lean', async ({ page }) => {
  await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/ruff.wanderweg.json');
  await expect(page.getByText('Ruff Tri is open.')).toBeVisible();
  await goTo(page, '/refine/feels');
  const status = page.getByRole('main').getByRole('status').first();
  await expect(status).toContainText(/its rotors hold its height with some to steer by\./);
  const bank = page.getByRole('main').getByRole('textbox', { name: 'Bank limit' });
  await bank.fill('75');
  await page.keyboard.press('Enter');
  await expect(status).toContainText('beyond that it sinks');
});
