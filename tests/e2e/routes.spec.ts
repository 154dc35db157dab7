import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { goTo, open, plugIn, putPlace } from './helpers.ts';

const look = async (page: Page, name: string) => {
  if (process.env.LOOK) await page.screenshot({ path: `/tmp/shots/${name}.png` });
};

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
  await look(page, 'routes0');
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
  await look(page, 'routes1');
  await page.getByRole('button', { name: 'Survey it' }).click();
  await expect(whole(page)).toContainText('% left', { timeout: 20_000 });
  await page.getByRole('button', { name: 'the route', exact: true }).click();
  await look(page, 'routes2');
  // What the route asks is said where it is drawn, and among the findings.
  await expect(page.getByText(/^From before point \d+ on it does not come home/)).toBeVisible();
  const link = page.getByLabel('The link', { exact: true });
  const check = page.getByRole('region', { name: 'Flown in the bench' });
  await look(page, 'routes3');

  // Written to the board and read back.
  await plugIn(page);
  await goTo(page, '/return/routes');
  const board = page.getByRole('region', { name: 'On the board' });
  await expect(board).toContainText('nothing, other than drawn here', { timeout: 20_000 });
  await board.getByRole('button', { name: 'Write it to the board' }).click();
  await expect(board).toContainText('as sent', { timeout: 20_000 });
  await look(page, 'routes4');

  // Lost at the far corner, behind the hill: flown, it does not come home.
  await link.selectOption({ label: 'is lost at point 3' });
  await check.getByRole('button', { name: 'Fly it in the bench' }).click();
  await expect(check).toContainText('It did not come home', { timeout: 90_000 });
  await look(page, 'routes5');

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
  await look(page, 'routes6');
  await expect(page.getByRole('link', { name: /^Routes and fence.*proven/ })).toBeVisible();
});
