import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { bench, goTo, open, plugIn, putPlace } from './helpers.ts';

/** The prepared Turnstone with a switch that begins the route. */
async function openTurnstone(page: Page, change: Record<string, unknown> = {}): Promise<void> {
  const file = JSON.parse(readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
  Object.assign(file.settings, {
    'mode.route.channel': 9,
    'mode.route.from': 1700,
    'mode.route.to': 2200,
    ...change,
  });
  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(file)),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
}

const whole = (page: Page) => page.getByRole('status', { name: 'The route as a whole' });

test('a survey is drawn, checked, flown; its return from the far corner is mended by what the map says', async ({
  page,
}) => {
  test.setTimeout(280_000);
  await open(page, '/return/routes');
  await openTurnstone(page, { 'return.height': 120, 'return.climb': 'climb-on-the-way' });
  await goTo(page, '/return/routes');
  await page.getByRole('button', { name: 'all', exact: true }).click();
  await page.getByRole('button', { name: 'Draw an area' }).click();
  const map = page.getByLabel(/^Map of Torvholm: route and fences/);
  const box = (await map.boundingBox())!;
  for (const [x, y] of [
    [0.13, 0.21],
    [0.2, 0.17],
    [0.2, 0.27],
    [0.13, 0.3],
  ])
    await page.mouse.click(box.x + x! * box.width, box.y + y! * box.height);
  await page.getByLabel('Between tracks').fill('250');
  await page.getByLabel('Between tracks').press('Enter');
  await page.getByLabel('Height of the survey', { exact: true }).fill('120');
  await page.getByLabel('Height of the survey', { exact: true }).press('Enter');
  await page.getByLabel('Height of the survey is above').selectOption('the ground');
  await expect(page.getByText(/\d+ tracks/)).toBeVisible();
  await page.getByRole('button', { name: 'Survey it' }).click();
  await expect(whole(page)).toContainText('% left', { timeout: 20_000 });
  await page.getByRole('button', { name: 'the route', exact: true }).click();
  // What the route asks is said where it is drawn, and among the findings.
  await expect(page.getByText(/^From before point \d+ on it does not come home/)).toBeVisible();
  const link = page.getByLabel('The link', { exact: true });
  const check = page.getByRole('region', { name: 'Flown in the bench' });

  // Written to the board and read back.
  await plugIn(page);
  await goTo(page, '/return/routes');
  const board = page.getByRole('region', { name: 'On the board' });
  await expect(board).toContainText('nothing, other than drawn here', { timeout: 20_000 });
  await board.getByRole('button', { name: 'Write it to the board' }).click();
  await expect(board).toContainText('as sent', { timeout: 20_000 });

  // Lost at the far corner, behind the hill: flown, it does not come home.
  await link.selectOption({ label: 'is lost at point 3' });
  await check.getByRole('button', { name: 'Fly it in the bench' }).click();
  await expect(check).toContainText('It did not come home', { timeout: 90_000 });

  // The map of the reach says what mends it.
  await goTo(page, '/return/reach');
  await putPlace(page, 317, 5900);
  const there = page.getByRole('region', { name: 'From there' });
  await expect(there).toContainText('it does not come home: ground', { timeout: 20_000 });
  await there.getByRole('button', { name: /climbing first/ }).click();
  await expect(there).toContainText('it comes home', { timeout: 20_000 });

  // And flown again it comes home; then the whole survey with the link kept, as a proof.
  await goTo(page, '/return/routes');
  await expect(check).toContainText('Since then something it rests on was changed');
  await link.selectOption({ label: 'is lost at point 3' });
  await check.getByRole('button', { name: 'Fly it in the bench' }).click();
  await expect(check).toContainText('It came home', { timeout: 90_000 });
  await link.selectOption({ label: 'is kept' });
  await check.getByRole('button', { name: 'Fly it in the bench' }).click();
  await expect(check).toContainText(/(\d+) of \1 points/, { timeout: 120_000 });
  await expect(page.getByRole('link', { name: /^Routes and fence.*proven/ })).toBeVisible();
});

