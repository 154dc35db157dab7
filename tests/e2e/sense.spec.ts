import { expect, type Page, test } from '@playwright/test';
import { bench, closeBench, find, goTo, open, openBench, plugIn, tiltByKeys, write } from './helpers.ts';
import { type Person, people } from './people.ts';

/** The leg Sense, whole, by mouse and by keys alone: lessons done by hands at the bench, each measured after it was written. */

const button = (page: Page, name: string | RegExp, nth = 0) => page.getByRole('button', { name }).nth(nth);
const station = (page: Page, name: RegExp) =>
  page.getByRole('navigation', { name: 'Stations of Sense' }).getByRole('link', { name });

/** Holds the craft so until what it felt on the way there is past. */
async function hold(page: Page, roll: number, pitch: number) {
  await openBench(page);
  await tiltByKeys(page, roll, pitch);
  await page.waitForTimeout(2600);
}

async function restart(page: Page, by: Person) {
  await by.press(button(page, /Restart/));
  await expect(page.getByText('Fell F7, Pfad 3.2')).toBeVisible();
}

/** Flips something that is in reach of the hand. */
async function tool(page: Page, by: Person, name: string, on: boolean) {
  await openBench(page);
  const tray = button(page, 'Tools');
  if ((await tray.getAttribute('aria-pressed')) !== 'true') await by.press(tray);
  const target = page.getByRole('switch', { name: new RegExp(`^${name}`) });
  if ((await target.getAttribute('aria-checked')) !== String(on)) await by.press(target);
  await expect(target).toHaveAttribute('aria-checked', String(on));
}

