import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

test('all of a browser goes to another one in a file; what was changed on both is kept twice', async ({
  page,
  browser,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/dunlin.wanderweg.json');
  await expect(page.getByText('Dunlin 900 is open.')).toBeVisible();
  await page.waitForTimeout(700);
  await goTo(page, '/craft');
  const part = page.getByRole('region', { name: 'Everything in this browser' });
  await expect(part).toContainText('used of');
  const save = async () => {
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      part.getByRole('button', { name: 'Save all of it to a file' }).click(),
    ]);
    return readFileSync(await saved.path());
  };
  const file = await save();
  const other = await (await browser.newContext()).newPage();
  await other.goto(page.url());
  const there = other.getByRole('region', { name: 'Everything in this browser' });
  const bring = (buffer: Buffer) =>
    there
      .getByLabel('A file of everything')
      .setInputFiles({ name: 'all.cbor', mimeType: 'application/cbor', buffer });
  await bring(Buffer.from('nothing of ours'));
  await expect(there.getByRole('alert')).toContainText(
    'This is no file of all that a browser kept. Nothing was changed.',
  );
  await bring(file);
  await expect(there).toContainText('brought in.');
  await other.getByRole('button', { name: /^Dunlin 900/ }).click();
  await expect(other.getByRole('navigation', { name: 'Trail' })).toBeVisible();
  // Heavier here, and on the first device too.
  for (const [p, kg] of [
    [other, '0.8'],
    [page, '0.9'],
  ] as const) {
    if (p === page) {
      await page.getByRole('button', { name: /^Dunlin 900/ }).click();
      await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
    }
    await goTo(p, '/build/airframe');
    await p.getByRole('textbox', { name: 'Mass' }).fill(kg);
    await p.keyboard.press('Enter');
    await p.waitForTimeout(700);
    await goTo(p, '/craft');
  }
  await bring(await save());
  await expect(there).toContainText('Changed on both sides, and kept side by side: Dunlin 900, brought in.');
  await expect(other.getByRole('button', { name: /Dunlin 900, brought in/ })).toBeVisible();
  expect(faults).toEqual([]);
});
