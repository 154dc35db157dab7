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