test('a route by keys, with fences, undo, reload, and a cable that is pulled', async ({ page }) => {
  test.setTimeout(120_000);
  await open(page, '/return/routes');
  await openTurnstone(page);
  await goTo(page, '/return/routes');
  // Points without the mouse: laid by a button, moved by arrows, gone on by Page keys, taken away by Delete.
  const more = page.getByRole('button', { name: 'One more point' });
  for (let k = 0; k < 3; k++) await more.press('Enter');
  await expect(page.getByRole('heading', { name: /^Point 3/ })).toBeVisible();
  const point = (n: number) => page.getByRole('button', { name: new RegExp(`^Point ${n} of`) });
  await point(3).focus();
  for (let k = 0; k < 4; k++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('PageUp');
  await expect(point(2)).toBeFocused();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('heading', { name: /^Point 2/ })).toBeVisible();
  await expect(whole(page)).toContainText('% left', { timeout: 20_000 });

  // What is asked at a point.
  await page.getByLabel('What is done at point 2').selectOption('circle');
  await page.getByLabel('Turns there').fill('3');
  await page.getByLabel('Turns there').press('Enter');
  await page.getByLabel('Height of point 2', { exact: true }).fill('99999');
  await expect(page.getByText(/Height of point 2 goes from/)).toBeVisible();
  await page.keyboard.press('Escape');

  // A circle to be kept out of on the way is told, and moved by keys.
  await page.getByRole('button', { name: 'a circle to keep out of' }).click();
  const name = page.getByLabel('Name of the fence');
  await name.fill('The old sheepfold with a very long name indeed');
  await name.press('Enter');
  await expect(page.getByText(/breaks a fence before point/).first()).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: /^Middle of The old sheepfold/ }).focus();
  for (let k = 0; k < 9; k++) await page.keyboard.press('Shift+ArrowLeft');
  await expect(page.getByText(/breaks a fence before point/)).toHaveCount(0, { timeout: 20_000 });

  // Undo takes back the last thing; a reload loses nothing.
  await page.getByRole('button', { name: 'take away' }).last().click();
  await expect(name).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: /^The old sheepfold/ })).toBeVisible();
  await page.waitForTimeout(400);
  await page.reload();
  await expect(page.getByRole('button', { name: /^The old sheepfold/ })).toBeVisible({ timeout: 20_000 });
  await expect(point(2)).toBeVisible();

  // Written; then another one written while the cable goes.
  await plugIn(page);
  await goTo(page, '/return/routes');
  const board = page.getByRole('region', { name: 'On the board' });
  await board.getByRole('button', { name: 'Write it to the board' }).click({ timeout: 20_000 });
  await expect(board).toContainText('2 points and 1 fence as sent', { timeout: 20_000 });
  await more.click();
  await expect(board).toContainText('other than drawn here');
  await board.getByRole('button', { name: 'Write it to the board' }).click();
  await bench(page, 'USB cable', false);
  await expect(board).toContainText('no board is plugged in');
  await plugIn(page);
  await goTo(page, '/return/routes');
  await expect(board).toContainText(
    /2 points and 1 fence, other than drawn here|3 points and 1 fence, as drawn here/,
    {
      timeout: 20_000,
    },
  );
});

test('routes from files: looked at before they are taken, and refused with a sentence', async ({ page }) => {
  await open(page, '/return/routes');
  await openTurnstone(page);
  await goTo(page, '/return/routes');
  const file = page.getByLabel('Open a route');
  const give = (name: string, text: string) =>
    file.setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(text) });
  for (const [name, text, words] of [
    ['a.gpx', '<gpx><rte><rtept lat="1"', /a.gpx: The file is damaged.*Nothing was taken/],
    ['b.txt', 'north 40, then left', /neither GPX nor KML nor GeoJSON/],
    [
      'c.geojson',
      JSON.stringify({
        type: 'LineString',
        coordinates: [
          [1, 2],
          [3, 4],
        ],
      }),
      /of another site/,
    ],
  ] as const) {
    await give(name, text);
    await expect(page.getByRole('alert').filter({ hasText: words })).toBeVisible();
  }
  // Heights above the launch are told from heights above the sea.
  await give(
    'heights.gpx',
    `<gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><rte>${[
      [61.9025, -12.418],
      [61.91, -12.43],
      [61.915, -12.41],
    ]
      .map(([lat, lon]) => `<rtept lat="${lat}" lon="${lon}"><ele>0.5</ele></rtept>`)
      .join('')}</rte></gpx>`,
  );
  await expect(page.getByText(/heights.gpx holds 3 points/)).toBeVisible();
  await expect(page.getByText(/would lie below the ground/)).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await file.setInputFiles('demo/routes/torvholm-shore.geojson');
  await expect(page.getByText(/holds 8 points and 2 areas/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it', exact: true }).click();
  await expect(whole(page)).toContainText('% left', { timeout: 20_000 });
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'GPX, the route' }).click();
  expect((await saved).suggestedFilename()).toBe('turnstone-1600-route.gpx');
});
