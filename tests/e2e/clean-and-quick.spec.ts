import { expect, test } from '@playwright/test';
import { goTo, open, plugIn, write } from './helpers.ts';

test('a noisy Avocet is made clean and quick by what the stations say', async ({ page }) => {
  test.setTimeout(240_000);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/avocet.wanderweg.json');
  await expect(page.getByText('Avocet 7 is open.')).toBeVisible();
  await plugIn(page, true);
  const main = page.getByRole('main');
  const status = main.getByRole('status').first();
  const set = async (name: string, value: string) => {
    await main.getByRole('textbox', { name, exact: true }).fill(value);
    await page.keyboard.press('Enter');
  };
  /** Share of the motors' way that shake moves them by, %. */
  const shakes = async () => Number(/by up to (\d+\.?\d*) %/.exec((await status.textContent()) ?? '')?.[1]);
  // Somebody took its filters out.
  await goTo(page, '/refine/shakes');
  await set('Gyro notch', '0');
  await set('Gyro low-pass', '250');
  await page.getByRole('button', { name: 'Fly it', exact: true }).click();
  await expect(status).toContainText(/shake moves its motors by up to/, { timeout: 90_000 });
  const noisy = await shakes();
  expect(noisy).toBeGreaterThan(0.8);
  const find = page.getByRole('region', { name: 'Filters for this shake' });
  await find.getByLabel('Most that shake may move the motors').fill('0.4');
  await page.keyboard.press('Enter');
  await find.getByRole('button', { name: 'Find filters' }).click();
  await expect.poll(shakes, { timeout: 30_000 }).toBeLessThanOrEqual(0.4);
  // Gains for a wanted answer, of roll and of pitch, by the filters that were found.
  await goTo(page, '/refine/answers');
  const upIn = async () => Number(/it is up in (\d+\.?\d*) s/.exec((await status.textContent()) ?? '')?.[1]);
  // The answer is worked out in a worker: on a busy machine the page is there before it.
  await expect.poll(upIn, { timeout: 30_000 }).toBeGreaterThan(0);
  const slow = await upIn();
  for (const axis of ['Roll', 'Pitch']) {
    await page.getByRole('radio', { name: axis, exact: true }).click();
    const p = main.getByRole('textbox', { name: `${axis} P`, exact: true });
    const before = await p.inputValue();
    await main.getByRole('button', { name: 'Find gains' }).click();
    await expect(p).not.toHaveValue(before, { timeout: 30_000 });
  }
  await page.getByRole('radio', { name: 'Roll', exact: true }).click();
  await expect.poll(upIn, { timeout: 30_000 }).toBeLessThan(slow);
  const quick = await upIn();
  // Larger gains shake its motors more: the filters are looked at once more.
  await goTo(page, '/refine/shakes');
  await page.getByRole('button', { name: 'Fly it', exact: true }).click();
  await expect(status).toContainText(/shake moves its motors by up to/, { timeout: 90_000 });
  await find.getByLabel('Most that shake may move the motors').fill('0.6');
  await page.keyboard.press('Enter');
  await find.getByRole('button', { name: 'Find filters' }).click();
  await expect.poll(shakes, { timeout: 30_000 }).toBeLessThanOrEqual(0.6);
  await write(page);
  await goTo(page, '/refine/answers');
  await page.getByRole('button', { name: 'Fly it', exact: true }).click();
  const flown = page.getByText(/^Flown in the bench.*up in \d+\.?\d* s/);
  await expect(flown).toBeVisible({ timeout: 60_000 });
  const came = Number(/up in (\d+\.?\d*) s/.exec((await flown.textContent()) ?? '')?.[1]);
  expect(came).toBeLessThan(1.5 * quick + 0.02);
  expect(faults).toEqual([]);
});
