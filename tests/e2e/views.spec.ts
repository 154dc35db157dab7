import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { closeBench, everyView, find, goTo, open, openBench, plugIn } from './helpers.ts';

for (const theme of ['day', 'dusk', 'sun'] as const) {
  test(`no view has a serious or critical accessibility fault, by ${theme}`, async ({ page }) => {
    test.setTimeout(540_000);
    await open(page);
    if (theme !== 'day') await find(page, theme === 'dusk' ? 'dusk' : 'sunlight');
    await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
    await plugIn(page, true);
    const check = async (where: string) => {
      const { violations } = await new AxeBuilder({ page }).analyze();
      const bad = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
      expect(
        bad.map((v) => `${where}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
      ).toEqual([]);
    };
    for (const view of await everyView(page)) {
      await goTo(page, view.path);
      await expect(page.getByRole('heading', { level: 1 })).toHaveText(view.name);
      await page.waitForTimeout(250);
      await check(view.path);
    }
    await closeBench(page);
    await page.keyboard.press('f');
    await expect(page.getByRole('dialog')).toBeVisible();
    await check('findings');
    await page.keyboard.press('Escape');
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toBeVisible();
    await check('keys');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+k');
    await page.waitForTimeout(200);
    await check('find anything');
  });
}

test('every leg, station and drawer is reached by keys alone', async ({ page }) => {
  await open(page);
  for (const [key, heading] of [
    ['2', 'How it is mounted'],
    ['3', 'Which one moved?'],
    ['4', 'When the link is lost'],
    ['6', 'One flight'],
    ['1', 'Who is there'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(heading);
  }
  await page.keyboard.press('j');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('What was kept');
  await page.keyboard.press('k');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Who is there');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Who is there' })).toContainText('nothing but the craft');
  await page.keyboard.press('Escape');
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: /^Bench/ })).toHaveAttribute('aria-expanded', 'true');
  await find(page, 'return height');
  await page.getByRole('dialog').getByRole('textbox', { name: 'Return height' }).focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Shift+ArrowUp');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
  // One step of 5 m and one of ten steps, from 120 m.
  await expect(page.getByText('175 m')).toBeVisible();
});

test('a setting found by name leads to the station where it is made, and help there lists it', async ({
  page,
}) => {
  await open(page);
  await find(page, 'return height');
  await page.getByRole('button', { name: 'Go to The way home' }).click();
  await expect(page).toHaveURL(/\/return\/way-home$/);
  await page.keyboard.press('?');
  await page.getByText(/\d+ settings are made here/).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Return height', exact: true }).click();
  await expect(page.getByRole('dialog', { name: 'Return height' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('3');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('the battery, with the propellers off');
});

test('a long name and a narrow window cut nothing off', async ({ page }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await open(page);
  const craft = await import('node:fs').then((fs) =>
    fs.readFileSync('demo/turnstone.wanderweg.json', 'utf8'),
  );
  const long = 'The very long survey craft of the northern moor, second wing, spare tail'.slice(0, 80);
  await page.getByLabel('Craft file').setInputFiles({
    name: 'long.json',
    mimeType: 'application/json',
    buffer: Buffer.from(craft.replace(/"name": "Turnstone 1600"/g, `"name": "${long}"`)),
  });
  await expect(page.getByText(`${long} is open.`)).toBeVisible();
  await openBench(page);
  for (const { path: view } of await everyView(page)) {
    await goTo(page, view);
    await page.waitForTimeout(150);
    const wide = await page.evaluate(() => document.documentElement.scrollWidth > innerWidth);
    expect(wide, view).toBe(false);
    const overflow = await page.evaluate(() => {
      const work = document.querySelector('#work')!;
      return work.scrollWidth - work.clientWidth;
    });
    expect(overflow, view).toBeLessThanOrEqual(1);
  }
});
