import { expect, type Page, test } from '@playwright/test';
import {
  bench,
  closeBench,
  find,
  goTo,
  holdSticks,
  open,
  openBench,
  plugIn,
  withGameController,
  write,
} from './helpers.ts';

/** Turnstone's own board and a game controller, at the station. */
async function begin(page: Page): Promise<string[]> {
  await withGameController(page);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('is open.')).toBeVisible();
  await goTo(page, '/field/no-computer');
  return faults;
}

test('sticks held in a corner change the board; the page reads it again, and what waits stays', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const faults = await begin(page);
  const main = page.getByRole('main');
  await plugIn(page, true);
  await openBench(page);
  // An edit waits meanwhile.
  await find(page, 'loiter radius');
  await page.getByRole('dialog').getByRole('textbox').fill('150');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await holdSticks(page, 0, -1, 0, 0);
  await page.waitForTimeout(300);
  const card = main.getByRole('region', { name: 'Card for the pocket' });
  await holdSticks(page, -1, -1, 0, 1);
  const next = main.getByRole('listitem').filter({ hasText: 'Next control set' });
  await expect(next.getByText('held', { exact: true })).toBeVisible({ timeout: 15_000 });
  await expect(page.getByText('A setting was changed on the board itself')).toBeVisible();
  await holdSticks(page, 0, -1, 0, 0);
  await expect(page.getByText('1 edit waits').first()).toBeVisible();
  // It is written over what the sticks made, without a word of settings that are not known.
  await write(page);
  // Held once, done once; nothing while the arming switch is on.
  await bench(page, 'Arm', true);
  await holdSticks(page, -1, -1, 0, 1);
  await expect(main.getByText('The arming switch is on now: the board listens to none of it.')).toBeVisible();
  await page.waitForTimeout(2500);
  await holdSticks(page, 0, -1, 0, 0);
  await bench(page, 'Arm', false);
  // Only drafted off: the board still listens, and the page says so until it is written.
  await main.getByRole('checkbox', { name: 'Stick gestures' }).uncheck();
  await expect(main.getByText('Try it: what your sticks stand in')).toBeVisible();
  await write(page);
  await expect(main.getByText('it does not listen to the sticks')).toBeVisible();
  await find(page, 'set.active');
  await expect(page.getByRole('dialog').getByRole('combobox').first()).toHaveValue('2');
  await page.keyboard.press('Escape');
  await expect(card).toContainText('are switched off');
  expect(faults).toEqual([]);
});

test('the menu over the picture is learnt by keys, and the board’s own is gone through by the sticks', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const faults = await begin(page);
  const main = page.getByRole('main');
  // A trial: nothing waits after it.
  const trial = main.getByRole('application', { name: /^Menu over the picture, a trial/ });
  await trial.focus();
  await expect(trial).toContainText(/> Control set +1/);
  await page.keyboard.press('ArrowRight');
  await expect(trial).toContainText(/> Control set +2/);
  await page.keyboard.press('ArrowUp');
  await expect(trial).toContainText('> Leave');
  await page.keyboard.press('ArrowRight');
  await expect(trial).toContainText('The menu is gone');
  await main.getByRole('button', { name: 'Begin anew' }).click();
  await expect(trial).toContainText(/> Control set +1/);
  await expect(page.getByText(/\d edits? waits?/)).toHaveCount(0);
  // The board's own.
  await plugIn(page, true);
  await holdSticks(page, 0, -1, 0, 0);
  await page.waitForTimeout(300);
  await holdSticks(page, -1, -1, -1, 0);
  const menu = main.getByLabel('The board’s menu now');
  await expect(menu).toContainText(/> Control set +1/, { timeout: 15_000 });
  await expect(trial).toHaveCount(0);
  const push = async (roll: number, pitch: number) => {
    await holdSticks(page, 0, -1, 0, 0);
    await page.waitForTimeout(300);
    await holdSticks(page, 0, -1, roll, pitch);
    await page.waitForTimeout(300);
  };
  await push(0, -1);
  await expect(menu).toContainText(/> Return height/);
  const height = Number(/Return height +(\d+)m/.exec((await menu.textContent())!)![1]);
  await push(1, 0);
  await expect(menu).toContainText(`${height + 10}m`);
  await expect(page.getByText('A setting was changed on the board itself')).toBeVisible();
  // A pulled cable takes the page's view of it away, and the menu with the power.
  await bench(page, 'Battery', false);
  await bench(page, 'USB cable', false);
  await expect(menu).toHaveCount(0, { timeout: 10_000 });
  await holdSticks(page, 0, -1, 0, 0);
  await plugIn(page);
  await closeBench(page);
  await find(page, 'return height');
  await expect(page.getByRole('dialog').getByRole('textbox')).toHaveValue(String(height + 10));
  expect(faults).toEqual([]);
});
