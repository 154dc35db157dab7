import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

test('a search: typed, walked square by square, kept over a reload, saved, and ended', async ({ page }) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/dunlin.wanderweg.json');
  await expect(page.getByText('Dunlin 900 is open.')).toBeVisible();
  await goTo(page, '/field/when-lost');
  const main = page.getByRole('main');
  // No log, and nothing from one.
  await main
    .getByLabel('Flight log')
    .setInputFiles({ name: 'no.cbor', mimeType: 'application/cbor', buffer: Buffer.from('hello') });
  await expect(main.getByRole('alert')).toContainText('no.cbor: The file is no track that is known');
  await main.getByRole('button', { name: 'Type what is known' }).click();
  const at = main.getByRole('textbox', { name: 'Where it was last seen' });
  await at.fill('somewhere');
  await expect(main.getByText(/Latitude and longitude in degrees/)).toBeVisible();
  await at.fill('N 61.9100 W 12.4200');
  await page.keyboard.press('Enter');
  const next = main.getByRole('region', { name: 'The next square' });
  await expect(next).toBeVisible({ timeout: 30_000 });
  // Below the ground: told, and not refused.
  await main.getByRole('textbox', { name: 'Height above the sea' }).fill('1');
  await page.keyboard.press('Enter');
  await expect(main.getByText('Is its height counted from home?')).toBeVisible();
  await main.getByRole('textbox', { name: 'Height above the sea' }).fill('140');
  await page.keyboard.press('Enter');
  await expect(main.getByText('Is its height counted from home?')).toHaveCount(0);
  // Walked: where one stands moves along.
  const stand = main.getByRole('textbox', { name: 'Where you stand' });
  const before = await stand.inputValue();
  await expect(main.getByText('flying endings …')).toHaveCount(0, { timeout: 30_000 });
  await next.getByRole('button', { name: 'Looked over, not there' }).click();
  await expect(stand).not.toHaveValue(before);
  const after = await stand.inputValue();
  await page.waitForTimeout(600);
  await page.reload();
  await expect(stand).toHaveValue(after, { timeout: 20_000 });
  await expect(main.getByRole('button', { name: 'Take the last square back' })).toBeVisible();
  await expect(next).toBeVisible({ timeout: 30_000 });
  const [gpx] = await Promise.all([
    page.waitForEvent('download'),
    main.getByRole('button', { name: 'Save the walk as GPX' }).click(),
  ]);
  expect(readFileSync(await gpx.path(), 'utf8')).toContain(
    '<wpt lat="61.9100000" lon="-12.4200000"><name>last seen</name>',
  );
  const [geo] = await Promise.all([
    page.waitForEvent('download'),
    main.getByRole('button', { name: 'Save map and walk as GeoJSON' }).click(),
  ]);
  const json = JSON.parse(readFileSync(await geo.path(), 'utf8')) as {
    features: { geometry: { type: string } }[];
  };
  expect(json.features.map((f) => f.geometry.type)).toEqual([
    'Point',
    ...new Array(5).fill('MultiPolygon'),
    'LineString',
  ]);
  await next.getByRole('button', { name: 'It is found' }).click();
  await expect(main.getByText('Found. 2 squares were looked over.')).toBeVisible();
  expect(faults).toEqual([]);
});
