import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { bench, goTo, open, plugIn } from './helpers.ts';

const unknown = /The ground is not known here/;

test('another field is typed in, flown from without ground, and given its ground', async ({ page }) => {
  test.setTimeout(240_000);
  const faults = await open(page, '/build/site');
  await expect(page.getByRole('radio', { name: 'Torvholm' })).toBeChecked();
  await expect(page.getByText(/finding/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Begin another…' }).click();
  await expect(page.getByRole('radio', { name: 'New site' })).toBeChecked();
  await expect(page.getByText(unknown).first()).toBeVisible();

  await page.getByRole('textbox', { name: 'Name of the site' }).fill('Upper meadow');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('radio', { name: 'Upper meadow' })).toBeChecked();
  await page.getByRole('textbox', { name: 'Latitude' }).fill('61.91');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Height of home' }).fill('61');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Height of home' })).toHaveValue('61');

  // Nothing is said of a ridge that nobody knows; what flies says so.
  await goTo(page, '/return/way-home');
  await expect(page.getByText(unknown)).toBeVisible();
  await goTo(page, '/rehearse/one-flight');
  await expect(page.getByText(unknown)).toBeVisible();
  await expect(page.getByText(/fly at Upper meadow/)).toBeVisible();

  await goTo(page, '/build/site');
  await page.getByLabel('Ground files').setInputFiles('demo/terrain/N61W013.hgt');
  await expect(page.getByText('The ground of Upper meadow is known now.')).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText(unknown)).toBeHidden();
  await expect(page.getByText(/Heights every/)).toContainText('60 m');
  // The ridge counts again.
  await goTo(page, '/return/way-home');
  await expect(page.getByText(/lower than|below|higher than/i).first()).toBeVisible();

  // It is there after a reload, and the craft is still set up for it.
  await page.waitForTimeout(400);
  await page.reload();
  await goTo(page, '/build/site');
  await expect(page.getByRole('radio', { name: 'Upper meadow' })).toBeChecked();
  await expect(page.getByRole('textbox', { name: 'Latitude' })).toHaveValue('61.91');
  await expect(page.getByText(/Heights every/)).toContainText('60 m');

  // Let go, the craft has none, and nothing is made up.
  await page.getByRole('button', { name: 'Let Upper meadow go' }).click();
  await expect(page.getByText(/not set up for any site/)).toBeVisible();
  await expect(page.getByText(unknown)).toBeVisible();
  expect(faults).toEqual([]);
});

test('a site is saved to a file, opened again, and refused where it is not right', async ({ page }) => {
  await open(page, '/build/site');
  await page.getByRole('radio', { name: 'Skerrow' }).click();
  await expect(page.getByText('62.40000° -11.90000°')).toBeVisible();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save to a file' }).click();
  const file = await saved;
  expect(file.suggestedFilename()).toBe('skerrow.wanderweg-site.json');
  const text = readFileSync(await file.path(), 'utf8');
  const openText = (name: string, body: string) =>
    page
      .getByLabel('Site file')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(body) });
  await openText('same.json', text);
  await expect(page.getByRole('alert')).toContainText('Skerrow comes with the demo and stays as it is');
  await openText('mine.json', text.replace('"name": "Skerrow"', '"name": "Outer reef"'));
  await expect(page.getByRole('radio', { name: 'Outer reef' })).toBeChecked();
  await expect(page.getByRole('alert')).toBeHidden();
  await openText('bad.json', text.replace('"lat": 62.4', '"lat": 162.4'));
  await expect(page.getByRole('alert')).toContainText('home.lat');
  await openText('craft.json', readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
  await expect(page.getByRole('alert')).toContainText('is no site');
  await page.getByLabel('Ground files').setInputFiles({
    name: 'N10E010.hgt',
    mimeType: 'application/octet-stream',
    buffer: Buffer.alloc(1201 * 1201 * 2),
  });
  await expect(page.getByRole('alert')).toContainText('lies elsewhere');
  await expect(page.getByRole('radio', { name: 'Outer reef' })).toBeChecked();

  // A mast told of is seen by what looks at the ground.
  await page.getByRole('button', { name: 'Tell of another…' }).click();
  await page.getByRole('textbox', { name: 'What stands there' }).fill('Tall mast');
  await page.getByRole('textbox', { name: 'Top above the sea' }).fill('260');
  await page.getByRole('button', { name: 'It stands there' }).click();
  await expect(page.getByText('260 m').first()).toBeVisible();
  await page.getByRole('button', { name: 'Tall mast is gone' }).click();
  await expect(page.getByText('Tall mast')).toBeHidden();
});

