import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { bench, closeBench, open, openBench } from './helpers.ts';

/** Lays another board on the bench and plugs it in. */
async function takeBoard(page: Page, story: RegExp): Promise<void> {
  await openBench(page);
  const shelf = page.getByRole('combobox', { name: 'Board' });
  const label = await shelf.locator('option').filter({ hasText: story }).textContent();
  await shelf.selectOption({ label: label! });
  await bench(page, 'USB cable', true);
}

test('a second-hand board is taken from 2.8 to 3.2 with its settings, the cable pulled in the middle', async ({
  page,
}) => {
  const faults = await open(page, '/build/firmware');
  await takeBoard(page, /second-hand/);
  await expect(page.getByText('Fell F7, Pfad 2.8')).toBeVisible();
  await expect(page.getByText('Met for the first time')).toBeHidden();
  await page.getByRole('button', { name: 'Take Pfad 3.2', exact: true }).click();
  await page.getByRole('button', { name: 'Put Pfad 3.2 on the board' }).click();
  await expect(page.getByText('Fell F7, in its loader')).toBeVisible();
  await expect(page.getByText(/Writing: .* a second, .* left/)).toBeVisible({ timeout: 40_000 });

  await bench(page, 'USB cable', false);
  await expect(page.getByRole('alert')).toContainText('What is written stays on the board');
  await bench(page, 'USB cable', true);
  await expect(page.getByText(/Writing:/)).toBeVisible();
  await closeBench(page);
  await expect(page.getByText('The new firmware runs, read back as it was sent.')).toBeVisible({
    timeout: 90_000,
  });
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  const heard = page.getByRole('list', { name: 'Who answers' });
  await expect(heard.getByRole('listitem').filter({ hasText: 'gyro' })).toContainText('answers');
  await expect(heard.getByRole('listitem').filter({ hasText: 'airspeed' })).toContainText(
    'power only with the battery in',
  );

  const back = page.getByRole('region', { name: 'What becomes of each setting' });
  await expect(page.getByRole('heading', { name: /Settings of Pfad 2.8, kept/ })).toBeVisible();
  await back.getByText(/^Renamed/).click();
  await expect(back.getByText('home.height = 300 m')).toBeVisible();
  const choice = back.getByRole('group').first().getByRole('radio').nth(1);
  await choice.click();
  await expect(choice).toBeChecked();
  await page.getByRole('button', { name: 'Write them to the board' }).click();
  await expect(
    page.getByText(/\d+ settings are back on the board, each read back as it was sent/),
  ).toBeVisible({ timeout: 40_000 });

  // It holds them over a reload, and is known.
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible({ timeout: 40_000 });
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  await page.goto('/build/board');
  await bench(page, 'USB cable', true);
  await closeBench(page);
  await expect(page.getByText('serial FF7-0107-15')).toBeVisible();
  await expect(page.getByText('Nothing on it has changed since')).toBeVisible();
  await page.goto('/return/way-home');
  await expect(page.getByRole('textbox', { name: 'Return height', exact: true })).toHaveValue('300');
  expect(faults).toEqual([]);
});

test('an empty board comes up in its loader; closing the page in the middle loses nothing', async ({
  page,
}) => {
  await open(page, '/build/firmware');
  await takeBoard(page, /new, empty/);
  await expect(page.getByText('Cobble F4 Wing, in its loader')).toBeVisible();
  await closeBench(page);
  await expect(page.getByText('There is no firmware on it yet. It has no settings to give.')).toBeVisible();
  await expect(page.getByText('There is no build of it for cobble-f4-wing')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take Pfad 3.0' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Take Pfad 3.2', exact: true }).click();
  await page.getByRole('button', { name: 'Put Pfad 3.2 on the board' }).click();
  await expect(page.getByText(/Writing: .* a second, .* left/)).toBeVisible({ timeout: 40_000 });
  await page.waitForTimeout(600);

  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible({ timeout: 40_000 });
  await bench(page, 'USB cable', true);
  await closeBench(page);
  await expect(page.getByText(/Pfad 3.2 is on it by \d+ %: writing goes on there/)).toBeVisible();
  await page.getByRole('button', { name: 'Go on writing' }).click();
  await expect(page.getByText('The new firmware runs')).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText('Cobble F4 Wing, Pfad 3.2')).toBeVisible();
  // Its overlay chip has a firmware of its own, which goes with this one.
  await expect(
    page.getByRole('region', { name: 'Parts with firmware of their own' }).getByRole('listitem').first(),
  ).toContainText('GNSS receiver, Lode 4.10fits');
  await expect(page.getByText('overlay chip, Tafel 1.3').last()).toBeVisible();
});

