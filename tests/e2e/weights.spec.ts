import { expect, test } from '@playwright/test';
import { open } from './helpers.ts';

test('the parts are weighed, the battery goes where the margin wants it, and the board’s place into the tray', async ({
  page,
}) => {
  const faults = await open(page, '/build/airframe');
  await page.getByRole('button', { name: 'weights' }).click();
  await expect(page.getByText(/^Estimated from mass and dimensions/)).toBeVisible();
  const summary = page.getByRole('region', { name: 'Balance by weights' });
  await expect(summary).toContainText('2.1 kg');
  await expect(summary).toContainText('420 mm');

  await page.getByLabel('Weight of the battery').fill('620');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Weighed parts/)).toBeVisible();
  await summary.getByLabel('Wanted static margin').fill('10');
  await page.keyboard.press('Enter');
  await summary.getByRole('button', { name: 'Move it there' }).click();
  await expect(summary).toContainText('Static margin10.0 %');

  // The board by keys: ten millimetres to the nose.
  const board = page.getByRole('slider', { name: /^board, aft of the nose/ });
  await board.focus();
  const before = Number(await board.getAttribute('aria-valuenow'));
  await page.keyboard.press('Shift+ArrowUp');
  await expect(board).toHaveAttribute('aria-valuenow', String(before - 10));
  await summary.getByRole('button', { name: 'Put the board’s place into the tray' }).click();
  await expect(page.getByTestId('tray-count')).toContainText('waits');

  // A ballast of one's own, and the whole forgotten again: mass and balance stay.
  await page.getByRole('button', { name: 'Another part…' }).click();
  await page.getByLabel('Weight of the part 1').fill('100');
  await page.keyboard.press('Enter');
  const whole = await summary.locator('.num').first().textContent();
  await page.getByRole('button', { name: 'Forget the weights, keep mass and balance' }).click();
  await expect(page.getByText(/^Estimated from mass and dimensions/)).toBeVisible();
  await expect(summary.locator('.num').first()).toHaveText(whole!);
  expect(faults).toEqual([]);
});

test('why a value is what it is, one press away; the computed one is taken', async ({ page }) => {
  await open(page, '/return/way-home');
  await page.getByRole('button', { name: 'Why this value: Return height' }).click();
  const why = page.getByRole('dialog');
  await expect(why).toContainText('now 120 m');
  await expect(why).toContainText('Clears the highest ground within 6 km of home');
  await why.getByRole('button', { name: 'Take it' }).click();
  await expect(why).toContainText('as it is');
  await page.keyboard.press('Escape');
  await expect(why).toBeHidden();
  await expect(page.getByRole('textbox', { name: 'Return height', exact: true })).toHaveValue('405');
});
