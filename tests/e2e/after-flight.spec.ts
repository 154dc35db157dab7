import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { bench, closeBench, flyOut, goTo, open, openBench, plugIn } from './helpers.ts';

test('from the mended demo over sign-off and flight to its log, beside the rehearsal, and to the search', async ({
  page,
}, info) => {
  test.setTimeout(200_000);
  const faults = await open(page);
  const main = page.getByRole('main');
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('is open.')).toBeVisible();
  await goTo(page, '/rehearse/one-flight');
  await page
    .getByRole('button', { name: /^Fly it/ })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'Fly again' })).toBeVisible({ timeout: 120_000 });
  // Signed off with a battery that has a name.
  await goTo(page, '/field/before-throw');
  const sign = page.getByRole('region', { name: 'Signed off' });
  await sign.getByRole('textbox', { name: 'Name of another battery' }).fill('B3');
  await page.keyboard.press('Enter');
  await sign.getByRole('button', { name: 'Sign this flight off' }).click();
  // Flown, and read over the link.
  await goTo(page, '/field/after-flight');
  await openBench(page);
  await flyOut(page);
  await plugIn(page);
  await closeBench(page);
  await main.getByRole('button', { name: 'Read flight 1 from the board' }).click();
  await expect(main.getByRole('heading', { name: 'What surprised' })).toBeVisible({ timeout: 60_000 });
  await expect(main.getByRole('button', { name: 'The link was poor', exact: true })).toBeVisible();
  await expect(main.getByRole('combobox', { name: 'battery it was flown with' })).toHaveValue('B3');
  await expect(main.getByText('Above home: circles there.')).toBeVisible();
  // What the board decided leads there; the cursor goes by keys.
  await main.getByRole('button', { name: /Way home: climbs/ }).click();
  const time = main.getByRole('slider', { name: 'Time in the flight' });
  const at = Number(await time.getAttribute('aria-valuenow'));
  expect(at).toBeGreaterThan(170);
  await time.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(time).toHaveAttribute('aria-valuenow', String(at + 10));
  // Any value is followed.
  await main.getByRole('button', { name: /^throttle/ }).click();
  await expect(main.getByRole('button', { name: /^throttle/ })).toHaveAttribute('aria-pressed', 'true');
  await main.getByRole('button', { name: 'Nearer' }).click();
  await main.getByRole('button', { name: 'All of it' }).click();
  // Beside its rehearsal.
  await main.getByRole('combobox', { name: 'Flight to lay beside it' }).selectOption('the last rehearsal');
  const beside = main.getByRole('region', { name: 'Beside another' });
  await expect(beside.getByText('farthest from home')).toBeVisible();
  await expect(beside.getByText(/^apart by/)).toContainText(' m');
  // Out as files.
  const saved = async (button: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      main.getByRole('button', { name: button }).click(),
    ]);
    const path = info.outputPath(download.suggestedFilename());
    await download.saveAs(path);
    return path;
  };
  const gpx = await saved('GPX');
  expect(readFileSync(gpx, 'utf8').match(/<trkpt /g)!.length).toBeGreaterThan(3000);
  const log = await saved('the board’s own log');
  // All of it is there after a reload, with the cable out.
  await page.reload();
  await expect(main.getByRole('button', { name: /^Flight 1/ })).toBeVisible();
  await expect(main.getByRole('heading', { name: 'What surprised' })).toBeVisible();
  // What went out comes in.
  await main.getByLabel('Flight log or track').setInputFiles(gpx);
  await expect(main.getByRole('region', { name: /\.gpx$/ })).toBeVisible({ timeout: 60_000 });
  // And lost on another day: by the log to the search.
  await goTo(page, '/field/when-lost');
  await expect(main.getByRole('heading', { name: 'When it is lost' })).toBeVisible();
  await expect(main.getByRole('button', { name: 'From flight 1, read from the board' })).toBeVisible();
  await main.getByLabel('Flight log or track').setInputFiles(log);
  await expect(main.getByText(/hold nine tenths of the chance/)).toBeVisible({ timeout: 60_000 });
  await goTo(page, '/field/before-throw');
  await expect(page.getByText('1 flight, 0 days')).toBeVisible();
  expect(faults).toEqual([]);
});

test('a flight whose cable is pulled in the middle goes on by itself; what is no flight is refused with a sentence', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page);
  const main = page.getByRole('main');
  await page.getByLabel('Craft file').setInputFiles('demo/dunlin.wanderweg.json');
  await expect(page.getByText('Dunlin 900 is open.')).toBeVisible();
  await goTo(page, '/field/after-flight');
  await openBench(page);
  await flyOut(page);
  await bench(page, 'USB cable', true);
  await main.getByRole('button', { name: 'Read flight 1 from the board' }).click();
  await bench(page, 'USB cable', false);
  // Pulled before all of it came, or after: it is whole in the end.
  await bench(page, 'USB cable', true);
  await expect(main.getByRole('heading', { name: 'What surprised' })).toBeVisible({ timeout: 90_000 });
  await expect(main.getByText('It is here in part')).toHaveCount(0);
  await closeBench(page);
  for (const [name, text, why] of [
    ['holiday.jpg', 'no flight', 'is no track that is known'],
    ['line.geojson', '{"type":"FeatureCollection","features":[]}', 'holds no track'],
    ['cut.gpx', '<gpx><trk>', 'is damaged'],
  ] as const) {
    await main
      .getByLabel('Flight log or track')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
    await expect(main.getByText(why)).toBeVisible();
    await expect(main.getByText('Nothing was taken.')).toBeVisible();
  }
  await expect(main.getByRole('button', { name: /^Flight 1/ })).toBeVisible();
  await main.getByRole('button', { name: 'Let it go from this browser' }).click();
  await expect(main.getByRole('button', { name: 'Read flight 1 from the board' })).toBeVisible();
  expect(faults).toEqual([]);
});
