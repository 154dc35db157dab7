import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { answer, find, open, write } from './helpers.ts';

type Stick = 'throttle' | 'roll' | 'pitch' | 'yaw';

/** What a person does at the bench during the walk. */
export interface Hands {
  /** The cable to the board, from the first station. */
  plugIn(): Promise<void>;
  battery(): Promise<void>;
  /** Holds a stick at its end: right, back, or forward for the throttle. */
  push(stick: Stick): Promise<void>;
  letGo(stick: Stick): Promise<void>;
  /** Turns it round and round to the right, to the left, or not. */
  turn(way: 1 | 0 | -1): Promise<void>;
  /** Brings the throttle near its middle. */
  halfThrottle(): Promise<void>;
  /** Switches the transmitter off, or on again with its throttle closed. */
  transmitter(on: boolean): Promise<void>;
  switchToLevel(): Promise<void>;
  /** degrees; both 0 is flat on the table */
  tilt(roll: number, pitch: number): Promise<void>;
  /** Looks at the craft itself, where there is a drawing of it. */
  seesElevatorUp(): Promise<void>;
}

/** Every stick is asked for and pushed. */
export async function learnSticks(page: Page, hands: Pick<Hands, 'push' | 'letGo'>): Promise<void> {
  for (const stick of ['throttle', 'roll', 'pitch', 'yaw'] as const) {
    const row = page.getByRole('listitem').filter({ hasText: stick });
    await row.getByRole('button', { name: 'Ask for it' }).click();
    await expect(page.getByText('No stick has moved yet.')).toBeVisible();
    await hands.push(stick);
    await expect(page.getByText(`so it carries ${stick}`)).toBeVisible();
    await hands.letGo(stick);
  }
}

