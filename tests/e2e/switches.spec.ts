import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { bench, goTo, open, openBench, plugIn, write } from './helpers.ts';
import { byKeys as by } from './people.ts';

/** What the switches do, by keys alone: flicked, given their modes, looked at as a cloth. */

const flag = (page: Page, name: RegExp) => page.getByRole('button', { name });
const pane = (page: Page) => page.getByRole('region', { name: /^What position/ });
const surprises = (page: Page) => page.getByRole('list', { name: 'What surprises' });

async function askFor(page: Page, mode: string) {
  await by.choose(pane(page).getByRole('combobox', { name: /^More that/ }), mode);
  await by.press(pane(page).getByRole('button', { name: 'Ask for it here' }));
}

test('switches are flicked, given modes and written; what surprises is said, and what was flicked is kept', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await bench(page, 'Battery', true);
  await plugIn(page);
  await goTo(page, '/steer/switches');
  await test.step('a switch that was never flicked is a guess; flicked, it has its positions', async () => {
    await expect(flag(page, /^Channel 7, position 3 of 3: Return home/)).toBeVisible();
    await bench(page, 'Home', true);
    await page.waitForTimeout(700);
    await bench(page, 'Home', false);
    await expect(flag(page, /^Channel 7, position 2 of 2: Return home/)).toBeVisible();
    await expect(flag(page, /^Channel 7, position 1 of 2: nothing more, it stands here/)).toBeVisible();
  });
  await test.step('a position is given a mode; the board has it, and the cloth shows who wins', async () => {
    await by.press(flag(page, /^Channel 7, position 1 of 2/));
    await askFor(page, 'height');
    await expect(flag(page, /^Channel 7, position 1 of 2: Height hold/)).toBeVisible();
    await expect(page.getByTestId('tray-count')).toContainText('3 edits wait');
    await write(page);
    await expect(page.getByRole('img', { name: 'Which mode wins in each of 6 combinations' })).toBeVisible();
    await expect(page.getByText(/The board is in (Height hold|Level), not armed/)).toBeVisible();
  });
  await test.step('what now never wins is said, by name, and gone with its cause', async () => {
    await expect(surprises(page)).toContainText('Level never wins');
    await expect(surprises(page)).toContainText('Rate never wins');
    await by.press(pane(page).getByRole('button', { name: 'Not here' }));
    await expect(surprises(page)).toHaveCount(0);
    await expect(flag(page, /^Channel 7, position 1 of 2: nothing more/)).toBeVisible();
  });
  await test.step('a return on the arming switch that stops the motors is said', async () => {
    await by.press(flag(page, /^Channel 5, position 2 of 3/));
    await askFor(page, 'return');
    await expect(surprises(page)).toContainText('only where it stops the motors as well');
    await by.press(page.getByRole('button', { name: 'Undo' }));
    await expect(surprises(page)).toHaveCount(0);
  });
  await test.step('in pulses on demand: a band that meets no position of its switch', async () => {
    await by.press(flag(page, /^Channel 7, position 2 of 2/));
    await by.press(pane(page).getByText('in pulses'));
    await by.typeIn(pane(page).getByRole('textbox', { name: /Return home from/ }), '1300');
    await by.typeIn(pane(page).getByRole('textbox', { name: /Return home to/ }), '1700');
    await expect(surprises(page)).toContainText('which knows only 1000 and 2000');
  });
  await test.step('another transmitter is learnt anew', async () => {
    await by.press(page.getByRole('button', { name: /^Another transmitter/ }));
    await expect(flag(page, /^Channel 7, position 1 of 3/)).toBeVisible();
    await bench(page, 'Home', true);
    await page.waitForTimeout(700);
    await bench(page, 'Home', false);
    await expect(flag(page, /^Channel 7, position 1 of 2/)).toBeVisible();
  });
  await test.step('a reload and a cable pulled keep what was flicked', async () => {
    await openBench(page);
    await bench(page, 'USB cable', false);
    await expect(flag(page, /^Channel 7, position 1 of 2/)).toBeVisible();
    await page.waitForTimeout(400);
    await page.reload();
    await expect(flag(page, /^Channel 7, position 1 of 2/)).toBeVisible();
  });
  expect(faults).toEqual([]);
});

test('a dial, two switches mixed on one channel, and the noise of a switch', async ({ page }) => {
  test.setTimeout(240_000);
  const faults = await open(page);
  const craft = JSON.parse(readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
  Object.assign(craft.bench.transmitter, { dial: 9, mixed: true, switchNoiseUs: 3 });
  await page.getByLabel('Craft file').setInputFiles({
    name: 'dial.wanderweg.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(craft)),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await bench(page, 'Battery', true);
  await plugIn(page);
  await goTo(page, '/steer/switches');
  await test.step('what is turned on and on is a dial, and asks for something from a part of its way on', async () => {
    await openBench(page);
    await page.getByLabel('Dial of the transmitter').focus();
    for (let k = 0; k < 50; k++) {
      await page.keyboard.press('ArrowRight');
      await page.waitForTimeout(40);
    }
    await expect(page.getByText('channel 9, a dial')).toBeVisible();
    await by.press(flag(page, /^Channel 9, part 3 of 3/));
    await askFor(page, 'height');
    await expect(flag(page, /^Channel 9, part \d of \d: Height hold, it stands here/)).toBeVisible();
    await expect(flag(page, /^Channel 9, part 1 of \d: nothing more/)).toBeVisible();
  });
  await test.step('six pulses of two switches are told apart once the person says so', async () => {
    for (const on of [true, false])
      for (let k = 0; k < 3; k++) {
        await page.waitForTimeout(700);
        await page.getByRole('button', { name: /^Three-position switch/ }).click();
        if (k === 2) await bench(page, 'Home', on);
      }
    await page.waitForTimeout(700);
    await expect(flag(page, /^Channel 6, position 6 of 6/)).toBeVisible();
    await by.press(flag(page, /^Channel 6, position 2 of 6/));
    await by.choose(pane(page).getByRole('combobox', { name: 'It is' }), '3 2');
    await expect(pane(page)).toContainText('one switch at 1, the other at 2');
  });
  await test.step('noise of a switch at rest is measured, and told with its pulse', async () => {
    await by.press(flag(page, /^Channel 5, position 1 of/));
    await expect(async () => {
      await bench(page, 'Arm', true);
      await page.waitForTimeout(700);
      await bench(page, 'Arm', false);
      await expect(flag(page, /^Channel 5, position 1 of 2/)).toBeVisible({ timeout: 3000 });
    }).toPass();
    await by.press(flag(page, /^Channel 6, position 1 of 6/));
    const pulses = pane(page).getByText('in pulses');
    if (await pulses.isVisible()) await by.press(pulses);
    else {
      await askFor(page, 'loiter');
      await by.press(pane(page).getByText('in pulses'));
    }
    await expect(pane(page)).toContainText(/with [2-4]\.\d µs of noise/, { timeout: 30_000 });
  });
  expect(faults).toEqual([]);
});
