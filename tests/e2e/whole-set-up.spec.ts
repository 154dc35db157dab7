import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

test('the whole set-up: shown, printed alone, saved as a page of its own', async ({ page, context }) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/sandpiper.wanderweg.json');
  await expect(page.getByText('Sandpiper 1900 is open.')).toBeVisible();
  await goTo(page, '/field/whole-set-up');
  const sheet = page.getByRole('document', { name: 'Everything of Sandpiper 1900' });
  await expect(sheet.getByRole('heading', { name: 'Settings unlike those delivered' })).toBeVisible();
  await expect(sheet.getByText('Layout A, Analogue, 625 lines')).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('#root')).toBeHidden();
  await expect(
    page.locator('.print-sheet').getByRole('heading', { name: 'Sandpiper 1900', includeHidden: true }),
  ).toBeVisible();
  await page.emulateMedia({ media: 'screen' });
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save it as a page' }).click(),
  ]);
  expect(saved.suggestedFilename()).toBe('sandpiper-1900-set-up.html');
  const alone = await context.newPage();
  await alone.setContent(readFileSync(await saved.path(), 'utf8'));
  await expect(alone.getByRole('heading', { level: 1, name: 'Sandpiper 1900' })).toBeVisible();
  expect(faults).toEqual([]);
});
