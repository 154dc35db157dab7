import { expect, type Locator, type Page, test } from '@playwright/test';
import { bench, find, goTo, open, plugIn, write } from './helpers.ts';
import { byKeys as by } from './people.ts';

/** Motor controllers, by keys alone: read, made alike, written, read back; the battery pulled in the middle. */

test.use({ actionTimeout: 20_000 });

const controllers = (page: Page) => page.getByRole('region', { name: 'Controllers', exact: true });

async function allow(page: Page): Promise<void> {
  const leave = page.getByLabel('The propellers are off');
  // A board that is just starting anew takes no leave yet.
  await expect(async () => {
    await expect(leave).toBeEnabled();
    if (!(await leave.isChecked())) {
      await leave.focus();
      await page.keyboard.press(' ');
    }
    // The tick shows what was asked at once; the board's own answer frees the button.
    const ends = page.getByRole('region', { name: 'Ends of pulse-driven controllers' });
    await expect(
      controllers(page)
        .getByRole('button', { name: /^Read them/ })
        .or(ends.getByRole('button', { name: /^Teach them/ }))
        .and(page.locator(':enabled'))
        .first(),
    ).toBeVisible({ timeout: 3000 });
  }).toPass({ timeout: 30_000 });
}

/**
 * Begins to write a version to both and takes the battery out in the middle. A machine that stalls may be through before that is seen: then
 * the other version is written. @returns the one that is half written
 */
async function pulledInTheMiddle(page: Page, firmware: Locator): Promise<string> {
  for (const version of ['16.4', '16.2', '16.4', '16.2']) {
    await firmware.getByRole('combobox').selectOption({ label: `Kolk ${version}` });
    await allow(page);
    await by.press(firmware.getByRole('button', { name: 'Bring 2 to this version' }));
    const through = firmware.getByText(`All 2 run Kolk ${version}, verified by their own reading`);
    const stays = firmware.getByRole('alert').filter({ hasText: 'What was written stays' });
    await expect(firmware.getByText(/1 of 2: ([2-9]|[1-9]\d) %/).or(through)).toBeVisible({
      timeout: 60_000,
    });
    await bench(page, 'Battery', false);
    await expect(stays.or(through)).toBeVisible({ timeout: 60_000 });
    if (await stays.isVisible()) return version;
    await bench(page, 'Battery', true);
  }
  throw new Error('It was through each time before the battery was out.');
}

test('controllers are read, made alike, written and read back, and keep it over a power cut', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page);
  await plugIn(page, true);
  await goTo(page, '/steer/motors');
  await test.step('driven by pulses they are taught both ends, battery out and in', async () => {
    const ends = page.getByRole('region', { name: 'Ends of pulse-driven controllers' });
    await expect(ends).toContainText('The battery is in: take it out first.');
    await bench(page, 'Battery', false);
    await allow(page);
    await by.press(ends.getByRole('button', { name: 'Teach them' }));
    await expect(ends).toContainText('Put the battery in now');
    await bench(page, 'Battery', true);
    await expect(page.getByText('The motors give one tone.')).toBeVisible();
    await expect(page.getByText('The motors give three tones.')).toBeVisible();
    await by.press(ends.getByRole('button', { name: 'Yes, all of them' }));
    await expect(ends).toContainText('Taught, and heard.');
  });
  await test.step('by pulses they cannot be asked: it says so, and what would reach them', async () => {
    await expect(controllers(page).getByRole('button', { name: 'Read them' })).toBeDisabled();
    await allow(page);
    await by.press(controllers(page).getByRole('button', { name: 'Read them' }));
    await expect(controllers(page)).toContainText('None answered: they are driven by pulses');
    await find(page, 'timer 1 sends');
    await page.getByRole('dialog').getByRole('combobox').selectOption('dshot300');
    await page.keyboard.press('Escape');
    await write(page);
    const restart = page.getByRole('button', { name: /^Restart/ }).first();
    await by.press(restart);
    // It is offered until the board is back: a leave given before that goes with the restart.
    await expect(restart).toBeHidden({ timeout: 30_000 });
    await expect(page.getByText('USB and battery')).toBeVisible({ timeout: 30_000 });
  });
  await test.step('read, they differ in their brake; made alike they do not', async () => {
    await allow(page);
    await by.press(controllers(page).getByRole('button', { name: /Read them/ }));
    await expect(controllers(page)).toContainText('All 2 answered');
    await expect(page.getByRole('link', { name: /^Motors/ })).toContainText('1 finding');
    const timing = controllers(page).getByRole('textbox', { name: 'Timing, right motor' });
    await timing.fill('45');
    await expect(controllers(page).getByRole('alert')).toContainText('goes from 0 to 30');
    await page.keyboard.press('Escape');
    await by.press(controllers(page).getByRole('button', { name: 'All like the left motor' }));
    await by.press(controllers(page).getByRole('button', { name: 'Write, and read back' }));
    await expect(controllers(page)).toContainText('read back what it was told');
    await expect(page.getByRole('link', { name: /^Motors/ })).not.toContainText('finding');
  });
  await test.step('the battery pulled in the middle of a write: what they hold is said not to be known', async () => {
    await by.typeIn(controllers(page).getByRole('textbox', { name: 'Timing, left motor' }), '20');
    await by.press(controllers(page).getByRole('button', { name: 'Write, and read back' }));
    await bench(page, 'Battery', false);
    await expect(controllers(page)).toContainText(/read it again|The controller on output/);
    await bench(page, 'Battery', true);
    await expect(page.getByLabel('The propellers are off')).not.toBeChecked();
    await allow(page);
    await by.press(controllers(page).getByRole('button', { name: 'Read them again' }));
    await expect(controllers(page)).toContainText('All 2 answered');
    const brake = (motor: string) => controllers(page).getByLabel(`Brake on stop, ${motor} motor`);
    expect(await brake('left').isChecked()).toBe(await brake('right').isChecked());
  });
  await test.step('their firmware is brought to another version; the battery pulled in the middle, it goes on', async () => {
    const firmware = page.getByRole('region', { name: 'Firmware of the controllers' });
    await expect(firmware).toContainText('16.2');
    const version = await pulledInTheMiddle(page, firmware);
    await bench(page, 'Battery', true);
    await allow(page);
    await by.press(firmware.getByRole('button', { name: 'Go on' }));
    await expect(firmware).toContainText(`All 2 run Kolk ${version}, verified by their own reading`, {
      timeout: 90_000,
    });
    await expect(controllers(page)).toContainText('All 2 answered');
    await expect(
      controllers(page).getByRole('columnheader', { name: `left motor Kolk ${version}` }),
    ).toBeVisible();
    // What they were told before stands as it did.
    await expect(controllers(page).getByLabel('Brake on stop, left motor')).toBeVisible();
    await expect(page.getByRole('columnheader', { name: 'Now' })).toBeVisible();
    await expect(page.getByText(/0 rpm, 0 A, 2\d°C/).first()).toBeVisible();
  });
  expect(faults).toEqual([]);
});
