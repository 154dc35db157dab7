import { expect, type Page, test } from '@playwright/test';
import { bench, find, goTo, open, openBench, plugIn, write } from './helpers.ts';
import { byKeys as by } from './people.ts';

/** The receiver, by keys alone: which protocol it speaks, and where it tells how well it hears. */

const heard = (page: Page) => page.getByRole('region', { name: 'What comes in' });
const quality = (page: Page) => page.getByRole('region', { name: 'Link quality' });

async function restart(page: Page): Promise<void> {
  await by.press(page.getByRole('button', { name: /^Restart/ }).first());
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible({ timeout: 30_000 });
}

test('a receiver that is not understood is listened for; how well it hears is learnt by two gestures', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page);
  await plugIn(page);
  await goTo(page, '/steer/receiver');
  await test.step('set for another protocol the board hears bytes, and no frame of them', async () => {
    await find(page, 'receiver protocol');
    await page.getByRole('dialog').getByRole('combobox').selectOption('sbus');
    await page.keyboard.press('Escape');
    await write(page);
    await restart(page);
    await expect(heard(page)).toContainText('no whole frame of it', { timeout: 40_000 });
  });
  await test.step('listening is called off, and done; what it found goes into the tray', async () => {
    await by.press(page.getByRole('button', { name: 'Listen for every protocol' }));
    await by.press(page.getByRole('button', { name: 'Stop listening' }));
    await expect(page.getByRole('button', { name: 'Listen for every protocol' })).toBeEnabled();
    await by.press(page.getByRole('button', { name: 'Listen for every protocol' }));
    await expect(heard(page)).toContainText('It speaks CRSF: that is in the tray');
    await write(page);
    await restart(page);
    await expect(heard(page)).toContainText('Linked: 50 whole frames', { timeout: 40_000 });
    await by.press(page.getByRole('button', { name: 'Keep as seen' }));
    await expect(page.getByRole('link', { name: /^Receiver/ })).toContainText('50 frames a second');
  });
  await test.step('a cable pulled between the two gestures leaves nothing half set', async () => {
    await by.press(quality(page).getByRole('button', { name: 'It is near, with its aerial on' }));
    await expect(quality(page)).toContainText('Now make the link weak');
    await bench(page, 'USB cable', false);
    await expect(quality(page)).toContainText('Two gestures find out');
    await plugIn(page);
    await page.waitForTimeout(2000);
  });
  await test.step('near, then without its aerial: the channel that tells goes into the tray', async () => {
    await by.press(quality(page).getByRole('button', { name: 'It is near, with its aerial on' }));
    await openBench(page);
    await page.getByRole('button', { name: 'Tools', exact: true }).click();
    await bench(page, 'Receiver’s aerial', false);
    await page.waitForTimeout(2000);
    await by.press(quality(page).getByRole('button', { name: 'It is weak now' }));
    await expect(quality(page)).toContainText(/Channel 12 went from 11\d\d to 15\d\d µs/);
    await expect(page.getByTestId('tray-count')).toHaveText('3 edits wait');
    await write(page);
    await expect(heard(page)).toContainText(/Link\s*[45]\d %/);
  });
  await test.step('a receiver whose levels are turned round is found as such, and heard once that is set', async () => {
    await page.getByLabel('Receiver’s wire').selectOption('turned');
    await expect(page.getByRole('switch', { name: /^USB cable/ })).toHaveAttribute('aria-checked', 'false');
    await plugIn(page);
    await expect(heard(page)).toContainText('no whole frame of it', { timeout: 40_000 });
    await by.press(page.getByRole('button', { name: 'Listen for every protocol' }));
    await expect(heard(page)).toContainText('CRSF with its levels turned round: that is in the tray', {
      timeout: 40_000,
    });
    await write(page);
    await restart(page);
    await expect(heard(page)).toContainText(/Linked: 4\d whole frames/, { timeout: 40_000 });
  });
  expect(faults).toEqual([]);
});
