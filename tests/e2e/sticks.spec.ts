import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { bench, goTo, open, openBench, plugIn, write } from './helpers.ts';

/** How sticks come in: measured by stirring them, judged, and mended where it belongs. */

const section = (page: Page) => page.getByRole('region', { name: 'Ends, middle and noise' });
const row = (page: Page, stick: string) => section(page).getByRole('row', { name: new RegExp(`^${stick}`) });

/** Opens the demo with a transmitter that is set up so. */
async function withTransmitter(page: Page, transmitter: object) {
  const craft = JSON.parse(readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
  craft.bench.transmitter = transmitter;
  await page.getByLabel('Craft file').setInputFiles({
    name: 'worn.wanderweg.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(craft)),
  });
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await bench(page, 'Battery', true);
  await plugIn(page);
  await goTo(page, '/steer/sticks');
}

/** Each stick to both ends of both its ways, and let go. */
async function stir(page: Page) {
  await openBench(page);
  for (const [side, keys] of [
    ['Left', ['w', 's', 'a', 'd']],
    ['Right', ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight']],
  ] as const) {
    await page.getByRole('slider', { name: new RegExp(`^${side} stick`) }).focus();
    for (const key of keys) {
      // The throttle has no spring: from end to end it is twice as far.
      for (let k = 0; k < (key === 'w' || key === 's' ? 22 : 12); k++) {
        await page.keyboard.down(key);
        await page.waitForTimeout(60);
      }
      await page.waitForTimeout(300);
      await page.keyboard.up(key);
    }
  }
}

test('a trim and a short travel are mended at the transmitter; noise is hidden by a deadband that the board confirms', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page);
  await test.step('what the transmitter is set to is told, and goes into no tray', async () => {
    await withTransmitter(page, { travel: 0.8, trimUs: { roll: 24, pitch: 0, yaw: 0 }, noiseUs: 1 });
    await section(page).getByRole('button', { name: 'Measure them' }).click();
    await expect(row(page, 'roll')).toContainText('not stirred yet');
    await stir(page);
    await expect(row(page, 'roll')).toContainText('a trim of roll was left on at the transmitter');
    await expect(row(page, 'pitch')).toContainText('a dual rate or an end is turned down');
    await expect(section(page).getByRole('status')).toContainText('Mend it at the transmitter');
    await expect(section(page).getByRole('button', { name: 'Put into the tray' })).toHaveCount(0);
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
  });
  await test.step('where the transmitter cannot be mended the board takes each stick as it comes', async () => {
    await withTransmitter(page, { travel: 0.85, trimUs: { roll: 0, pitch: 0, yaw: 0 }, noiseUs: 1 });
    await section(page)
      .getByRole('button', { name: /Measure/ })
      .click();
    await stir(page);
    await expect(row(page, 'pitch')).toContainText('a dual rate or an end is turned down', {
      timeout: 30_000,
    });
    await section(page).getByRole('button', { name: 'Take them as they are' }).click();
    await expect(page.getByTestId('tray-count')).toHaveText(/\d+ edits wait/);
    await write(page);
    await expect(section(page).getByRole('status')).toContainText('The board takes them as they come');
    await section(page).getByRole('button', { name: 'Keep it as seen' }).click();
    await expect(section(page).getByRole('status')).toContainText('Seen:');
  });
  await test.step('the cable out in the middle leaves no half measurement', async () => {
    await withTransmitter(page, { travel: 1, trimUs: { roll: 0, pitch: 0, yaw: 0 }, noiseUs: 2 });
    await section(page)
      .getByRole('button', { name: /Measure/ })
      .click();
    await bench(page, 'USB cable', false);
    await expect(section(page).getByRole('table')).toHaveCount(0);
    await plugIn(page);
  });
  await test.step('noise wants a deadband; written, it is kept as seen', async () => {
    await section(page)
      .getByRole('button', { name: /Measure/ })
      .click();
    await stir(page);
    await expect(row(page, 'yaw')).toContainText('As it should be.', { timeout: 30_000 });
    await section(page).getByRole('button', { name: 'Put into the tray' }).click();
    await write(page);
    await section(page).getByRole('button', { name: 'Keep it as seen' }).click();
    await expect(section(page).getByRole('status')).toContainText(
      /Seen: .* µs of noise under \d+ µs of deadband/,
    );
    await page.reload();
    await expect(section(page).getByRole('status')).toContainText('Seen:');
  });
  expect(faults).toEqual([]);
});
