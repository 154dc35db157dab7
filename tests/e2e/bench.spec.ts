import { expect, test } from '@playwright/test';
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
} from './helpers.ts';

test('sticks follow the mouse and spring back, the throttle stays', async ({ page }) => {
  await open(page);
  await openBench(page);
  const right = page.getByRole('slider', { name: /^Right stick/ });
  const left = page.getByRole('slider', { name: /^Left stick/ });
  const box = (await right.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.95, box.y + box.height * 0.9, { steps: 4 });
  await expect(right).toHaveAttribute('aria-valuetext', /sideways [89]\d, along -[78]\d/);
  await page.mouse.up();
  await expect(right).toHaveAttribute('aria-valuetext', 'sideways 0, along 0');
  const other = (await left.boundingBox())!;
  await page.mouse.move(other.x + other.width / 2, other.y + other.height - 4);
  await page.mouse.down();
  await page.mouse.move(other.x + other.width / 2, other.y + other.height * 0.25, { steps: 4 });
  await page.mouse.up();
  await expect(left).toHaveAttribute('aria-valuetext', /sideways 0, along 5\d/);
});

test('a real game controller moves the sticks', async ({ page }) => {
  await withGameController(page);
  await open(page);
  await openBench(page);
  await expect(page.getByRole('slider', { name: /^Right stick/ })).toBeVisible();
  await page.waitForTimeout(200);
  await holdSticks(page, 0, 0, 0.8, 0.5);
  await expect(page.getByRole('slider', { name: /^Right stick/ })).toHaveAttribute(
    'aria-valuetext',
    'sideways 80, along 50',
  );
});

test('blockers are named, go one by one, and the craft arms', async ({ page }) => {
  test.setTimeout(180_000);
  await open(page);
  await plugIn(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await page.getByRole('button', { name: /no, \d blockers/ }).click();
  await expect(page.getByText('The flight battery is not in')).toBeVisible();
  await expect(page.getByText('No position fix')).toBeVisible();
  await page.keyboard.press('Escape');
  await bench(page, 'Battery', true);
  await bench(page, 'Craft is', true);
  await expect(page.getByText('no, ready')).toBeVisible({ timeout: 90_000 });
  await bench(page, 'Arm', true);
  const pane = page.getByRole('complementary');
  await expect(pane.getByText('yes', { exact: true })).toBeVisible();
  // Armed, nothing is written; the edit stays.
  await find(page, 'loiter radius');
  await page.getByRole('dialog').getByRole('textbox').fill('150');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Write to board' }).click();
  await expect(page.getByText(/Refused, nothing was changed on the board: The craft is armed/)).toBeVisible();
  await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
  await bench(page, 'Radio', false);
  await expect(pane.getByText(/noticed|guarding|acting/)).toBeVisible();
});

test('a setting that needs a restart says so, and the link comes back by itself', async ({ page }) => {
  await open(page);
  await plugIn(page);
  await find(page, 'gyro low-pass');
  await page.getByRole('dialog').getByRole('textbox').fill('60');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Write to board' }).click();
  await page.getByRole('button', { name: 'Restart the board' }).click();
  await expect(page.getByText('restart asked for over the link')).toBeVisible({ timeout: 10_000 });
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
});

test('units are as the person likes, everywhere', async ({ page }) => {
  await open(page, '/return/way-home');
  await page.getByRole('button', { name: /Turnstone 1600/ }).click();
  await page.getByRole('menuitem', { name: /Units: aviation/ }).click();
  const height = page.getByRole('textbox', { name: 'Return height' });
  await expect(height).toHaveValue('394');
  await height.fill('1000');
  await page.keyboard.press('Enter');
  await expect(page.getByText('305 m')).toBeHidden();
  await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
  await page.getByRole('button', { name: /Turnstone 1600/ }).click();
  await page.getByRole('menuitem', { name: /Units: metric/ }).click();
  await expect(height).toHaveValue('305');
  await closeBench(page);
});

test('the craft is dragged like a ball, brought into poses, tied down; its raw gyro feels it', async ({
  page,
}) => {
  await open(page);
  await plugIn(page);
  const ball = page.getByRole('application', { name: /^The craft,/ });
  await expect(ball).toHaveAccessibleName(/on the table: bank 0°, nose 0°/);
  const box = (await ball.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y + 40, { steps: 6 });
  await page.mouse.up();
  // What is near the eye went down with the hand: the tail sinks, the nose rises.
  await expect(ball).toHaveAccessibleName(/in hands: bank -?\d+°, nose (2|3|4|5)\d°/);
  await goTo(page, '/sense/everything');
  const gyro = page.getByRole('group', { name: 'gyro, raw', exact: true });
  await gyro.getByRole('button', { name: 'x', exact: true }).click();
  await expect(page.getByRole('row', { name: /^gyro x/ })).toContainText(/\d °\/s/, { timeout: 30_000 });
  await page.getByLabel('Pose').selectOption('back');
  await expect(ball).toHaveAccessibleName(/in hands: bank -?1(79|80)°/);
  await page.getByLabel('It is').selectOption('tied');
  await expect(ball).toHaveAccessibleName(/tied down: bank 0°, nose 0°/);
  await expect(page.getByLabel('Pose')).toBeDisabled();
  await ball.focus();
  await page.keyboard.press('ArrowRight');
  await page.waitForTimeout(400);
  await expect(ball).toHaveAccessibleName(/tied down: bank 0°/);
});

test('a stick is learnt whatever station is shown, called off, and begun anew after a reload', async ({
  page,
}) => {
  await open(page);
  // Its receiver falls silent without its transmitter; that of the demo as found hides it.
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await goTo(page, '/steer/sticks');
  const ask = (stick: string) =>
    page.getByRole('listitem').filter({ hasText: stick }).getByRole('button', { name: 'Ask for it' }).click();
  await ask('roll');
  await expect(page.getByText('No stick has moved yet.')).toBeVisible();
  // Somewhere else meanwhile; the board waits for the stick all the same.
  await goTo(page, '/return/way-home');
  const stick = page.getByRole('slider', { name: /^Right stick/ });
  await stick.focus();
  for (let k = 0; k < 10; k++) {
    await page.keyboard.down('ArrowRight');
    await page.waitForTimeout(60);
  }
  await page.waitForTimeout(600);
  await page.keyboard.up('ArrowRight');
  await goTo(page, '/steer/sticks');
  await expect(page.getByText('so it carries roll')).toBeVisible();
  // Called off, nothing is set.
  const edits = await page.getByTestId('tray-count').textContent();
  await ask('yaw');
  await page.getByRole('button', { name: 'Stop asking' }).click();
  await expect(page.getByRole('button', { name: 'Stop asking' })).toBeHidden();
  await expect(page.getByTestId('tray-count')).toHaveText(edits!);
  // The transmitter goes off in the middle: the board says why it gave up.
  await ask('yaw');
  await expect(page.getByText('No stick has moved yet.')).toBeVisible();
  await page.getByRole('switch', { name: /^Radio/ }).click();
  await expect(page.getByText('The receiver fell silent while a stick was awaited.')).toBeVisible();
  await ask('yaw');
  await expect(page.getByText('The receiver sends nothing. Switch the transmitter on.')).toBeVisible();
  // After a reload nothing is left half done, and it can be asked for again.
  await page.reload();
  await plugIn(page);
  await ask('yaw');
  await expect(
    page.getByText('No stick has moved yet.').or(page.getByText(/receiver sends nothing/)),
  ).toBeVisible();
});
