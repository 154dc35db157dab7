import { expect, test } from '@playwright/test';
import { closeBench, goTo, open, plugIn, write } from './helpers.ts';

test('finding gains is rehearsed, its result beside the model’s, and taken over as edits', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await closeBench(page);
  await goTo(page, '/refine/let-it-find');
  const main = page.getByRole('main');
  await expect(main.getByText('Since it has power it has found none.')).toBeVisible();
  await main.getByRole('button', { name: 'Rehearse it' }).click();
  const rehearsed = page.getByRole('region', { name: 'Rehearsed' });
  await expect(rehearsed.getByText(/^Found gains of roll: P 0\.\d+/)).toBeVisible({ timeout: 30_000 });
  await expect(rehearsed.getByText(/^Found gains of pitch: P 0\.\d+/)).toBeVisible();
  await expect(rehearsed.getByRole('row', { name: /^roll / })).toContainText(/(9\d|100) %/);
  await rehearsed.getByRole('button', { name: 'Take over what was found' }).click();
  // What was flown is of other gains than are drafted now.
  await expect(rehearsed).toHaveCount(0);
  await write(page);
  // The switch that brings it home is no place for it.
  await main.getByRole('textbox', { name: 'Finding gains channel' }).fill('7');
  await page.keyboard.press('Enter');
  await page
    .getByRole('button', { name: /1 finding/ })
    .first()
    .click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Find gains with channel \d+$/ })
    .click();
  await page.keyboard.press('Escape');
  await expect(main.getByRole('textbox', { name: 'Finding gains channel' })).not.toHaveValue('7');
  expect(faults).toEqual([]);
});

test('the trim is rehearsed, and taken over as middles that leave nothing to hold', async ({ page }) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/knot.wanderweg.json');
  await expect(page.getByText('Knot 1200 is open.')).toBeVisible();
  await plugIn(page);
  await closeBench(page);
  await goTo(page, '/refine/let-it-find');
  const trim = page.getByRole('region', { name: 'Trim' });
  await trim.getByRole('button', { name: 'Rehearse the trim' }).click();
  await expect(trim.getByRole('status')).toContainText(/level flight takes .* % of pitch/, {
    timeout: 30_000,
  });
  await trim.getByRole('button', { name: 'Take these middles over' }).click();
  await write(page);
  await trim.getByRole('button', { name: 'Rehearse the trim' }).click();
  await expect(trim.getByRole('status')).toContainText(
    /takes (0|\u2212?0\.\d|-0\.\d)(\.\d)? % of roll and (-|\u2212)?0(\.\d)? % of pitch/,
    { timeout: 30_000 },
  );
  expect(faults).toEqual([]);
});