test('an image that is damaged or for another board is refused with line and reason, and the button starts the loader', async ({
  page,
}) => {
  await open(page, '/build/firmware');
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  const input = page.getByLabel('Firmware image');
  const give = (name: string, text: string) =>
    input.setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  const good = readFileSync('dist/firmware/pfad-3.2-rc1-fell-f7.hex', 'utf8');
  const lines = good.split('\n');
  await give('massif.hex', readFileSync('dist/firmware/pfad-3.2-massif-h7-b.hex', 'utf8'));
  await expect(page.getByRole('alert')).toContainText(
    'It is built for Massif H7 revision B; this is Fell F7 revision A',
  );
  await give(
    'damaged.hex',
    [...lines.slice(0, 40), lines[40]!.replace(/..(\r?)$/, '00$1'), ...lines.slice(41)].join('\n'),
  );
  await expect(page.getByRole('alert')).toContainText(/ine 41/);
  await give('cut.hex', lines.slice(0, 900).join('\n'));
  await expect(page.getByRole('alert')).toContainText('Nothing was erased');
  await give('good.hex', good);
  await expect(page.getByRole('button', { name: 'Put good.hex on the board' })).toBeEnabled();

  // The loader by its button; a firmware that is whole is started again from there.
  await bench(page, 'USB cable', false);
  await bench(page, 'Loader button', true);
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, in its loader')).toBeVisible();
  await bench(page, 'Loader button', false);
  await closeBench(page);
  await page.getByRole('button', { name: 'Start the firmware that is on it' }).click();
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
});

test('what was fetched once is there without the service, and what was not is said', async ({ page }) => {
  await open(page, '/build/firmware');
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  await closeBench(page);
  await page.getByRole('button', { name: 'Take Pfad 3.2', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Put Pfad 3.2 on the board' })).toBeEnabled();
  await page.route('**/releases/**', (route) => route.abort());
  await page.reload();
  await expect(page.getByText('as fetched before: the service does not answer')).toBeVisible();
  await page.getByRole('button', { name: 'Take Pfad 3.2', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Put Pfad 3.2 on the board' })).toBeVisible();
  await page.getByRole('button', { name: 'Take Pfad 2.8' }).click();
  await expect(page.getByRole('alert')).toContainText('Pfad 2.8 is not in this browser yet');
});

test('a browser that keeps nothing gives the backup as a file before anything is erased', async ({
  page,
}) => {
  await page.addInitScript(() => {
    indexedDB.open = () => {
      throw new DOMException('no', 'SecurityError');
    };
  });
  await open(page, '/build/firmware');
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  await closeBench(page);
  await page.getByRole('button', { name: 'Take Pfad 3.2-rc1' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Put Pfad 3.2-rc1 on the board' }).click();
  expect((await download).suggestedFilename()).toMatch(/\.wanderweg-history\.json$/);
  await expect(page.getByText('Fell F7, in its loader')).toBeVisible();
  await expect(page.getByText('The new firmware runs')).toBeVisible({ timeout: 90_000 });
});

test('another board of the same make is not written to because the first one went away in the middle', async ({
  page,
}) => {
  await open(page, '/build/firmware');
  await takeBoard(page, /second-hand/);
  await expect(page.getByText('Fell F7, Pfad 2.8')).toBeVisible();
  await page.getByRole('button', { name: 'Take Pfad 3.2', exact: true }).click();
  await page.getByRole('button', { name: 'Put Pfad 3.2 on the board' }).click();
  await expect(page.getByText(/Writing: .* a second, .* left/)).toBeVisible({ timeout: 40_000 });
  await bench(page, 'USB cable', false);
  await expect(page.getByRole('alert')).toContainText('What is written stays on the board');
  // The craft's own board, which comes up in its loader by its button.
  await page.getByRole('combobox', { name: 'Board' }).selectOption('FF7-0419-22');
  await bench(page, 'Loader button', true);
  await bench(page, 'USB cable', true);
  await closeBench(page);
  await expect(page.getByText('A whole Pfad 3.2 is on it.')).toBeVisible();
  await page.waitForTimeout(500);
  await expect(page.getByText(/Writing|Erasing|Go on writing/)).toHaveCount(0);
  await expect(page.getByText('Take a release, or an image from a file, to begin.')).toBeVisible();
  await expect(page.getByText('Its settings were never kept here.')).toBeVisible();
});
