import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { bench, closeBench, find, goTo, open, plugIn, write } from './helpers.ts';

test('an overlay made by keys alone, from an empty picture to the flight, and written to the board', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/ruff.wanderweg.json');
  await expect(page.getByText('Ruff Tri is open.')).toBeVisible();
  await plugIn(page, true);
  await closeBench(page);
  await goTo(page, '/field/over-picture');
  const main = page.getByRole('main');
  // No picture yet.
  await main.getByRole('radio', { name: /^Ouzel/ }).focus();
  await page.keyboard.press('Space');
  await expect(main.getByText('Nothing stands over the picture in layout A.')).toBeVisible();
  const press = async (name: string | RegExp) => {
    await main.getByRole('button', { name }).first().focus();
    await page.keyboard.press('Enter');
  };
  await press('Begin with what is looked at most');
  const mode = main.locator('[data-item=mode]');
  await mode.focus();
  const before = await mode.getAttribute('aria-label');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(mode).not.toHaveAttribute('aria-label', before!);
  await expect(main.getByRole('region', { name: 'mode' })).toBeVisible();
  // Onto the distance, which is said at once, and mended.
  for (let k = 0; k < 2; k++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowUp');
  await expect(main.getByRole('status').filter({ hasText: 'share cells' })).toBeVisible();
  await press(/^Put all of it right|^Move /);
  await expect(main.getByRole('status').filter({ hasText: 'share cells' })).toHaveCount(0);
  // Its own words.
  await press(/^own words 1/);
  await expect(main.getByRole('status').filter({ hasText: 'no words are typed' })).toBeVisible();
  await main.getByRole('textbox', { name: 'Own words 1' }).fill('RUFF 7');
  await page.keyboard.press('Enter');
  await expect(main.locator('[data-item=words1]')).toHaveAttribute('aria-label', /shows RUFF 7/);
  await write(page);
  const live = main.getByText('Live: this is what the board writes over the picture now.');
  await expect(live).toBeVisible();
  // The cable is pulled: what is shown then is not the board's, and says so.
  await bench(page, 'USB cable', false);
  await expect(live).toBeHidden();
  await expect(main.getByText('A moment that never was, to lay things out by')).toBeVisible();
  await bench(page, 'USB cable', true);
  await closeBench(page);
  await expect(live).toBeVisible();
  await press('Rehearse what the pilot sees');
  const time = main.getByLabel('Time of the flight');
  await expect(time).toBeVisible({ timeout: 120_000 });
  await expect(main.getByText(/^Comes home\./)).toBeVisible();
  await time.focus();
  await page.keyboard.press('End');
  await expect(main.getByRole('button', { name: /^distance/ }).last()).toContainText('m');
  // A layout may be changed over the flight that was flown.
  await mode.focus();
  await page.keyboard.press('Delete');
  await expect(mode).toHaveCount(0);
  await expect(time).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(mode).toBeVisible();
  expect(faults).toEqual([]);
});

test('an overlay for another grid: told, dragged in, carried over, saved and opened as text', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone-as-found.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await goTo(page, '/field/over-picture');
  const main = page.getByRole('main');
  const wrong = main.getByRole('status').filter({ hasText: 'share cells' });
  await expect(wrong).toContainText('Return home takes 11');
  // Dragged off the distance.
  const mode = main.locator('[data-item=mode]');
  const box = (await mode.boundingBox())!;
  await page.mouse.move(box.x + 8, box.y + 5);
  await page.mouse.down();
  await page.mouse.move(box.x - 60, box.y + 30, { steps: 6 });
  await page.mouse.up();
  await expect(wrong).toHaveCount(0);
  await expect(page.getByText('1 edit waits').first()).toBeVisible();
  await main.getByText('Put all of it right').click();
  await expect(main.getByText('reaches beyond the picture')).toHaveCount(0);
  // To another system: what it does not draw is said.
  await main.getByRole('button', { name: /^horizon/ }).click();
  await main.getByRole('radio', { name: /^Dipper/ }).click();
  await expect(main.getByText('Carried over to Dipper, digital by what it means.')).toContainText(
    'Bank stands in for horizon',
  );
  await main.getByRole('radio', { name: /525 lines/ }).click();
  const saved = page.waitForEvent('download');
  await main.getByRole('button', { name: 'Save it as text' }).click();
  const path = await (await saved).path();
  const text = readFileSync(path, 'utf8');
  expect(text).toContain('system = "analogue-525"');
  // The same from a file is the same; another's is carried over; none is refused and changes nothing.
  await main.getByRole('radio', { name: /^Ouzel/ }).click();
  await main
    .getByLabel('Layout as text')
    .setInputFiles({ name: 'mine.toml', mimeType: 'text/plain', buffer: Buffer.from(text) });
  await expect(main.getByText('It was made for Analogue, 525 lines, and was carried over')).toBeVisible();
  await main
    .getByLabel('Layout as text')
    .setInputFiles({ name: 'no.toml', mimeType: 'text/plain', buffer: Buffer.from('hello there') });
  await expect(main.getByRole('alert')).toContainText('Nothing was changed.');
  expect(faults).toEqual([]);
});

test('a video transmitter: a channel with room, told over a port once it has power, and what it lives on', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await goTo(page, '/field/over-picture');
  const video = page.getByRole('main').getByRole('region', { name: 'Video transmitter' });
  await expect(video.getByRole('status')).toContainText('No port is set for it at Wiring');
  // By keys: another band and channel.
  const channel = video.getByRole('button', { name: /^Band F, channel 4, 5800 MHz/ });
  await channel.focus();
  await page.keyboard.press('Enter');
  await expect(channel).toHaveAttribute('aria-pressed', 'true');
  await expect(video).toContainText('5800 MHz');
  // Somebody else on the strip sends next to it.
  const others = video.getByRole('combobox', { name: 'Add another pilot’s channel' });
  await others.selectOption({ label: 'F 5, 5820 MHz' });
  const room = video.getByText(/^Channels of band F with room to all/);
  await expect(room).toBeVisible();
  expect((await room.textContent())!.replace(/^.*: /, '')).not.toMatch(/\b[456]\b/);
  // More volts than it bears, and fewer than it wants.
  await video.getByLabel('Greatest voltage of the video transmitter').fill('12');
  await page.keyboard.press('Enter');
  await expect(video.getByRole('alert')).toBeVisible();
  await video
    .getByRole('combobox', { name: 'What feeds the video transmitter' })
    .selectOption('the board’s rail');
  await expect(video.getByRole('alert')).toBeVisible();
  await video.getByLabel('Least voltage of the video transmitter').fill('4');
  await page.keyboard.press('Enter');
  await expect(video.getByRole('alert')).toHaveCount(0);
  // By a port: it answers only once it has power, and then with what it has.
  await find(page, 'port 5 is for');
  await page
    .getByRole('dialog')
    .getByRole('combobox')
    .first()
    .selectOption({ label: 'video transmitter control' });
  await page.keyboard.press('Escape');
  await plugIn(page);
  await expect(video.getByRole('status')).toContainText('tells it nothing there yet');
  await write(page);
  await page.getByRole('button', { name: 'Restart the board' }).click();
  await closeBench(page);
  await expect(video.getByRole('status')).toContainText('It does not answer');
  await bench(page, 'Battery', true);
  await expect(video.getByRole('status')).toContainText('It says that it sends on 5800 MHz with 25 mW', {
    timeout: 20_000,
  });
  await bench(page, 'Battery', false);
  await expect(video.getByRole('status')).toContainText('It does not answer', { timeout: 20_000 });
  expect(faults).toEqual([]);
});
