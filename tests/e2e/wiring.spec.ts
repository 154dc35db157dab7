import { expect, test } from '@playwright/test';
import { closeBench, open, openBench, plugIn, write } from './helpers.ts';

test('Massif revision B takes CAN and seven outputs, says why the eighth cannot be, and its offer is taken', async ({
  page,
}) => {
  const faults = await open(page, '/build/wiring');
  await expect(
    page.getByText('Everything has its place; nothing that is soldered has to move.'),
  ).toBeVisible();
  await page.getByRole('combobox', { name: 'Board', exact: true }).selectOption('massif-h7-b');
  const add = page.getByLabel('Connect something');
  await add.selectOption('bus/flow/can');
  await add.selectOption('output/dshot600');
  await expect(page.getByText(/Everything has its place/)).toBeVisible();
  await expect(page.getByRole('group', { name: /Massif H7 revision B/ })).toContainText('taken by CAN');
  // The two motors by pulses and four servos fill three timers; CAN has one, the last motor one.
  await add.selectOption('output/led');
  const alert = page.getByRole('alert');
  await expect(alert).toContainText('CAN 1 takes timer 3 and with it S5, S6, S7 and S8');
  await expect(alert).toContainText('Connect the optical flow sensor by I2C instead of CAN.');
  await page.getByRole('button', { name: 'Take this offer' }).click();
  await expect(page.getByText(/Everything has its place/)).toBeVisible();
  await expect(page.getByLabel('What is to be connected')).toContainText('optical flow sensorI2C');

  // It is kept with the craft over a reload, and can be let go.
  await page.waitForTimeout(400);
  await page.reload();
  await expect(page.getByLabel('What is to be connected')).toContainText('LED 8');
  await page.getByRole('button', { name: 'Back to what the settings say' }).click();
  await expect(page.getByText('The settings say the same.')).toBeVisible();
  expect(faults).toEqual([]);
});

test('a board that is met is the one the craft is for, and the one chosen before can be had back', async ({
  page,
}) => {
  await open(page, '/build/wiring');
  const board = page.getByRole('combobox', { name: 'Board', exact: true });
  await board.selectOption('massif-h7-b');
  await plugIn(page);
  await closeBench(page);
  await expect(board).toHaveValue('fell-f7');
  await page.getByRole('button', { name: /^Back to Massif H7/ }).click();
  await expect(board).toHaveValue('massif-h7-b');
  // What is laid out for Massif is not offered to the board that is plugged in.
  await expect(page.getByText('On the cable is another make: nothing of this goes to it.')).toBeVisible();
  await expect(page.getByRole('button', { name: /settings into the tray/ })).toBeHidden();
});

test('an output driven by other pulses is laid out anew and goes into the tray', async ({ page }) => {
  await open(page, '/build/wiring');
  await plugIn(page);
  await closeBench(page);
  await page.getByRole('button', { name: 'Take away: left motor' }).click();
  await page.getByRole('button', { name: /Put \d+ settings into the tray/ }).click();
  await expect(page.getByTestId('tray-count')).toContainText('wait');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
});

test('a wire is drawn to another pad and port, the bench is soldered so, and the board hears it', async ({
  page,
}) => {
  await open(page, '/build/wiring');
  await plugIn(page, true);
  await closeBench(page);
  const drawing = page.getByRole('group', { name: /Fell F7 revision A/ });
  // The receiver of the radio is understood; that of GNSS speaks at another speed, as the craft was found.
  await expect(drawing.getByText('frames')).toHaveCount(1);
  await expect(drawing.getByText('garbage')).toHaveCount(1);
  const middle = async (text: string, down: number) => {
    const box = (await drawing.getByText(text, { exact: true }).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 + down };
  };
  const draw = async (from: string, to: string, down: number) => {
    const [a, b] = [await middle(from, down), await middle(to, down)];
    await page.mouse.move(a.x, a.y);
    await page.mouse.down();
    await page.mouse.move((a.x + b.x) / 2, a.y + 5);
    await page.mouse.move(b.x, b.y, { steps: 5 });
    await page.mouse.up();
  };
  await draw('S3', 'S8', 0);
  await expect(page.getByLabel('Pad of left aileron')).toHaveValue('8');
  await draw('port 3', 'port 4', 16);
  await expect(page.getByLabel('Port of the GNSS receiver')).toHaveValue('port 4');
  await page.getByRole('button', { name: /Put \d+ settings into the tray/ }).click();
  await write(page);
  await page.getByRole('button', { name: 'Solder the craft on the bench like this' }).click();
  // The cable comes out for it.
  await openBench(page);
  await expect(page.getByRole('switch', { name: /^USB cable/ })).toHaveAttribute('aria-checked', 'false');
  await plugIn(page);
  await closeBench(page);
  await expect(
    page.getByText('Everything has its place; nothing that is soldered has to move.'),
  ).toBeVisible();
  await expect(page.getByText('The board is set like this.')).toBeVisible();
  await expect(drawing.getByText('frames')).toHaveCount(1);
  await expect(drawing.getByText('garbage')).toHaveCount(1);

  // By keys: back to any pad, and the port of the link is not among those that can be had.
  await page.getByLabel('Pad of left aileron').selectOption('7');
  await expect(page.getByLabel('Pad of left aileron')).toHaveValue('7');
  await expect(page.getByLabel('Port of the GNSS receiver').locator('option')).not.toContainText(['port 1']);
});
