import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

test('what may go wrong is flown, watched, mended where a setting helps, and only what an edit changed is flown again', async ({
  page,
}) => {
  test.setTimeout(420_000);
  const faults = await open(page, '/return/if-it-fails');
  // The demo as it was found does not fly: a sentence, and nothing half done.
  await page.getByRole('button', { name: /^Fly all \d+/ }).click();
  await expect(page.getByText(/first it has to fly at all/)).toBeVisible({ timeout: 40_000 });

  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: readFileSync('demo/turnstone.wanderweg.json'),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await goTo(page, '/return/if-it-fails');
  await page.getByRole('button', { name: /^Fly all 65/ }).click();
  // Stopped in the middle, what was flown stays.
  await expect(page.getByRole('button', { name: /: (home|down|lost)$/ }).nth(5)).toBeVisible({
    timeout: 120_000,
  });
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: /^Fly the \d+ that changed/ }).click();
  await expect(page.getByRole('button', { name: 'All are flown' })).toBeVisible({ timeout: 300_000 });
  await expect(page.getByText(/^\d+ come home, \d+ come down where they are, \d+ are lost\./)).toBeVisible();

  await page.getByRole('button', { name: 'position jammed, far out: down' }).click();
  const flight = page.getByRole('region', { name: 'This flight' });
  await expect(flight).toContainText('comes down elsewhere');
  await expect(flight).toContainText(/No fix/);

  // How it is launched changes only the launches.
  await page.reload();
  await goTo(page, '/return/if-it-fails');
  await expect(page.getByRole('button', { name: 'All are flown' })).toBeVisible({ timeout: 20_000 });
  await page.keyboard.press('Control+k');
  await page.keyboard.type('launch pitch');
  await page
    .getByRole('option', { name: /Launch pitch/ })
    .first()
    .click();
  const pitch = page.getByRole('textbox', { name: 'Launch pitch' });
  await pitch.fill('17');
  await pitch.press('Enter');
  await page.keyboard.press('Escape');
  await goTo(page, '/return/if-it-fails');
  await expect(page.getByRole('button', { name: 'Fly the 13 that changed' })).toBeVisible();

  // One click to watch it.
  await page.getByRole('button', { name: 'one motor stops, on the way home: home' }).click();
  await flight.getByRole('button', { name: 'Watch it' }).click();
  await expect(page.getByText('first motor falls silent')).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText('Comes home', { exact: true })).toBeVisible({ timeout: 60_000 });
  expect(faults).toEqual([]);
});
