import { readFileSync } from 'node:fs';
import { expect, type Locator, type Page, test } from '@playwright/test';
import { goTo, open } from './helpers.ts';

/** Places of a circle of 300 m about the strip of Torvholm, one a second, as GPX. */
function circle(seconds: number, shiftS = 0, back = 0): string {
  const points = Array.from({ length: seconds }, (_, k) => {
    const turned = (k * 12) / 300;
    const lat = 61.9 + (300 * Math.sin(turned)) / 111_200;
    const lon = -12.43 + (300 * Math.cos(turned)) / (111_200 * Math.cos((61.9 * Math.PI) / 180));
    // One of them is told once more, as if time ran backwards.
    const at = new Date(Date.UTC(2026, 5, 1, 10, 0, k === 20 ? k - back : k + shiftS));
    const height = 90 + 20 * Math.sin(k / 9);
    return `<trkpt lat="${lat.toFixed(7)}" lon="${lon.toFixed(7)}"><ele>${height.toFixed(1)}</ele><time>${at.toISOString()}</time></trkpt>`;
  });
  return `<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>${points.join('')}</trkseg></trk></gpx>`;
}

const give = (page: Page, name: string, text: string) =>
  page
    .getByRole('main')
    .getByLabel('Flight log or track')
    .setInputFiles({ name, mimeType: 'application/gpx+xml', buffer: Buffer.from(text) });

/** Goes on by Tab until it is there. */
async function tabTo(page: Page, what: Locator): Promise<void> {
  for (let k = 0; k < 120; k++) {
    if (await what.evaluate((e) => e === document.activeElement).catch(() => false)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error('It is not reached by Tab.');
}

test('a flight is gone through, laid beside another, saved, let go and put back by keys alone', async ({
  page,
}, info) => {
  test.setTimeout(120_000);
  const faults = await open(page);
  const main = page.getByRole('main');
  await goTo(page, '/field/after-flight');
  await give(page, 'morning.gpx', circle(120));
  await expect(main.getByRole('region', { name: 'morning.gpx' })).toBeVisible({ timeout: 30_000 });
  await give(page, 'noon.gpx', circle(100, 7, 10));
  const flight = main.getByRole('region', { name: 'noon.gpx' });
  await expect(flight).toBeVisible({ timeout: 30_000 });
  await expect(flight.getByText(/moments? (was|were) left out/)).toBeVisible();
  // From the title on, by Tab alone.
  await page.evaluate(() => document.querySelector<HTMLElement>('#work')?.focus());
  const time = main.getByRole('slider', { name: 'Time in the flight' });
  await tabTo(page, time);
  await page.keyboard.press('Home');
  await expect(time).toHaveAttribute('aria-valuenow', '0');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(time).toHaveAttribute('aria-valuenow', '10');
  await page.keyboard.press('End');
  await expect(time).toHaveAttribute('aria-valuenow', '99');
  await page.keyboard.press('ArrowLeft');
  await expect(time).toHaveAttribute('aria-valuenow', '98');
  const height = main.getByRole('button', { name: /^height/ }).first();
  await tabTo(page, height);
  const was = await height.getAttribute('aria-pressed');
  await page.keyboard.press('Enter');
  await expect(height).toHaveAttribute('aria-pressed', was === 'true' ? 'false' : 'true');
  // Beside the one of the morning.
  const beside = main.getByRole('combobox', { name: 'Flight to lay beside it' });
  await tabTo(page, beside);
  await page.keyboard.press('ArrowDown');
  await expect(beside).toHaveValue(/./);
  await expect(main.getByText(/^apart by/)).toBeVisible();
  // Out as a table.
  const csv = main.getByRole('button', { name: 'CSV' });
  await tabTo(page, csv);
  const [download] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')]);
  const path = info.outputPath(download.suggestedFilename());
  await download.saveAs(path);
  expect(readFileSync(path, 'utf8').split('\r\n')[0]).toContain('seconds,mode,lat,lon');
  // Let go, and there again.
  await tabTo(page, main.getByRole('button', { name: 'Let it go from this browser' }));
  await page.keyboard.press('Enter');
  await expect(flight).toHaveCount(0);
  await expect(main.getByRole('region', { name: 'morning.gpx' })).toBeVisible();
  await page.getByRole('button', { name: 'Put it back' }).press('Enter');
  await expect(main.getByRole('button', { name: /^noon\.gpx/ })).toBeVisible();
  await page.reload();
  await expect(main.getByRole('button', { name: /^noon\.gpx/ })).toBeVisible();
  await expect(main.getByRole('button', { name: /^morning\.gpx/ })).toBeVisible();
  expect(faults).toEqual([]);
});

test('a tab that reads along looks at flights and searches, and changes neither', async ({
  page,
  context,
}) => {
  test.setTimeout(120_000);
  await open(page);
  await goTo(page, '/field/after-flight');
  await give(page, 'morning.gpx', circle(120));
  await expect(page.getByRole('region', { name: 'morning.gpx' })).toBeVisible({ timeout: 30_000 });
  const two = await context.newPage();
  await two.goto('/field/after-flight');
  await expect(two.getByRole('button', { name: 'Work on it here' })).toBeVisible();
  await expect(two.getByRole('region', { name: 'morning.gpx' })).toBeVisible({ timeout: 30_000 });
  await goTo(two, '/field/when-lost');
  const begin = two.getByRole('main').getByRole('button', { name: 'Type what is known' });
  await begin.click();
  await goTo(page, '/field/when-lost');
  await expect(page.getByRole('main').getByRole('button', { name: 'Type what is known' })).toBeVisible();
  // The tab that works begins one: the other sees it.
  await page.getByRole('main').getByRole('button', { name: 'Type what is known' }).click();
  await expect(page.getByText(/hold nine tenths of the chance/)).toBeVisible({ timeout: 60_000 });
  await expect(two.getByText(/hold nine tenths of the chance/)).toBeVisible({ timeout: 60_000 });
  await page.reload();
  await expect(page.getByText(/hold nine tenths of the chance/)).toBeVisible({ timeout: 60_000 });
});
