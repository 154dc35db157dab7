import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { goTo, open, plugIn, write } from './helpers.ts';

test('what shakes a craft is flown, filters are found for it, written, and cost what is said', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/avocet.wanderweg.json');
  await expect(page.getByText('Avocet 7 is open.')).toBeVisible();
  await plugIn(page, true);
  await goTo(page, '/refine/shakes');
  await expect(page.getByRole('heading', { level: 1, name: 'What shakes it' })).toBeVisible();
  const main = page.getByRole('main');
  await expect(main).toContainText('Nothing was flown yet.');
  await page.getByRole('button', { name: 'Fly it', exact: true }).click();
  const status = main.getByRole('status').first();
  await expect(status).toContainText(
    /shake moves its motors by up to \d\.?\d* % .* takes? \d+ dB\. That heats each motor by \d\.\d+ W/,
    {
      timeout: 90_000,
    },
  );
  await expect(page.getByRole('img', { name: /^Shake by frequency and throttle/ })).toBeVisible();
  const part = page.getByRole('region', { name: 'Filters for this shake' });
  const allowed = part.getByLabel('Most that shake may move the motors');
  await allowed.fill('0.4');
  await page.keyboard.press('Enter');
  await part.getByRole('button', { name: 'Find filters' }).click();
  await expect(part).toContainText(/least delay that leaves 0\.[0-4]\d* %/);
  await expect(page.getByTestId('tray-count')).toContainText('edit');
  await expect(status).toContainText(/by up to 0\.[0-4]\d* %/);
  await write(page);
  // What was found for other settings is told no more.
  await main.getByRole('textbox', { name: 'Gyro low-pass', exact: true }).fill('200');
  await page.keyboard.press('Enter');
  await expect(part).not.toContainText('least delay');
  expect(faults).toEqual([]);
});

test('a table of a real gyro is laid out once its columns are named, and refused where it cannot tell', async ({
  page,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'wanderweg-e2e-'));
  const rows = Array.from({ length: 30_000 }, (_, k) => {
    const throttle = 50 + 40 * Math.sin(k / 4000);
    return `${k};${throttle.toFixed(1)};${(3 * Math.sin(0.7 * k) + Math.sin(k * k)).toFixed(3)}`;
  });
  const file = join(folder, 'hum.csv');
  writeFileSync(file, `Zeit;Gas;Kreisel\n${rows.join('\n')}\n`);
  await open(page);
  await goTo(page, '/refine/shakes');
  const lay = page.getByLabel('Log of a gyro');
  await lay.setInputFiles(file);
  const columns = page.getByRole('group', { name: 'Columns of hum.csv' });
  await columns.getByLabel('Time', { exact: true }).selectOption('Zeit');
  await columns.getByLabel('Unit of time').selectOption('ms');
  await columns.getByLabel('Throttle', { exact: true }).selectOption('Gas');
  await columns.getByLabel('Gyro, unfiltered', { exact: true }).selectOption('Kreisel');
  await columns.getByLabel('Unit of throttle').selectOption('share');
  await columns.getByRole('button', { name: 'Read it so' }).click();
  await expect(page.getByText(/has a throttle of up to 90\.0 where 1 is all of it/)).toBeVisible();
  await lay.setInputFiles(file);
  await columns.getByLabel('Time', { exact: true }).selectOption('Zeit');
  await columns.getByLabel('Unit of time').selectOption('ms');
  await columns.getByLabel('Throttle', { exact: true }).selectOption('Gas');
  await columns.getByLabel('Gyro, unfiltered', { exact: true }).selectOption('Kreisel');
  await columns.getByRole('button', { name: 'Read it so' }).click();
  // 0.7 rad a millisecond.
  await expect(page.getByText(/^hum\.csv: 0:30 at 1000 samples a second.* at 11\d Hz/)).toBeVisible();
});
