import { expect, test } from '@playwright/test';
import { goTo, open, plugIn, write } from './helpers.ts';

test('what is asked of the outer loops is promised and flown anew with each edit, and an edit is written', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await goTo(page, '/refine/level-turns');
  const status = page.getByRole('main').getByRole('status').first();
  await expect(status).toContainText('flown in the bench', { timeout: 30_000 });
  const path = page.getByRole('region', { name: 'Onto a line, 60° off it' });
  await expect(path.getByText(/^on it after \d+\.?\d* s/)).toHaveCount(2);
  const climb = page.getByRole('region', { name: '20 m higher' });
  await expect(climb.getByText(/^there in 1[0-4]/)).toHaveCount(2);
  await climb.getByRole('textbox', { name: 'Height time' }).fill('12');
  await page.keyboard.press('Enter');
  await expect(status).toContainText('flying');
  await expect(climb.getByText(/^there in (2\d|3\d)/)).toHaveCount(2, { timeout: 30_000 });
  await write(page);
  expect(faults).toEqual([]);
});

test('rotors are told how they brake and how gusts carry them', async ({ page }) => {
  await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/ruff.wanderweg.json');
  await expect(page.getByText('Ruff Tri is open.')).toBeVisible();
  await goTo(page, '/refine/level-turns');
  await expect(page.getByRole('main').getByRole('status').first()).toContainText('flown in the bench', {
    timeout: 30_000,
  });
  const go = page.getByRole('region', { name: '5 m/s, then let go' });
  await expect(go.getByText(/^up to it in \d\.?\d* s; then stops within \d\.?\d* m$/)).toHaveCount(2);
  await expect(page.getByText(/^wanders by \d\.?\d* m, \d\.?\d* m at most$/)).toHaveCount(2);
});
