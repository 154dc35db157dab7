import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { closeBench, goTo, open, plugIn } from './helpers.ts';

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

test('the set-up beside another, a twin of it, and begun anew with what was there kept first', async ({
  page,
}) => {
  const faults = await open(page);
  const main = page.getByRole('main');
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('is open.')).toBeVisible();
  await goTo(page, '/field/whole-set-up');
  const beside = main.getByRole('region', { name: 'Beside another set-up' });
  await beside.getByLabel('Craft file to lay beside it').setInputFiles('demo/dunlin.wanderweg.json');
  await expect(beside.getByText(/things are other than in Dunlin 900\./)).toBeVisible();
  await expect(beside.getByRole('region', { name: 'The craft', exact: true })).toContainText('mass');
  await beside
    .getByLabel('Craft file to lay beside it')
    .setInputFiles({ name: 'no.json', mimeType: 'application/json', buffer: Buffer.from('{') });
  await expect(beside.getByRole('alert')).toContainText('is not JSON');
  // Begun anew: kept, staged, and undone.
  await plugIn(page);
  await closeBench(page);
  const anew = main.getByRole('region', { name: 'Begin anew' });
  await anew.getByRole('button', { name: /^Reset \d+ settings/ }).click();
  await expect(anew.getByText(/What the board holds was kept first/)).toBeVisible();
  await expect(page.getByText(/^\d+ edits wait/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByText('No edits wait')).toBeVisible();
  await anew.getByRole('button', { name: 'Clean the board’s store of flights' }).click();
  await expect(anew.getByText('There is no flight on the board.')).toBeVisible();
  // A twin.
  const twin = main.getByRole('region', { name: 'A twin' });
  await twin.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByText('Turnstone 1600, twin').first()).toBeVisible();
  await expect(page.getByText('no board plugged in')).toBeVisible();
  expect(faults).toEqual([]);
});
