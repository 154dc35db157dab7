import { expect, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

test('two flights are laid beside each other: what changed, what it did, what it should have done', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/avocet.wanderweg.json');
  await expect(page.getByText('Avocet 7 is open.')).toBeVisible();
  await goTo(page, '/refine/changes');
  const main = page.getByRole('main');
  await expect(main.getByText(/^No flight yet\./)).toBeVisible();
  // What is no log is refused, and nothing comes of it.
  await main
    .getByLabel('Log of a flight')
    .setInputFiles({ name: 'x.log', mimeType: 'text/plain', buffer: Buffer.from('no log') });
  await expect(main.getByRole('alert')).toContainText('x.log is no flight log of a board');
  const fly = main.getByRole('button', { name: 'Fly it as it is drafted' });
  await fly.click();
  const flights = main.getByRole('list', { name: 'Flights' });
  await expect(flights.getByRole('listitem')).toHaveCount(1, { timeout: 40_000 });
  await expect(flights.getByText('as drafted now')).toBeVisible();
  await goTo(page, '/refine/answers');
  const p = main.getByRole('textbox', { name: 'Roll P' });
  await p.fill('0.06');
  await page.keyboard.press('Enter');
  await goTo(page, '/refine/changes');
  await expect(flights.getByRole('listitem')).toHaveCount(1);
  await fly.click();
  await expect(flights.getByRole('listitem')).toHaveCount(2, { timeout: 40_000 });
  await expect(flights.getByText('1 change to the one before')).toBeVisible();
  const what = page.getByRole('region', { name: 'What changed' });
  await expect(what).toContainText(/Roll P.*0\.06/);
  await expect(what.getByRole('row', { name: /^roll / })).toContainText(/\d+ ms quicker.*\d+ ms quicker/);
  await expect(what.getByRole('row', { name: /^pitch / })).toContainText(
    'nothing that could be told from chance',
  );
  await flights
    .getByRole('textbox', { name: /^Note on/ })
    .first()
    .fill('brisk');
  await page.keyboard.press('Tab');
  await flights.getByRole('button', { name: 'Take its tuning' }).click();
  await expect(page.getByText('No edits wait')).toBeVisible();
  await page.reload();
  await expect(flights.getByRole('listitem')).toHaveCount(2);
  await expect(flights.getByRole('textbox', { name: /^Note on/ }).first()).toHaveValue('brisk');
  await flights.getByRole('button', { name: 'Let it go' }).first().click();
  await expect(flights.getByRole('listitem')).toHaveCount(1);
  expect(faults).toEqual([]);
});