/** The walk from bare board to the way home, whatever cable leads to the board and whoever's hands are at the craft. */
export async function walk(page: Page, hands: Hands): Promise<void> {
  const faults = await open(page);

  await test.step('1: plug in, see who is there, settings are read over the link', async () => {
    await hands.plugIn();
    await expect(page.getByText('On the cable now')).toBeVisible({ timeout: 60_000 });
    await expect(page.getByText('FF7-0419-22')).toBeVisible();
    await expect(page.getByText('Settings read').locator('xpath=following-sibling::dd[1]')).toHaveText(
      /^[4-9]\d\d$/,
    );
  });

  await test.step('2: the craft drawn to scale, its numbers follow; starting values go to the tray', async () => {
    await page.getByRole('link', { name: /^The craft/ }).click();
    await expect(page.getByText('0.352')).toBeVisible();
    await page.getByLabel('Span', { exact: true }).fill('1.8');
    await page.keyboard.press('Enter');
    await expect(page.getByText('0.396')).toBeVisible();
    await page.getByLabel('Span', { exact: true }).fill('90');
    await expect(page.getByRole('alert')).toContainText('goes from');
    await page.keyboard.press('Escape');
    await page.getByLabel('Span', { exact: true }).fill('1.6');
    await page.keyboard.press('Enter');
    await page.getByLabel('Centre of gravity').fill('470');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Tail-heavy')).toBeVisible();
    await page.getByLabel('Centre of gravity').fill('420');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Balanced')).toBeVisible();
    await page.keyboard.press('Tab');
    await page.getByRole('link', { name: /Starting values/ }).click();
    await page.getByRole('button', { name: /Put \d+ values into the tray/ }).click();
    await expect(page.getByTestId('tray-count')).toHaveText(/\d+ edits wait/);
  });

  await test.step('5: undo, redo, write, read back', async () => {
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect(page.getByTestId('tray-count')).toHaveText(/\d+ edits wait/);
    await write(page);
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
  });

  await test.step('5: the board is shown how it lies, and listens for its receiver', async () => {
    await page.getByRole('link', { name: /^Sense/ }).click();
    await page.getByRole('link', { name: /How it is mounted/ }).click();
    await hands.tilt(0, 0);
    await page.waitForTimeout(2500);
    await page.getByRole('button', { name: 'It stands so' }).click({ timeout: 30_000 });
    await hands.tilt(0, 35);
    await page.getByRole('button', { name: 'The nose is up' }).click({ timeout: 30_000 });
    await expect(page.getByText('roll 0° -90°')).toBeVisible();
    await page.getByRole('button', { name: 'Put into the tray' }).click();
    await page.getByRole('link', { name: /^Position/ }).click();
    await page.getByRole('button', { name: 'Listen at every speed' }).click();
    await expect(page.getByText(/It speaks at 38400 baud/)).toBeVisible({ timeout: 60_000 });
    await write(page);
    await page
      .getByRole('button', { name: /Restart/ })
      .first()
      .click();
    await page.getByRole('link', { name: /How it is mounted/ }).click();
    await expect(page.getByText(/tip the right wing down/i)).toBeVisible({ timeout: 60_000 });
    await hands.tilt(30, 0);
    // What it felt on the way there is past.
    await page.waitForTimeout(2500);
    await page.getByRole('button', { name: 'The right wing is down' }).click({ timeout: 30_000 });
    await expect(page.getByText(/The board knew the right wing was down/)).toBeVisible();
    await hands.tilt(0, 0);
  });

  await test.step('3: the board moves one output at a time; answers give assignment and reversal', async () => {
    await page.getByRole('link', { name: /^Steer/ }).click();
    await expect(page.getByText('This needs the battery')).toBeVisible();
    await hands.battery();
    await page.getByLabel('The propellers are off').click();
    await answer(page, 1, 'right motor', 'it turned');
    await answer(page, 2, 'left motor', 'it turned');
    await answer(page, 3, 'left aileron', 'down');
    await answer(page, 4, 'elevator', 'up');
    await answer(page, 5, 'rudder', 'left');
    await answer(page, 6, 'right aileron', 'down');
    for (const free of [7, 8, 9]) await answer(page, free, null, '');
    await expect(page.getByTestId('tray-count')).toHaveText('3 edits wait');
    await write(page);
    await expect(page.getByRole('link', { name: /Which one moved/ })).toContainText('proven');
  });

  await test.step('3: sticks are learnt, and then move surfaces live', async () => {
    await page.getByRole('link', { name: /Sticks/ }).click();
    await learnSticks(page, hands);
    await write(page);
    await expect(page.getByRole('link', { name: /Sticks/ })).toContainText('proven');
    // Pull: the elevator goes up on the drawing of what is commanded and on the craft itself.
    const up = /translateY\(-/;
    const commanded = page.getByRole('complementary').locator('path[data-part=elevator]').last();
    await hands.push('pitch');
    await expect(commanded).toHaveAttribute('style', up);
    await hands.seesElevatorUp();
    await hands.letGo('pitch');
  });

  await test.step('3: in self-level every surface opposes a tilt', async () => {
    await page.getByRole('link', { name: /Does it oppose a tilt/ }).click();
    await expect(page.getByText('The board is in Manual')).toBeVisible();
    await hands.switchToLevel();
    for (const [roll, pitch, tilt, confirm] of [
      [25, 0, 'Right wing down.', 'They do'],
      [-25, 0, 'Left wing down.', 'They do'],
      [0, 25, 'Nose up.', 'It does'],
      [0, -25, 'Nose down.', 'It does'],
    ] as const) {
      await hands.tilt(0, 0);
      await hands.tilt(roll, pitch);
      await expect(page.getByText(tilt)).toBeVisible();
      await page.getByRole('button', { name: confirm, exact: true }).click();
      await expect(page.getByText(`Kept: ${tilt.slice(0, -1).toLowerCase()}`)).toBeVisible();
    }
    await hands.tilt(0, 0);
    for (const [way, turn] of [
      [1, 'Turning right.'],
      [-1, 'Turning left.'],
    ] as const) {
      await hands.turn(way);
      await expect(page.getByText(turn)).toBeVisible();
      await page.getByRole('button', { name: 'It does', exact: true }).click();
      await expect(page.getByText(`Kept: ${turn.slice(0, -1).toLowerCase()}`)).toBeVisible();
    }
    await hands.turn(0);
  });

  await test.step('3: the radio is silenced: the receiver hides it, and is unmasked', async () => {
    await page.getByRole('link', { name: /When the radio falls silent/ }).click();
    const silence = async () => {
      await hands.halfThrottle();
      await page.getByRole('button', { name: 'It is on, and still' }).click();
      await hands.transmitter(false);
      await page.getByRole('button', { name: 'It is off now' }).click();
    };
    await silence();
    await expect(page.getByText('says the last values again, and the board does not notice')).toBeVisible();
    await expect(page.getByRole('link', { name: /^Steer, blocked/ })).toBeVisible();
    await page.getByRole('button', { name: 'Put into the tray' }).click();
    await write(page);
    await hands.transmitter(true);
    await silence();
    await expect(page.getByText('says the last values again, and the board notices')).toBeVisible();
    await hands.transmitter(true);
    await expect(page.getByRole('link', { name: /^Steer, proven/ })).toBeVisible();
  });

  await test.step('3: a proof goes stale when what it rests on changes', async () => {
    await find(page, 'output 4 reversed');
    await page.getByRole('checkbox', { name: 'Output 4 reversed' }).click();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('link', { name: /^Steer, changed since/ })).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('link', { name: /^Steer, proven/ })).toBeVisible();
  });

  await test.step('4: what happens on a lost link, and the way home by its handles', async () => {
    await page.getByRole('link', { name: /^Return/ }).click();
    await page.getByRole('radio', { name: /Glide down/ }).click();
    await page.getByRole('radio', { name: /Return home/ }).click();
    await page.getByRole('slider', { name: 'Guard for' }).focus();
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText('acts after 2.8 s in all')).toBeVisible();
    await page.getByRole('link', { name: /The way home/ }).click();
    // The starting values clear the ground around home; lower than that the drawing warns.
    await page.getByRole('textbox', { name: 'Return height' }).fill('150');
    await page.keyboard.press('Enter');
    await expect(page.getByText(/below the ridge/)).toBeVisible();
    const handle = page.getByRole('slider', { name: 'Return height' });
    const box = (await handle.locator('circle').last().boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2, box.y - 60, { steps: 4 });
    await page.mouse.up();
    expect(Number(await handle.getAttribute('aria-valuenow'))).toBeGreaterThan(180);
    await page.getByRole('textbox', { name: 'Return height' }).fill('405');
    await page.keyboard.press('Enter');
    await expect(page.getByText(/below the ridge/)).toBeHidden();
    // Climbing on the way from low down behind Aldrygg would come too late; the drawing says so.
    await page.getByRole('radio', { name: 'climb on the way' }).click();
    await expect(page.getByText(/below the ridge/)).toBeVisible();
    await page.getByRole('radio', { name: 'climb, then turn for home' }).click();
    await expect(page.getByText(/below the ridge/)).toBeHidden();
    await write(page);
  });

  await test.step('6: fly the draft, see it come home', async () => {
    await page.getByRole('link', { name: /^Rehearse/ }).click();
    await page.getByRole('button', { name: 'Fly it' }).click();
    await expect(page.getByText('Comes home', { exact: true })).toBeVisible({ timeout: 60_000 });
    await expect(page.getByText(/Circles above home/)).toBeVisible();
    await expect(page.getByText('lost: the board acts')).toBeVisible();
    await page.getByRole('slider', { name: 'Time in the flight' }).focus();
    await page.keyboard.press('ArrowLeft');
    await page.getByLabel('Wind at 10 m').fill('30');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Fly again.')).toBeVisible();
    await page.getByRole('button', { name: 'Fly again' }).click();
    await expect(page.getByText(/The wind is too strong/)).toBeVisible({ timeout: 60_000 });
    await page.getByLabel('Wind at 10 m').fill('0');
    await page.keyboard.press('Enter');
    await page.getByLabel('Link lost after').fill('1400');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Fly again' }).click();
    await page.getByRole('button', { name: 'Stop the flight' }).click();
    await expect(page.getByText(/Stopped after/)).toBeVisible();
  });

  await test.step('7: track, craft file and TOML leave as files; the craft opens again; a reload loses nothing', async () => {
    const track = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save track' }).click();
    expect(readFileSync(await (await track).path(), 'utf8')).toContain('<gpx version="1.1"');
    await page.getByRole('button', { name: /Turnstone 1600/ }).click();
    const saved = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: 'Save craft to a file' }).click();
    const path = await (await saved).path();
    const file = JSON.parse(readFileSync(path, 'utf8')) as {
      settings: Record<string, unknown>;
      proofs: unknown[];
    };
    expect(file.settings['return.height']).toBe(405);
    expect(file.proofs.length).toBeGreaterThanOrEqual(15);
    await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
    await page.getByRole('button', { name: /Turnstone 1600/ }).click();
    await page.getByRole('menuitem', { name: 'Copy settings as TOML' }).click();
    await expect(page.getByText('Settings copied as TOML')).toBeVisible();
    expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('return.height = 405 # m');

    await page.goto('/return/way-home');
    await page.getByLabel('Circle').or(page.getByLabel('Loiter radius')).first().fill('120');
    await page.keyboard.press('Enter');
    await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
    await page.waitForTimeout(300);
    await page.reload();
    await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
    await expect(page.getByRole('link', { name: /^Steer, proven/ })).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
    await hands.plugIn();
    await expect(
      page.getByText('On the cable now').or(page.getByText('Fell F7, Pfad 3.2')).first(),
    ).toBeVisible({
      timeout: 60_000,
    });
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');

    await page.getByLabel('Craft file').setInputFiles({
      name: 'again.wanderweg.json',
      mimeType: 'application/json',
      buffer: readFileSync(path),
    });
    await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
    // Another board might hang on the cable now, but what was seen on this craft is in its file.
    await page.getByRole('link', { name: /^Steer/ }).click();
    await expect(page.getByRole('link', { name: /Which one moved/ })).toContainText('proven');
    await expect(page.getByRole('link', { name: /Does it oppose/ })).toContainText('proven');
  });

  expect(faults).toEqual([]);
}
