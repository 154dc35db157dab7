import { expect, test } from '@playwright/test';
import { bench, closeBench, goTo, open, openBench, plugIn, write } from './helpers.ts';

test('gains are put on a dial, seen to move with it, and what it gives is kept', async ({ page }) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page, true);
  await closeBench(page);
  await goTo(page, '/refine/by-dial');
  const first = page.getByRole('region', { name: 'Dial 1' });
  // The switch that brings it home is no place for a dial; the way out is offered.
  await first.getByRole('combobox', { name: 'Dial 1 moves' }).selectOption('roll');
  await first.getByRole('textbox', { name: 'Dial 1 channel' }).fill('7');
  await page.keyboard.press('Enter');
  await expect(first.getByText(/^Dial 1 is on a channel that does something else\./)).toBeVisible();
  await first.getByRole('button', { name: /^Dial 1 on channel \d+$/ }).click();
  await expect(first.getByText(/something else/)).toHaveCount(0);
  await first.getByRole('textbox', { name: 'Dial 1 channel' }).fill('11');
  await page.keyboard.press('Enter');
  await expect(first.getByRole('status')).toHaveText('What it gives is seen once this is on the board.');
  await write(page);
  await expect(first.getByRole('status')).toHaveText('They are now at 1 ×, as written.');
  await openBench(page);
  const dial = page.getByRole('slider', { name: 'Dial of the transmitter' });
  await dial.fill('1');
  await expect(first.getByRole('status')).toHaveText('They are now at 1.5 ×.');
  // A pulled cable leaves nothing to be read.
  await bench(page, 'USB cable', false);
  await expect(first.getByRole('status')).toHaveText('The board tells nothing of it now.');
  await bench(page, 'USB cable', true);
  await expect(first.getByRole('status')).toHaveText('They are now at 1.5 ×.', { timeout: 20_000 });
  await closeBench(page);
  await first.getByRole('button', { name: 'Keep what it gives' }).click();
  // Once more keeps no more of it.
  await first.getByRole('button', { name: 'Keep what it gives' }).click();
  await openBench(page);
  await dial.fill('0.5');
  await expect(first.getByRole('status')).toHaveText('They are now at 1 ×, as written.');
  await closeBench(page);
  await write(page);
  await goTo(page, '/refine/answers');
  await expect(page.getByRole('main').getByRole('textbox', { name: 'Roll P' })).toHaveValue('0.225');
  expect(faults).toEqual([]);
});
