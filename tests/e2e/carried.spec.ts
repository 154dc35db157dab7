import { expect, test } from '@playwright/test';
import {
  answer,
  begin,
  bench,
  closeBench,
  goTo,
  open,
  openBench,
  plugIn,
  tiltByKeys,
  write,
} from './helpers.ts';

/** What a craft carries: described, wired, asked for, mixed, and seen to do it. */

test.use({ actionTimeout: 20_000 });

test('a gimbal and lights on a craft of one’s own: from their description to a level camera', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await open(page);
  await goTo(page, '/craft');
  await begin(page, 'Knot 1200', 'Camera wing');
  await test.step('they are part of the craft', async () => {
    await goTo(page, '/build/airframe');
    await page.getByRole('button', { name: 'what it carries' }).click();
    await page.getByRole('checkbox', { name: 'gimbal pitch' }).check();
    await page.getByRole('checkbox', { name: 'lights' }).check();
  });
  await test.step('they are wired', async () => {
    await plugIn(page, true);
    await goTo(page, '/build/wiring');
    await page.getByRole('button', { name: /Put \d+ settings? into the tray/ }).click();
    await write(page);
    await page.getByRole('button', { name: 'Solder the craft on the bench like this' }).click();
    await openBench(page);
    await expect(page.getByRole('switch', { name: /^USB cable/ })).toHaveAttribute('aria-checked', 'false');
    await plugIn(page, true);
    await closeBench(page);
  });
  const outputs = page.getByRole('list', { name: 'Outputs' }).getByRole('button');
  const outputOf = async (part: string) => {
    const texts = await outputs.allTextContents();
    return texts.findIndex((t) => t.includes(part)) + 1;
  };
  await test.step('each is seen to move, and two answers that cannot both be are said at once', async () => {
    await goTo(page, '/steer/which-moved');
    await page.getByRole('checkbox', { name: 'The propellers are off' }).check();
    const [camera, lights] = [await outputOf('gimbal pitch'), await outputOf('lights')];
    await answer(page, lights, 'gimbal pitch', 'down');
    await answer(page, camera, 'gimbal pitch', 'down');
    await expect(page.getByRole('alert')).toContainText(
      `You said before that output ${lights} moves the gimbal pitch`,
    );
    await page.getByRole('button', { name: `Ask output ${lights} again` }).click();
    await expect(page.getByRole('alert')).toBeHidden();
    await answer(page, lights, 'lights', 'it answered');
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
    await expect(outputs.nth(lights - 1)).toContainText('lights');
    await expect(outputs.nth(lights - 1)).toContainText('✓');
  });
  await test.step('a row holds the camera level, and the bench shows it', async () => {
    await goTo(page, '/steer/mixing');
    await page.getByLabel('A mix that people make').selectOption('gimbal level when the nose rises');
    await page.getByRole('button', { name: 'Add these rows' }).click();
    await expect(page.getByRole('img', { name: /nose above the horizon to gimbal pitch/ })).toBeVisible();
    await write(page);
    await openBench(page);
    await bench(page, 'Battery', true);
    const carried = page.getByRole('list', { name: 'What the craft carries' });
    await expect(carried).toContainText('gimbal pitch in its middle');
    await tiltByKeys(page, 0, 20);
    await expect(carried).toContainText(/gimbal pitch (19|20|21)° down/);
  });
});