test('the board is carried along, and its fix becomes home', async ({ page }) => {
  test.setTimeout(240_000);
  await open(page, '/build/site');
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await bench(page, 'Craft is', true);
  await plugIn(page, true);
  await page.getByRole('radio', { name: 'Skerrow' }).click();
  await expect(page.getByRole('radio', { name: 'Skerrow' })).toBeChecked();
  await page.getByRole('button', { name: 'Make a copy to change' }).click();
  await expect(page.getByRole('radio', { name: 'Skerrow, mine' })).toBeChecked();
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible({ timeout: 20_000 });
  // Typed wrongly; the board stands where it was carried, and tells.
  const latitude = page.getByRole('textbox', { name: 'Latitude' });
  await latitude.fill('62.42');
  await page.keyboard.press('Enter');
  const take = page.getByRole('button', { name: 'Take the board’s fix' });
  await expect(take).toBeEnabled({ timeout: 150_000 });
  await expect(latitude).toHaveValue('62.42');
  await take.click();
  await expect(latitude).not.toHaveValue('62.42');
  expect(Number(await latitude.inputValue())).toBeCloseTo(62.4, 3);
  await expect(page.getByRole('alert')).toBeHidden();
});

test('a browser that keeps nothing still takes a site, and says that it lives in the tab', async ({
  page,
}) => {
  await page.addInitScript(() => {
    indexedDB.open = () => {
      throw new DOMException('no', 'SecurityError');
    };
  });
  await open(page, '/build/site');
  await page.getByRole('button', { name: 'Begin another…' }).click();
  await expect(page.getByText(/does not keep New site: it lives in this tab/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Height of home' }).fill('77');
  await page.keyboard.press('Enter');
  await page.getByRole('radio', { name: 'Torvholm' }).click();
  await page.getByRole('radio', { name: 'New site' }).click();
  await expect(page.getByRole('textbox', { name: 'Height of home' })).toHaveValue('77');
});

test('what is typed in quick succession is all kept, whatever the disk does meanwhile', async ({ page }) => {
  await page.addInitScript(() => {
    // A slow disk: every put waits.
    const put = IDBObjectStore.prototype.put;
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: [unknown, IDBValidKey?]) {
      const until = performance.now() + 150;
      while (performance.now() < until);
      return put.apply(this, args);
    };
  });
  await open(page, '/build/site');
  await page.getByRole('button', { name: 'Begin another…' }).click();
  await page.getByRole('textbox', { name: 'Height of home' }).fill('77');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Longitude' }).fill('-12.5');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Name of the site' }).fill('Quick field');
  await page.keyboard.press('Enter');
  const height = page.getByRole('textbox', { name: 'Height of home' });
  await height.focus();
  for (let k = 0; k < 5; k++) await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await page.waitForTimeout(2500);
  await page.reload();
  await expect(page.getByRole('radio', { name: 'Quick field' })).toBeChecked();
  await expect(page.getByRole('radio', { name: 'New site' })).toHaveCount(0);
  await expect(page.getByRole('textbox', { name: 'Longitude' })).toHaveValue('-12.5');
  await expect(height).toHaveValue('82');
});
