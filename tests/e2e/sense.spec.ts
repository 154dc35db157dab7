import { expect, type Page, test } from '@playwright/test';
import { bench, closeBench, find, goTo, open, openBench, plugIn, tiltByKeys, write } from './helpers.ts';

/** The leg Sense, whole: lessons done by hands at the bench, each measured after it was written. */

const restart = async (page: Page) => {
  await page
    .getByRole('button', { name: /Restart/ })
    .first()
    .click();
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
};

const proven = (page: Page, name: RegExp) =>
  expect(page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name })).toContainText(
    /proven|\d/,
  );

const pose = async (page: Page, id: string) => {
  await openBench(page);
  await page.getByRole('combobox', { name: /^Pose/ }).selectOption(id);
};

async function tools(page: Page) {
  await openBench(page);
  await page.getByRole('button', { name: 'Tools', exact: true }).click();
}

async function mounted(page: Page) {
  await goTo(page, '/sense/mounted');
  await openBench(page);
  await page.getByRole('application', { name: /^The craft,/ }).focus();
  await page.keyboard.press('Home');
  // What it felt before it was laid down is past.
  await page.waitForTimeout(2500);
  await page.getByRole('button', { name: 'It stands so' }).click();
  await tiltByKeys(page, 0, 35);
  await page.getByRole('button', { name: 'The nose is up' }).click();
  if (await page.getByRole('button', { name: 'Put into the tray' }).isVisible()) {
    await page.getByRole('button', { name: 'Put into the tray' }).click();
    await write(page);
    await restart(page);
  }
  await tiltByKeys(page, 30, 0);
  await page.waitForTimeout(2500);
  await page.getByRole('button', { name: 'The right wing is down' }).click();
  await expect(page.getByText(/The board knew the right wing was down/)).toBeVisible();
}

test('Turnstone as found: mounting, poses and level are taught, and seen to be right', async ({ page }) => {
  test.setTimeout(300_000);
  const faults = await open(page);
  await plugIn(page);
  await test.step('the nose lowered for the nose lifted is noticed, and the wing settles it', async () => {
    await goTo(page, '/sense/mounted');
    await page.getByRole('application', { name: /^The craft,/ }).focus();
    await page.keyboard.press('Home');
    await page.getByRole('button', { name: 'It stands so' }).click();
    await tiltByKeys(page, 0, 35);
    await page.getByRole('button', { name: 'The nose is up' }).click();
    await expect(page.getByText(/roll 0° -90°/)).toBeVisible();
    await page.getByRole('button', { name: 'Begin again' }).click();
    await mounted(page);
  });
  await test.step('six poses in any order; half of them outlive a reload', async () => {
    await goTo(page, '/sense/poses');
    for (const [i, id] of ['flat', 'right-down', 'back'].entries()) {
      await pose(page, id);
      await expect(page.getByRole('link', { name: /^Six still poses/ })).toContainText(`${i + 1} of 6`);
    }
    await page.waitForTimeout(400);
    await page.reload();
    await expect(page.getByRole('link', { name: /^Six still poses/ })).toContainText('3 of 6');
    await plugIn(page);
    for (const id of ['nose-up', 'left-down', 'nose-down']) {
      await pose(page, id);
      await page.waitForTimeout(4500);
    }
    await page.getByRole('button', { name: 'Put into the tray' }).click();
    await write(page);
    await tiltByKeys(page, 40, 35);
    await page.getByRole('button', { name: 'That is it' }).click({ timeout: 20_000 });
    await expect(page.getByRole('link', { name: /^Six still poses/ })).toContainText(/\d/);
  });
  await test.step('level is the attitude that it is propped up in', async () => {
    await goTo(page, '/sense/level');
    await tiltByKeys(page, 0, 5);
    await page.waitForTimeout(2500);
    await page.getByRole('button', { name: 'This is level' }).click({ timeout: 20_000 });
    await write(page);
    // Its sense of attitude settles; in hands that tremble the button comes and goes until then.
    await expect(async () => {
      await page.getByRole('button', { name: 'The board says level' }).click({ timeout: 5000 });
      await expect(page.getByRole('link', { name: /^What level means/ })).toContainText(
        /nose \d\.\d° up is level/,
        { timeout: 1500 },
      );
    }).toPass({ timeout: 60_000 });
  });
  await test.step('the cable out in the middle of a lesson stages nothing, and it goes on', async () => {
    await goTo(page, '/sense/shaken');
    await page.getByLabel('It is').selectOption('table');
    await page.waitForTimeout(4000);
    await bench(page, 'USB cable', false);
    await expect(page.getByText('This needs a board on the cable')).toBeVisible();
    await plugIn(page);
    const left = page.getByRole('button', { name: 'It was left alone' });
    await expect(left).toBeDisabled();
    await expect(left).toBeEnabled({ timeout: 30_000 });
    await left.click();
    await expect(page.getByText('of its own', { exact: true })).toBeVisible();
  });
  await test.step('what was seen goes stale when the board is turned by a setting, and comes back', async () => {
    await goTo(page, '/sense/mounted');
    await find(page, 'Board turned, yaw');
    await page
      .getByRole('dialog')
      .getByRole('textbox', { name: /Board turned, yaw/ })
      .fill('0');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('link', { name: /^How it is mounted/ })).toContainText('changed since');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('link', { name: /^How it is mounted/ })).not.toContainText('changed since');
  });
  expect(faults).toEqual([]);
});