for (const [how, by] of people) {
  test(`Turnstone as found, ${how}: mounting, poses, level and rest are taught, and seen to be right`, async ({
    page,
  }) => {
    test.setTimeout(300_000);
    const faults = await open(page);
    await plugIn(page);
    await goTo(page, '/sense/mounted');
    await test.step('two gestures find the mounting, begun again, and the wing proves it', async () => {
      await hold(page, 0, 0);
      await by.press(button(page, 'It stands so'));
      await hold(page, 0, 35);
      await by.press(button(page, 'The nose is up'));
      await expect(page.getByText(/roll 0° -90°/)).toBeVisible();
      await by.press(button(page, 'Begin again'));
      await hold(page, 0, 0);
      await by.press(button(page, 'It stands so'));
      await hold(page, 0, 35);
      await by.press(button(page, 'The nose is up'));
      await by.press(button(page, 'Put into the tray'));
      await write(page);
      await restart(page, by);
      await hold(page, 30, 0);
      await by.press(button(page, 'The right wing is down'));
      await expect(page.getByText(/The board knew the right wing was down/)).toBeVisible();
      await expect(station(page, /^How it is mounted/)).toContainText('proven');
    });
    await test.step('six poses in any order; half of them outlive a reload', async () => {
      await goTo(page, '/sense/poses');
      for (const [i, [roll, pitch]] of [
        [0, 0],
        [90, 0],
        [180, 0],
      ].entries()) {
        await hold(page, roll!, pitch!);
        await expect(station(page, /^Six still poses/)).toContainText(`${i + 1} of 6`);
      }
      await page.waitForTimeout(400);
      await page.reload();
      await expect(station(page, /^Six still poses/)).toContainText('3 of 6');
      await plugIn(page);
      for (const [roll, pitch] of [
        [0, 90],
        [-90, 0],
        [0, -90],
      ] as const) {
        await hold(page, roll, pitch);
        await page.waitForTimeout(2000);
      }
      await by.press(button(page, 'Put into the tray'));
      await write(page);
      await hold(page, 40, 35);
      await by.press(button(page, 'That is it'));
      await expect(station(page, /^Six still poses/)).toContainText('proven');
    });
    await test.step('level is the attitude that it is propped up in', async () => {
      await goTo(page, '/sense/level');
      await hold(page, 0, 5);
      await by.press(button(page, 'This is level'));
      await write(page);
      // Its sense of attitude settles; in hands that tremble the button comes and goes until then.
      await expect(async () => {
        await by.press(button(page, 'The board says level'));
        await expect(station(page, /^What level means/)).toContainText('proven', { timeout: 1500 });
      }).toPass({ timeout: 60_000 });
    });
    await test.step('the cable out in the middle of a lesson stages nothing, and it goes on', async () => {
      await goTo(page, '/sense/shaken');
      await by.choose(page.getByRole('combobox', { name: /^It is/ }), 'table');
      await page.waitForTimeout(4000);
      await bench(page, 'USB cable', false);
      await expect(page.getByText('This needs a board on the cable')).toBeVisible();
      await plugIn(page);
      const left = button(page, 'It was left alone');
      await expect(left).toBeDisabled();
      await by.press(left);
      await expect(page.getByText('of its own', { exact: true })).toBeVisible();
    });
    await test.step('what was seen goes stale when the board is turned by a setting, and comes back', async () => {
      await goTo(page, '/sense/mounted');
      await find(page, 'Board turned, yaw');
      await by.typeIn(page.getByRole('dialog').getByRole('textbox', { name: /Board turned, yaw/ }), '0');
      await page.keyboard.press('Escape');
      await expect(station(page, /^How it is mounted/)).toContainText('changed since');
      await expect(station(page, /^What level means/)).toContainText('changed since');
      await expect(station(page, /^Six still poses/)).toContainText('proven');
      await by.press(button(page, 'Undo'));
      await expect(station(page, /^How it is mounted/)).toContainText('proven');
    });
    expect(faults).toEqual([]);
  });

  test(`Turnstone as found, ${how}: port, air, tube and battery are measured by tools on the bench`, async ({
    page,
  }) => {
    test.setTimeout(300_000);
    const faults = await open(page);
    await bench(page, 'Battery', true);
    await plugIn(page);
    await test.step('the port at the wrong speed is found by listening', async () => {
      await goTo(page, '/sense/position');
      await expect(page.getByText('garbage', { exact: true })).toBeVisible();
      await by.press(button(page, 'Listen at every speed'));
      await expect(page.getByText(/It speaks at 38400 baud/)).toBeVisible({ timeout: 30_000 });
      await write(page);
      await restart(page, by);
      await expect(page.getByText('sentences', { exact: true })).toBeVisible();
      await bench(page, 'Craft is', true);
      await expect(button(page, 'Keep this fix')).toBeEnabled({ timeout: 90_000 });
      await by.press(button(page, 'Keep this fix'));
      await expect(station(page, /^Position/)).toContainText('proven');
    });
    await test.step('nothing is kept where nothing blew; a fan shows that there is no foam, and foam mends it', async () => {
      await goTo(page, '/sense/air');
      await by.press(button(page, 'It was left alone'));
      await expect(page.getByText('of noise', { exact: true })).toBeVisible();
      const blows = button(page, 'It blows now');
      await expect(blows).toBeDisabled();
      await by.press(button(page, 'It is in peace'));
      await by.press(blows);
      await expect(page.getByText(/Nothing blew/)).toBeVisible({ timeout: 20_000 });
      await tool(page, by, 'Fan', true);
      await page.waitForTimeout(4000);
      await by.press(button(page, 'It is in peace'));
      await expect(page.getByText(/It is not in peace: the tube feels/)).toBeVisible();
      await by.press(blows);
      await expect(page.getByText(/put open foam over the chip/)).toBeVisible({ timeout: 20_000 });
      await expect(station(page, /^Air and height/)).toContainText('1 finding');
      await by.press(page.getByRole('switch', { name: /^Foam/ }));
      await expect(page.getByRole('switch', { name: /^USB cable/ })).toHaveAttribute('aria-checked', 'false');
      await bench(page, 'Battery', true);
      await plugIn(page);
      await tool(page, by, 'Fan', false);
      await page.waitForTimeout(4000);
      await by.press(button(page, 'It is in peace'));
      await tool(page, by, 'Fan', true);
      await by.press(blows);
      await expect(page.getByText('The airflow hardly reaches it.')).toBeVisible({ timeout: 20_000 });
      await tool(page, by, 'Fan', false);
      // The chip is another under its foam: its rest is measured anew.
      await expect(station(page, /^Air and height/)).toContainText('changed since');
      await page.waitForTimeout(10_500);
      await by.press(button(page, /It was left alone|Measure again/));
      await expect(station(page, /^Air and height/)).toContainText('proven');
    });
    await test.step('the tube under its cover and breathed into', async () => {
      await goTo(page, '/sense/airspeed');
      const tube = page.getByRole('combobox', { name: /^Tube/ });
      await expect(button(page, 'I breathed into it')).toBeDisabled();
      await by.choose(tube, 'covered');
      await by.press(button(page, 'The cover is on'));
      await by.choose(tube, 'breathed into');
      await page.waitForTimeout(1500);
      await by.choose(tube, 'open');
      await by.press(button(page, 'I breathed into it'));
      await expect(page.getByText('It holds the breath: no leak, nothing in it.')).toBeVisible();
      await expect(station(page, /^Airspeed/)).toContainText('proven');
    });
    await test.step('four per cent of the voltage are found by a meter, read anew after writing; the load tells the current', async () => {
      await goTo(page, '/sense/volts');
      const meter = async () => {
        await page.waitForTimeout(2500);
        const text = await page.getByText('Meter on the battery').locator('b').textContent();
        await by.typeIn(page.getByLabel('The meter says'), text!.replace(' V', ''));
      };
      await meter();
      await by.press(button(page, 'Put into the tray'));
      await write(page);
      await expect(button(page, 'Put into the tray')).toBeDisabled();
      await meter();
      await by.press(button(page, 'They agree'));
      await by.press(button(page, 'It is alone'));
      await tool(page, by, 'Load,', true);
      await page.waitForTimeout(3000);
      await by.press(page.getByRole('button', { name: 'They agree' }).last());
      await tool(page, by, 'Load,', false);
      await expect(station(page, /^Volts and amperes/)).toContainText('proven');
    });
    await closeBench(page);
    expect(faults).toEqual([]);
  });

  test(`Avocet, ${how}: the compass over the battery lead is taught, and what the current does is taken out`, async ({
    page,
  }) => {
    test.setTimeout(400_000);
    const faults = await open(page);
    await page.getByLabel('Craft file').setInputFiles('demo/avocet.wanderweg.json');
    await expect(page.getByText('Avocet 7 is open.')).toBeVisible();
    await bench(page, 'Battery', true);
    await bench(page, 'Craft is', true);
    await plugIn(page);
    await goTo(page, '/sense/compass');
    const turned = page.getByRole('combobox', { name: /^Turned/ });
    await test.step('a screwdriver near it is noticed', async () => {
      await tool(page, by, 'Screwdriver', true);
      await by.choose(turned, 'all');
      await expect(page.getByText(/does not lie on any ellipsoid|metal moved/)).toBeVisible({
        timeout: 90_000,
      });
      await expect(button(page, 'Put into the tray')).toBeDisabled();
      await tool(page, by, 'Screwdriver', false);
      await by.press(button(page, 'Begin again'));
    });
    await test.step('turned through all directions, written, and turned once more', async () => {
      await expect(button(page, 'Put into the tray')).toBeEnabled({ timeout: 90_000 });
      await by.press(button(page, 'Put into the tray'));
      await write(page);
      await expect(button(page, 'Keep it as seen')).toBeEnabled({ timeout: 90_000 });
      await by.press(button(page, 'Keep it as seen'));
      await expect(page.getByText(/The field kept its strength within/)).toBeVisible();
    });
    await test.step('a run-up tells what the current does; written, the next one has it gone', async () => {
      await by.choose(page.getByRole('combobox', { name: /^It is/ }), 'tied');
      await bench(page, 'Propellers', true);
      await by.press(button(page, 'Transmitter'));
      const left = page.getByRole('slider', { name: /^Left stick/ });
      const runUp = async () => {
        // A switch that is put on too soon is refused, and has to go off first.
        await expect(page.getByText('no, ready')).toBeVisible({ timeout: 60_000 });
        await bench(page, 'Arm', true);
        await expect(page.getByText(/^Armed\. Raise the throttle/)).toBeVisible({ timeout: 60_000 });
        await left.focus();
        for (let k = 0; k < 8; k++) {
          await page.keyboard.press('w');
          await page.waitForTimeout(700);
        }
        for (let k = 0; k < 12; k++) await page.keyboard.press('s');
        await bench(page, 'Arm', false);
      };
      await runUp();
      await expect(
        page.getByText('The board can take it out, as long as it measures the current.'),
      ).toBeVisible();
      await by.press(page.getByRole('button', { name: 'Put into the tray' }).last());
      await write(page);
      await expect(station(page, /^Compass/)).not.toContainText('proven');
      await runUp();
      await expect(page.getByText(/What the board is set to leaves \d° at the most/)).toBeVisible();
      await by.press(page.getByRole('button', { name: 'Keep it as seen' }).last());
      await expect(page.getByText(/Seen: 0\.\d+ µT per ampere/)).toBeVisible();
    });
    expect(faults).toEqual([]);
  });
}
