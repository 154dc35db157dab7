import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { bench, closeBench, holdOutput, open, openBench, plugIn, write } from './helpers.ts';

const good = readFileSync('demo/turnstone.wanderweg.json', 'utf8');

test('a craft file that cannot be opened says why, and the craft stays', async ({ page }, info) => {
  await open(page);
  const files: [string, string | Buffer, RegExp][] = [
    ['not-json', 'hello', /not JSON/],
    ['newer', good.replace(/"version": \d+/, '"version": 99'), /newer Wanderweg/],
    ['nan', good.replace('"massKg": 2.1', '"massKg": NaN'), /not JSON/],
    ['proto', good.replace('"notes":', '"__proto__": {}, "notes":'), /__proto__/],
    ['huge', Buffer.alloc(49_000_000, 32), /49 MB/],
  ];
  for (const [name, content, why] of files) {
    const file = info.outputPath(`${name}.json`);
    writeFileSync(file, content);
    await page.getByLabel('Craft file').setInputFiles(file);
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByRole('alert')).toContainText(why);
    await expect(dialog).toContainText('open as before');
    await page.getByRole('button', { name: 'Go on' }).click();
    await expect(page.getByRole('button', { name: /Turnstone 1600/ })).toBeVisible();
  }
});

test('TOML with faults names its lines and takes nothing', async ({ page }) => {
  await open(page);
  await page.getByRole('button', { name: /Turnstone 1600/ }).click();
  await page.getByRole('menuitem', { name: 'Take settings from TOML' }).click();
  await page
    .getByLabel('Settings as TOML')
    .fill('return.height = 200\nreturn.hight = 1\nnav.speed = "fast"\nloiter.radius = 9000');
  await page.getByRole('button', { name: 'Put into the tray' }).click();
  const alert = page.getByRole('alert');
  await expect(alert).toContainText('Nothing was taken.');
  for (const line of ['Line 2:', 'Line 3:', 'Line 4:']) await expect(alert).toContainText(line);
  await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
  await page.getByLabel('Settings as TOML').fill('return.height = 200');
  await page.getByRole('button', { name: 'Put into the tray' }).click();
  await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
});

test('a refused edit says which and why, and nothing changes on the board', async ({ page }) => {
  await open(page, '/steer/switches');
  await plugIn(page);
  // The board's rule, not a range: a band has to end after it begins.
  await page.getByRole('button', { name: /^Channel 7, position 3 of 3: Return home/ }).click();
  await page.getByText('in pulses').click();
  const from = page.getByLabel('Return home from');
  await from.fill('2190');
  await page.keyboard.press('Enter');
  const height = page.getByTestId('tray-count');
  await expect(height).toHaveText('1 edit waits');
  await page.getByRole('button', { name: 'Write to board' }).click();
  await expect(page.getByText(/Refused, nothing was changed on the board/)).toBeVisible();
  await expect(height).toHaveText('1 edit waits');
  await page.getByRole('button', { name: 'Review' }).click();
  await expect(page.getByText(/^Refused: A switch band/)).toBeVisible();
  await page.getByRole('button', { name: 'Drop', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(height).toHaveText('No edits wait');
});

test('the cable pulled while reading, writing and holding loses nothing', async ({ page }) => {
  const faults = await open(page, '/return/way-home');
  await openBench(page);
  const usb = page.getByRole('switch', { name: /^USB cable/ });
  await usb.click();
  await usb.click();
  await expect(page.getByText('no board plugged in')).toBeVisible();
  // Both presses have to have reached the bench before the next.
  await page.waitForTimeout(400);
  await expect(usb).toHaveAttribute('aria-checked', 'false');
  await plugIn(page);
  await page.getByRole('textbox', { name: 'Return height' }).fill('300');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Write to board' })).toBeEnabled();
  // At once, since a write takes only a tenth of a second. Where the cable is out before it began, it says that.
  await page.evaluate(() => {
    const press = (name: string) =>
      [...document.querySelectorAll('button')].find((b) => b.textContent?.startsWith(name))?.click();
    press('Write to board');
    setTimeout(() => press('USB cable'), 30);
  });
  await expect(
    page.getByText(/The link went quiet during the write|No board is connected\. The edits stay/),
  ).toBeVisible({ timeout: 40_000 });
  await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
  await plugIn(page);
  // The board holds all of it or none; either way the tray says what is left to do.
  const waiting = await page.getByTestId('tray-count').textContent();
  if (waiting !== 'No edits wait') await write(page);
  await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
  await bench(page, 'Battery', true);
  await page.goto('/steer/which-moved');
  await plugIn(page, true);
  await page.getByLabel('The propellers are off').click();
  await holdOutput(page);
  await page.getByRole('switch', { name: /^USB cable/ }).click();
  await expect(page.getByText('moving now')).toBeHidden();
  await page.keyboard.up(' ');
  const motor = page
    .getByRole('region', { name: 'Bench, simulated' })
    .locator('ellipse[data-part=right-motor]')
    .first();
  await expect(motor).not.toHaveAttribute('data-live', 'yes', { timeout: 40_000 });
  expect(faults).toEqual([]);
});

test('a page that stalls while an output is held: the board stops it, and the page says so', async ({
  page,
}) => {
  await open(page, '/steer/which-moved');
  await plugIn(page, true);
  await closeBench(page);
  await page.getByLabel('The propellers are off').click();
  await holdOutput(page);
  // Longer than the board waits to be told again.
  await page.evaluate(() => {
    const start = performance.now();
    while (performance.now() - start < 700);
  });
  await expect(page.getByText('The board moves nothing now')).toBeVisible();
  await expect(page.getByText('moving now')).toBeHidden();
  await page.keyboard.up(' ');
  await holdOutput(page);
  await page.keyboard.up(' ');
  await expect(page.getByText('Stops when you let go')).toBeVisible();
});

const refusals = {
  'a private window': () => {
    indexedDB.open = () => {
      throw new DOMException('no', 'SecurityError');
    };
  },
  'a full disk': () => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
  },
};

for (const [name, refuse] of Object.entries(refusals))
  test(`${name} is said in a sentence, and everything still works`, async ({ page }) => {
    await page.addInitScript(refuse);
    await open(page, '/return/way-home');
    await page.getByRole('textbox', { name: 'Return height' }).fill('300');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert').first()).toContainText('save the craft to a file');
    await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
    await page.getByRole('button', { name: /Turnstone 1600/ }).click();
    const saved = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: 'Save craft to a file' }).click();
    expect(readFileSync(await (await saved).path(), 'utf8')).toContain('"return.height": 300');
  });
