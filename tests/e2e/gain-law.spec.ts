import { expect, test } from '@playwright/test';
import { goTo, open, plugIn, write } from './helpers.ts';

test('gains of a wing go by the throttle where it is asked for, and the dive that they ring in is said before it is written', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await goTo(page, '/refine/gain-law');
  const status = page.getByRole('main').getByRole('status').first();
  await expect(status).toHaveText('In level flight gains keep within 15 % of what this craft wants.');
  await page.getByRole('radio', { name: /^Throttle/ }).click();
  await expect(status).toContainText('In a dive with the throttle shut they take it for slow');
  await page.getByRole('button', { name: 'Work it out for this craft' }).click();
  const lowest = page.getByRole('slider', { name: /^Gains grow down to/ });
  await expect(
    page.getByRole('main').getByRole('textbox', { name: 'Speed follows throttle in' }),
  ).toHaveValue('4');
  const before = Number(await lowest.getAttribute('aria-valuenow'));
  await lowest.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect
    .poll(async () => Number(await lowest.getAttribute('aria-valuenow')))
    .toBeGreaterThan(before + 1);
  const ends = page.getByRole('region', { name: 'At the ends' });
  await expect(ends.getByText(/^Up in 0\.\d\d s/)).toHaveCount(3);
  // Gains that ring there block the write's way into the air.
  await page.getByRole('radio', { name: /^Nothing/ }).click();
  await goTo(page, '/refine/answers');
  const p = page.getByRole('main').getByRole('textbox', { name: 'Roll P' });
  await p.fill('1.2');
  await page.keyboard.press('Enter');
  await goTo(page, '/refine/gain-law');
  await expect(ends.getByText(/^Rings by itself, \d+\.\d times a second\.$/).first()).toBeVisible();
  await expect(status).toContainText('at its fastest');
  await page.keyboard.press('Control+z');
  await page.getByRole('radio', { name: /^Airspeed/ }).click();
  await page.getByRole('button', { name: 'Work it out for this craft' }).click();
  await expect(status).toHaveText('In level flight gains keep within 15 % of what this craft wants.');
  await write(page);
  expect(faults).toEqual([]);
});

test('gains of rotors go by throttle and voltage', async ({ page }) => {
  await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/avocet.wanderweg.json');
  await expect(page.getByText('Avocet 7 is open.')).toBeVisible();
  await goTo(page, '/refine/gain-law');
  const status = page.getByRole('main').getByRole('status').first();
  await expect(status).toContainText(/Gains are farthest off with (much|little) throttle/);
  await page.getByRole('button', { name: 'Work it out for this craft' }).click();
  await expect(page.getByRole('radio', { name: /^Throttle/ })).toBeChecked();
  await expect(status).toHaveText('Gains keep within 15 % of what this craft wants.');
  const battery = page.getByRole('region', { name: 'As the battery falls' });
  await expect(battery.getByRole('textbox', { name: 'Gains over voltage' })).toHaveValue('1');
});
