import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { atTheDrawer } from './drawer.ts';
import { answer, bench, closeBench, goTo, open, openBench, plugIn } from './helpers.ts';
import { learnSticks } from './theWalk.ts';

/** Steer on craft of every kind: what moved, sticks, what opposes a tilt, what a silent radio does. */

test.use({ actionTimeout: 20_000 });

interface Craft {
  readonly name: string;
  readonly airframe: {
    readonly motors: readonly { readonly id: string; readonly spin: string; readonly thrust: string }[];
  };
  readonly bench: {
    readonly pads: readonly {
      readonly output: number;
      readonly actuator: string;
      readonly direction: 1 | -1;
    }[];
  };
}

const sideways = (actuator: string) => actuator.endsWith('rudder') || actuator === 'tail-servo';

/** What a person sees of an output that is moved. */
function seen(craft: Craft, pad: Craft['bench']['pads'][number]): string {
  const motor = craft.airframe.motors.find((m) => m.id === pad.actuator);
  if (motor)
    return motor.thrust !== 'up'
      ? 'it turned'
      : motor.spin === 'clockwise'
        ? '↻ clockwise'
        : '↺ anticlockwise';
  const words = sideways(pad.actuator) ? ['left', 'right'] : ['down', 'up'];
  return words[pad.direction === 1 ? 0 : 1]!;
}

async function whichMoved(page: Page, craft: Craft): Promise<void> {
  await goTo(page, '/steer/which-moved');
  await page.getByLabel('The propellers are off').click();
  const outputs = await page.getByRole('list', { name: 'Outputs' }).getByRole('button').count();
  for (let n = 1; n <= outputs; n++) {
    const pad = craft.bench.pads.find((p) => p.output === n);
    await answer(page, n, pad ? pad.actuator.replaceAll('-', ' ') : null, pad ? seen(craft, pad) : '');
  }
  await expect(page.getByRole('link', { name: /Which one moved/ })).toContainText('proven');
}

async function opposes(page: Page, rotors: boolean, tilts: readonly string[]): Promise<void> {
  const hands = atTheDrawer(page);
  await goTo(page, '/steer/opposes');
  await openBench(page);
  if (!(await page.getByText(/^Tilt the craft by more/).isVisible())) await hands.switchToLevel();
  const list = page.getByRole('list', { name: 'Tilts to check' }).getByRole('listitem');
  await expect(list).toHaveCount(tilts.length);
  const side = rotors ? 'side' : 'wing';
  const by: Record<string, readonly [number, number]> = {
    [`Right ${side} down`]: [25, 0],
    [`Left ${side} down`]: [-25, 0],
    'Nose up': [0, 25],
    'Nose down': [0, -25],
  };
  for (const tilt of tilts) {
    await hands.tilt(0, 0);
    const angles = by[tilt];
    if (angles) await hands.tilt(...angles);
    else await hands.turn(tilt === 'Turning right' ? 1 : -1);
    await expect(page.getByText(`${tilt}.`)).toBeVisible();
    await page.getByRole('button', { name: /^(They do|It does)$/ }).click();
    await expect(page.getByText(`Kept: ${tilt.toLowerCase()}`)).toBeVisible();
    if (!angles) await hands.turn(0);
  }
  await hands.tilt(0, 0);
  await expect(page.getByRole('link', { name: /Does it oppose/ })).toContainText('proven');
}

async function silence(page: Page): Promise<void> {
  const hands = atTheDrawer(page);
  await goTo(page, '/steer/radio-silent');
  await hands.halfThrottle();
  await page.getByRole('button', { name: 'It is on, and still' }).click();
  await hands.transmitter(false);
  await page.getByRole('button', { name: 'It is off now' }).click();
  await expect(page.getByText(/the board notices/)).toBeVisible();
  await hands.transmitter(true);
}

const wingTilts = [
  'Right wing down',
  'Left wing down',
  'Nose up',
  'Nose down',
  'Turning right',
  'Turning left',
];
const rotorTilts = [
  'Right side down',
  'Left side down',
  'Nose up',
  'Nose down',
  'Turning right',
  'Turning left',
];

for (const [file, rotors, tilts] of [
  ['sandpiper', false, wingTilts],
  ['knot', false, wingTilts],
  ['ruff', true, rotorTilts],
  ['avocet', true, rotorTilts],
] as const)
  test(`${file} is steered: every output, stick, tilt, and the radio off`, async ({ page }) => {
    test.setTimeout(300_000);
    const faults = await open(page);
    const craft = JSON.parse(readFileSync(`demo/${file}.wanderweg.json`, 'utf8')) as Craft;
    await page.getByLabel('Craft file').setInputFiles(`demo/${file}.wanderweg.json`);
    await expect(page.getByText(`${craft.name} is open.`)).toBeVisible();
    await bench(page, 'Battery', true);
    await plugIn(page, true);
    await closeBench(page);
    await test.step('every output is asked', () => whichMoved(page, craft));
    await test.step('its sticks are learnt', async () => {
      await goTo(page, '/steer/sticks');
      await learnSticks(page, atTheDrawer(page));
    });
    await test.step('it opposes every tilt and turn', () => opposes(page, rotors, tilts));
    await test.step('its radio falls silent', () => silence(page));
    await test.step('motors, throws and mixing are of this craft', async () => {
      await closeBench(page);
      await goTo(page, '/steer/motors');
      await expect(page.getByRole('table').first().getByRole('row')).toHaveCount(
        craft.airframe.motors.length + 1,
      );
      await goTo(page, '/steer/throws');
      const surfaces = craft.bench.pads.filter((p) => !p.actuator.endsWith('motor'));
      await expect(page.getByRole('radiogroup', { name: 'Surface' }).getByRole('radio')).toHaveCount(
        surfaces.length,
      );
      await goTo(page, '/steer/mixing');
      await expect(page.getByText('What full commands do')).toBeVisible();
      if (rotors) await expect(page.getByRole('region', { name: 'Rotors and their arms' })).toBeVisible();
      await goTo(page, '/steer/ready-to-arm');
      await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ready to arm');
    });
    await expect(page.getByRole('link', { name: /^Steer, proven/ })).toBeVisible();
    expect(faults).toEqual([]);
  });
