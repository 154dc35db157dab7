import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { begin, bench, closeBench, flyOut, open, openBench, plugIn, tiltByKeys, write } from './helpers.ts';

/** One picture of each main view into docs/screenshots/: `npm run screenshots`. */
test.skip(!process.env.SCREENSHOTS, 'pictures are taken on request');

const shot = async (page: Page, name: string) => {
  await page.waitForTimeout(350);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
};

const go = async (page: Page, view: string) => {
  await page.evaluate((v) => {
    history.pushState({}, '', v);
    dispatchEvent(new PopStateEvent('popstate'));
  }, view);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.waitForTimeout(300);
};

test('the main views', async ({ page }) => {
  test.setTimeout(900_000);
  await open(page);
  await plugIn(page, true);
  await page.waitForTimeout(800);
  await closeBench(page);
  await go(page, '/build/wiring');
  await page.getByRole('combobox', { name: 'Board', exact: true }).selectOption('massif-h7-b');
  for (const wish of ['output/dshot600', 'bus/flow/can', 'serial/telemetry'])
    await page.getByLabel('Connect something').selectOption(wish);
  await expect(page.getByText(/Everything has its place/)).toBeVisible();
  await shot(page, 'build-wiring');
  await page.getByRole('button', { name: 'Back to what the settings say' }).click();
  await go(page, '/field/before-throw');
  const walk = page.getByRole('region', { name: 'The whole walk' });
  for (const line of ['Balance', 'Packed', 'Transmitter on first', 'Battery in, hands off']) {
    await walk.getByRole('button', { name: line }).click();
    await page.getByRole('button', { name: 'It is so' }).click();
  }
  await walk.getByRole('button', { name: 'Tilt it to the right' }).click();
  await page.getByRole('heading', { level: 1 }).scrollIntoViewIfNeeded();
  await shot(page, 'field-before-throw');
  await go(page, '/steer/which-moved');
  await bench(page, 'Battery', true);
  await page.getByLabel('The propellers are off').click();
  await page.getByRole('list', { name: 'Outputs' }).getByRole('button').nth(3).click();
  const hold = page.getByRole('button', { name: /Hold to move output/ });
  await expect(hold).toBeEnabled();
  await hold.focus();
  await page.keyboard.down(' ');
  await page.waitForTimeout(450);
  await shot(page, 'steer-which-moved');
  await page.keyboard.up(' ');
  await go(page, '/steer/throws');
  await openBench(page);
  await page.getByRole('button', { name: 'Ruler', exact: true }).click();
  await page.getByLabel('The propellers are off').click();
  for (const [end, us] of [
    ['short-pulse end', 1000],
    ['long-pulse end', 2000],
  ] as const) {
    await page.getByRole('radio', { name: end, exact: true }).click();
    await page.getByRole('button', { name: /^Hold to bring it/ }).focus();
    await page.keyboard.down(' ');
    await page.waitForTimeout(3200);
    const [, size, way] = /([\d.]+) mm (\w+)/.exec((await page.getByTestId('ruler').textContent())!)!;
    await page.keyboard.up(' ');
    const reading = page.getByRole('region', { name: 'Reading' });
    await expect(reading).toContainText(`At ${us} µs`);
    await reading.getByRole('textbox').fill(size!);
    await page.keyboard.press('Enter');
    await reading.getByRole('button', { name: way!, exact: true }).click();
  }
  await closeBench(page);
  await page.locator('#work').evaluate((e) => e.scrollTo(0, 0));
  await shot(page, 'steer-throws');

  await page.getByLabel('Craft file').setInputFiles({
    name: 'turnstone.wanderweg.json',
    mimeType: 'application/json',
    buffer: readFileSync('demo/turnstone.wanderweg.json'),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await expect(page.getByText('Turnstone 1600 is open.')).toBeHidden({ timeout: 40_000 });
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  await closeBench(page);
  await go(page, '/steer/switches');
  await openBench(page);
  await page.getByRole('button', { name: 'Transmitter', exact: true }).click();
  // Every switch is flicked once.
  for (const name of ['Home', 'Arm']) {
    await bench(page, name, true);
    await page.waitForTimeout(700);
    await bench(page, name, false);
  }
  for (let k = 0; k < 4; k++) {
    await page.getByRole('button', { name: /Three-position switch/ }).click();
    await page.waitForTimeout(700);
  }
  await closeBench(page);
  await shot(page, 'steer-switches');
  await bench(page, 'Battery', true);
  await closeBench(page);
  await go(page, '/return/way-home');
  await shot(page, 'return-way-home');
  await go(page, '/return/reach');
  await page.getByRole('button', { name: 'Fly 12 pairs along the line' }).click({ timeout: 20_000 });
  await expect(page.getByText(/^The map was right in \d+ of 24 flights\./)).toBeVisible({ timeout: 150_000 });
  await page.locator('#work').evaluate((e) => e.scrollTo(0, 0));
  await shot(page, 'return-reach');
  await go(page, '/return/routes');
  await page.getByLabel('Open a route').setInputFiles('demo/routes/torvholm-shore.geojson');
  await page.getByRole('button', { name: 'Take it', exact: true }).click();
  await expect(page.getByRole('status', { name: 'The route as a whole' })).toContainText('% left');
  await shot(page, 'return-routes');
  await go(page, '/return/if-it-fails');
  await page.getByRole('button', { name: /^Fly all/ }).click();
  await expect(page.getByRole('button', { name: 'All are flown' })).toBeVisible({ timeout: 300_000 });
  await shot(page, 'return-if-it-fails');
  await go(page, '/rehearse/one-flight');
  await page.getByRole('button', { name: 'Fly it' }).click();
  await expect(page.getByText('Comes home', { exact: true })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/other seeds end alike|Luck decides/)).toBeVisible({ timeout: 120_000 });
  const strip = page.getByRole('slider', { name: 'Time in the flight' });
  const box = (await strip.boundingBox())!;
  await page.mouse.click(box.x + box.width * 0.62, box.y + 40);
  await shot(page, 'rehearse-one-flight');
  await page.getByLabel('Outbound distance').fill('600');
  await page.keyboard.press('Enter');
  await page.getByLabel('Link lost after').fill('45');
  await page.keyboard.press('Enter');
  await go(page, '/rehearse/many-winds');
  await page.getByRole('button', { name: 'Fly all 240' }).click();
  await expect(page.getByRole('button', { name: 'Fly them again' })).toBeVisible({ timeout: 400_000 });
  await page.getByRole('option', { name: /^12 m\/s from 225°/ }).click();
  await shot(page, 'rehearse-many-winds');
  await page.keyboard.press('Control+k');
  await page.locator('input[role=combobox]').fill('dusk');
  await page.waitForTimeout(200);
  await page.keyboard.press('Enter');
  await go(page, '/rehearse/one-flight');
  await shot(page, 'dusk');
});

test('how rotors answer, and a firmware on its way to a second-hand board', async ({ page }) => {
  test.setTimeout(120_000);
  await open(page, '/build/airframe');
  await page.getByRole('link', { name: 'Begin another craft' }).click();
  await begin(page, 'Avocet 7');
  await plugIn(page, true);
  await write(page);
  await closeBench(page);
  await go(page, '/refine/answers');
  await page.getByRole('slider', { name: /P, I and D together/ }).focus();
  for (let k = 0; k < 2; k++) await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('button', { name: 'Fly it', exact: true }).click();
  await expect(page.getByText(/^Flown in the bench/)).toBeVisible();
  await shot(page, 'refine-answers');
  await go(page, '/craft');
  await page.getByRole('button', { name: /^Turnstone 1600/ }).click();
  await expect(page.getByRole('navigation', { name: 'Trail' })).toBeVisible();
  await bench(page, 'USB cable', false);
  await page.getByRole('combobox', { name: 'Board' }).selectOption('FF7-0107-15');
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 2.8')).toBeVisible();
  await closeBench(page);
  await go(page, '/build/firmware');
  await page.getByRole('button', { name: 'Take Pfad 3.2', exact: true }).click();
  await page.getByRole('button', { name: 'Put Pfad 3.2 on the board' }).click();
  await expect(page.getByText(/Writing: .* a second, .* left/)).toBeVisible({ timeout: 40_000 });
  await page.waitForTimeout(900);
  await shot(page, 'build-firmware');
});

test('what the board is taught', async ({ page }) => {
  test.setTimeout(300_000);
  await open(page);
  await bench(page, 'Battery', true);
  await plugIn(page);
  const held = async (roll: number, pitch: number) => {
    await tiltByKeys(page, roll, pitch);
    await page.waitForTimeout(2600);
  };
  await go(page, '/sense/mounted');
  await held(0, 0);
  await page.getByRole('button', { name: 'It stands so' }).click();
  await held(0, 35);
  await page.getByRole('button', { name: 'The nose is up' }).click();
  await closeBench(page);
  await shot(page, 'sense-mounted');
  await page.getByRole('button', { name: 'Put into the tray' }).click();
  await go(page, '/sense/position');
  await page.getByRole('button', { name: 'Listen at every speed' }).click();
  await expect(page.getByText(/It speaks at 38400 baud/)).toBeVisible({ timeout: 30_000 });
  await write(page);
  await page
    .getByRole('button', { name: /Restart/ })
    .first()
    .click();
  await bench(page, 'Craft is', true);
  await held(30, 0);
  await go(page, '/sense/mounted');
  await page.getByRole('button', { name: 'The right wing is down' }).click();
  await closeBench(page);
  await go(page, '/sense/position');
  await expect(page.getByRole('button', { name: 'Keep this fix' })).toBeEnabled({ timeout: 60_000 });
  await page.getByLabel('Craft file').setInputFiles('demo/avocet.wanderweg.json');
  await expect(page.getByText('Avocet 7 is open.')).toBeVisible();
  await expect(page.getByText('Avocet 7 is open.')).toBeHidden({ timeout: 40_000 });
  await bench(page, 'Battery', true);
  await bench(page, 'USB cable', true);
  await go(page, '/sense/compass');
  await page.getByRole('combobox', { name: /^Turned/ }).selectOption('all');
  await page.waitForTimeout(26_000);
  await closeBench(page);
  await shot(page, 'sense-compass');
});

test('what is taken to the field', async ({ page }) => {
  test.setTimeout(400_000);
  await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await expect(page.getByText('Turnstone 1600 is open.')).toBeHidden({ timeout: 40_000 });
  await go(page, '/field/over-picture');
  await page.getByRole('button', { name: /^horizon/ }).click();
  await page.getByRole('button', { name: 'Rehearse what the pilot sees' }).click();
  await expect(page.getByRole('button', { name: 'Play the flight' })).toBeVisible({ timeout: 120_000 });
  await page.getByLabel('Time of the flight').fill('262');
  await page.getByRole('heading', { level: 1 }).click();
  await page.waitForTimeout(600);
  await shot(page, 'field-over-picture');
  await go(page, '/rehearse/one-flight');
  await page
    .getByRole('button', { name: /^Fly it/ })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'Fly again' })).toBeVisible({ timeout: 120_000 });
  await go(page, '/field/after-flight');
  await flyOut(page);
  await bench(page, 'USB cable', true);
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  await closeBench(page);
  await page.getByRole('button', { name: 'Read flight 1 from the board' }).click();
  await expect(page.getByRole('heading', { name: 'What surprised' })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('combobox', { name: 'Flight to lay beside it' }).selectOption('the last rehearsal');
  const time = page.getByRole('slider', { name: 'Time in the flight' });
  await time.focus();
  for (let k = 0; k < 40; k++) await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('region', { name: 'flight 1' }).evaluate((e) => e.scrollIntoView());
  await page.waitForTimeout(600);
  await shot(page, 'field-after-flight');
  await go(page, '/field/when-lost');
  await page.getByRole('button', { name: 'Type what is known' }).click();
  const type = async (name: string, text: string) => {
    await page.getByRole('textbox', { name, exact: true }).fill(text);
    await page.keyboard.press('Enter');
  };
  await type('Where it was last seen', '61.9080, -12.4180');
  await type('Course', '60');
  await type('Where you stand', '61.9062, -12.4230');
  await expect(page.getByRole('region', { name: 'The next square' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('flying endings …')).toHaveCount(0, { timeout: 30_000 });
  await page.getByRole('heading', { level: 1 }).scrollIntoViewIfNeeded();
  await shot(page, 'field-when-lost');
});
