import { expect, test } from '@playwright/test';
import { closeBench, open, plugIn } from './helpers.ts';

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
  await expect(page.getByRole('img', { name: /Massif H7 revision B/ })).toContainText('taken by CAN');
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
  await expect(page.getByText('The outputs are set like this.')).toBeVisible();
  expect(faults).toEqual([]);
});

test('an output driven by other pulses is laid out anew and goes into the tray', async ({ page }) => {
  await open(page, '/build/wiring');
  await plugIn(page);
  await closeBench(page);
  await page.getByRole('button', { name: 'Take away: left motor' }).click();
  await page.getByRole('button', { name: /Put \d+ output settings into the tray/ }).click();
  await expect(page.getByTestId('tray-count')).toContainText('wait');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
});