test('Turnstone as found: port, air, tube and battery are measured by tools on the bench', async ({
  page,
}) => {
  test.setTimeout(300_000);
  const faults = await open(page);
  await bench(page, 'Battery', true);
  await plugIn(page);
  await test.step('the port at the wrong speed is found by listening', async () => {
    await goTo(page, '/sense/position');
    await expect(page.getByText('garbage', { exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Listen at every speed' }).click();
    await expect(page.getByText(/It speaks at 38400 baud/)).toBeVisible({ timeout: 30_000 });
    await write(page);
    await restart(page);
    await expect(page.getByText('sentences', { exact: true })).toBeVisible();
    await bench(page, 'Craft is', true);
    await page.getByRole('button', { name: 'Keep this fix' }).click({ timeout: 90_000 });
    await expect(page.getByRole('link', { name: /^Position/ })).toContainText(/used, fix after/);
  });
  await test.step('a fan shows that the barometer has no foam; foam mends it', async () => {
    await goTo(page, '/sense/air');
    await tools(page);
    await page.getByRole('button', { name: 'It was left alone' }).click({ timeout: 30_000 });
    await expect(page.getByText('of noise', { exact: true })).toBeVisible();
    await bench(page, 'Fan', true);
    await page.getByRole('button', { name: 'I blow at it now' }).click();
    await expect(page.getByText(/put open foam over the chip/)).toBeVisible({ timeout: 20_000 });
    await expect(page.getByRole('link', { name: /^Air and height/ })).toContainText('1 finding');
    await page.getByRole('switch', { name: /^Foam/ }).click();
    await expect(page.getByRole('switch', { name: /^USB cable/ })).toHaveAttribute('aria-checked', 'false');
    await bench(page, 'Battery', true);
    await plugIn(page);
    await tools(page);
    await bench(page, 'Fan', false);
    await page.waitForTimeout(4000);
    await bench(page, 'Fan', true);
    await page.getByRole('button', { name: 'I blow at it now' }).click();
    await expect(page.getByText('The airflow hardly reaches it.')).toBeVisible({ timeout: 20_000 });
    await bench(page, 'Fan', false);
  });
  await test.step('the tube under its cover and breathed into', async () => {
    await goTo(page, '/sense/airspeed');
    const tube = page.getByRole('combobox', { name: /^Tube/ });
    await tube.selectOption('covered');
    await page.getByRole('button', { name: 'The cover is on' }).click({ timeout: 20_000 });
    await tube.selectOption('breathed into');
    await page.waitForTimeout(1500);
    await tube.selectOption('open');
    await page.getByRole('button', { name: 'I breathed into it' }).click();
    await expect(page.getByText('It holds the breath: no leak, nothing in it.')).toBeVisible();
  });
  await test.step('four per cent of the voltage are found by a meter; the load tells the current', async () => {
    await goTo(page, '/sense/volts');
    const meter = async () => {
      const text = await page.getByText('Meter on the battery').locator('b').textContent();
      await page.getByLabel('The meter says').fill(text!.replace(' V', ''));
      await page.keyboard.press('Enter');
    };
    await expect(page.getByText('says the board').first()).toBeVisible();
    await page.waitForTimeout(2500);
    await meter();
    await page.getByRole('button', { name: 'Put into the tray' }).first().click();
    await write(page);
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
    await page.waitForTimeout(2500);
    await meter();
    await page.getByRole('button', { name: 'They agree' }).first().click();
    await page.getByRole('button', { name: 'It is alone' }).click();
    await page.getByRole('switch', { name: /^Load,/ }).click();
    await page.waitForTimeout(3000);
    await page.getByRole('button', { name: 'They agree' }).last().click();
    await page.getByRole('switch', { name: /^Load,/ }).click();
    await expect(page.getByRole('link', { name: /^Volts and amperes/ })).toContainText(/within 0\.\d %/);
  });
  await closeBench(page);
  await proven(page, /^Airspeed/);
  expect(faults).toEqual([]);
});

test('Avocet: the compass over the battery lead is taught, and its wire told', async ({ page }) => {
  test.setTimeout(400_000);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/avocet.wanderweg.json');
  await expect(page.getByText('Avocet 7').first()).toBeVisible();
  await bench(page, 'Battery', true);
  await plugIn(page);
  await goTo(page, '/sense/compass');
  await test.step('a screwdriver near it is noticed', async () => {
    await tools(page);
    await bench(page, 'Screwdriver', true);
    await page.getByRole('combobox', { name: /^Turned/ }).selectOption('all');
    await expect(page.getByText(/does not lie on any ellipsoid|metal moved/)).toBeVisible({
      timeout: 90_000,
    });
    await expect(page.getByRole('button', { name: 'Put into the tray' })).toBeDisabled();
    await bench(page, 'Screwdriver', false);
    await page.getByRole('button', { name: 'Begin again' }).click();
  });
  await test.step('turned through all directions, written, and turned once more', async () => {
    const put = page.getByRole('button', { name: 'Put into the tray' });
    await expect(put).toBeEnabled({ timeout: 90_000 });
    await put.click();
    await write(page);
    await page.getByRole('button', { name: 'Keep it as seen' }).click({ timeout: 90_000 });
    await expect(page.getByRole('link', { name: /^Compass/ })).toContainText(/heading within \d\.\d°/);
  });
  expect(faults).toEqual([]);
});

test('Avocet by keys alone: mounting is shown, and goes stale when the board is turned by a setting', async ({
  page,
}) => {
  test.setTimeout(200_000);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/avocet.wanderweg.json');
  await expect(page.getByText('Avocet 7').first()).toBeVisible();
  /** Goes on by Tab until something is reached, and presses it. */
  const press = async (name: string | RegExp, role: 'button' | 'switch' = 'button') => {
    const target = page.getByRole(role, { name }).first();
    await expect(target).toBeEnabled();
    for (let k = 0; k < 140; k++) {
      if (await target.evaluate((e) => e === document.activeElement)) {
        await page.keyboard.press('Enter');
        return;
      }
      await page.keyboard.press('Tab');
    }
    throw new Error(`${String(name)} is not reached by keys`);
  };
  const ball = page.getByRole('application', { name: /^The craft,/ });
  const hold = async (...keys: string[]) => {
    for (let k = 0; k < 140 && !(await ball.evaluate((e) => e === document.activeElement)); k++)
      await page.keyboard.press('Tab');
    for (const key of keys) await page.keyboard.press(key);
    await page.waitForTimeout(2600);
  };
  await page.keyboard.press('2');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('How it is mounted');
  await page.keyboard.press('b');
  await press(/^USB cable/, 'switch');
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
  await hold('Home');
  await press('It stands so');
  await hold(...new Array(7).fill('ArrowDown'));
  await press('The nose is up');
  // It lies as its settings say: the wing is asked for at once.
  await hold('Home', ...new Array(6).fill('ArrowRight'));
  await press('The right wing is down');
  await expect(page.getByText(/The board knew the right wing was down/)).toBeVisible();
  await find(page, 'Board turned, yaw');
  await page
    .getByRole('dialog')
    .getByRole('textbox', { name: /Board turned, yaw/ })
    .fill('90');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: /^How it is mounted/ })).toContainText('changed since');
  expect(faults).toEqual([]);
});
