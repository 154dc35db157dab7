import { expect, type Page, test } from '@playwright/test';
import { bench, goTo, open, plugIn, write } from './helpers.ts';
import { byKeys as by } from './people.ts';

/** Throws, by keys alone: read off a ruler, made flush by the clevis, set in degrees. */

const reading = (page: Page) => page.getByRole('region', { name: 'Reading' });
const readings = (page: Page) => page.getByRole('list', { name: 'Readings' });
const hold = (page: Page) => page.getByRole('button', { name: /^Hold to bring it/ });

/** Brings the surface somewhere, and holds it there. @returns what the ruler says meanwhile */
async function bring(page: Page, where: string, us: number): Promise<string> {
  await page.getByRole('radio', { name: where, exact: true }).click();
  await hold(page).focus();
  for (let tries = 0; tries < 3; tries++) {
    await page.keyboard.down(' ');
    const stood = reading(page).getByText(`At ${us} µs it stood`);
    const stopped = page.getByText('The board moves nothing now');
    await expect(stood.or(stopped)).toBeVisible();
    // It may have stood there before: it takes its time from one end to the other.
    await page.waitForTimeout(2800);
    const read = (await page.getByTestId('ruler').textContent())!;
    const held = !(await stopped.isVisible());
    await page.keyboard.up(' ');
    if (held) return read;
  }
  throw new Error('the page stalls');
}

/** Says what was read. */
async function say(page: Page, read: string): Promise<void> {
  const [, size, way] = /([\d.]+) mm ?(\w*)/.exec(read)!;
  await by.typeIn(page.getByRole('textbox', { name: 'Trailing edge from flush' }), size!);
  await by.press(reading(page).getByRole('button', { name: way === '' ? 'flush' : way!, exact: true }));
}

test('an aileron that hangs is measured, made flush at its clevis, and its ends are set in degrees', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const faults = await open(page);
  await plugIn(page, true);
  await goTo(page, '/steer/throws');
  await page.getByRole('button', { name: 'Ruler', exact: true }).click();
  await by.press(page.getByLabel('The propellers are off'));
  if (!(await page.getByLabel('The propellers are off').isChecked())) await page.keyboard.press(' ');
  await expect(hold(page)).toBeEnabled();

  await test.step('two readings tie pulses to degrees, and say how it hangs', async () => {
    await say(page, await bring(page, 'short-pulse end', 1000));
    await expect(readings(page)).toContainText('1000 µs');
    await say(page, await bring(page, 'long-pulse end', 2000));
    await expect(page.getByText('Measured by 2 readings.')).toBeVisible();
    await expect(page.getByText(/With the servo at its middle it stands (7|8)(\.\d)?° down/)).toBeVisible();
    await expect(page.getByRole('link', { name: /^Throws/ })).toContainText('1 finding');
  });

  await test.step('a cable pulled while it is held loses nothing that was read', async () => {
    await page.getByRole('radio', { name: 'to and fro' }).click();
    await hold(page).focus();
    await page.keyboard.down(' ');
    await page.waitForTimeout(600);
    await bench(page, 'USB cable', false);
    await page.keyboard.up(' ');
    await expect(page.getByText('Measured by 2 readings.')).toBeVisible();
    await expect(hold(page)).toBeDisabled();
    await plugIn(page, true);
    await expect(page.getByLabel('The propellers are off')).not.toBeChecked();
    await page.getByLabel('The propellers are off').click();
    await expect(hold(page)).toBeEnabled();
  });

  await test.step('the clevis is turned as often as it says; what was read before holds no longer', async () => {
    const told = (await page.getByText(/Turn the clevis out by \d+ half turns/).textContent())!;
    const halves = Number(/by (\d+) half/.exec(told)![1]);
    expect(halves).toBeGreaterThan(10);
    for (let k = 0; k < halves; k++) await page.getByRole('button', { name: 'half a turn out' }).click();
    await expect(page.getByText(/was changed since it was measured/)).toBeVisible();
    await expect(page.getByText('USB and battery')).toBeVisible();
    await say(page, await bring(page, 'short-pulse end', 1000));
    await say(page, await bring(page, 'long-pulse end', 2000));
    await expect(page.getByText(/flush to within half a turn|by 1 half turn|by 2 half turns/)).toBeVisible();
    await expect(page.getByRole('link', { name: /^Throws/ })).not.toContainText('finding');
  });

  await test.step('read at its middle from both sides it shows its play', async () => {
    await say(page, await bring(page, 'middle, come from shorter pulses', 1500));
    await say(page, await bring(page, 'middle, come from longer pulses', 1500));
    await expect(page.getByText(/^Read from both sides: (no play|0\.\d°)/)).toBeVisible();
    await expect(readings(page).getByRole('listitem')).toHaveCount(5);
  });

  await test.step('its ends are given in degrees; what it cannot do is refused in a sentence', async () => {
    await by.typeIn(page.getByRole('textbox', { name: 'left aileron up' }), '14');
    await by.typeIn(page.getByRole('textbox', { name: 'left aileron down' }), '10');
    await expect(page.getByTestId('tray-count')).toHaveText('2 edits wait');
    await write(page);
    const up = await bring(page, 'short-pulse end', Number(await pulseOf(page, 'low')));
    const down = await bring(page, 'long-pulse end', Number(await pulseOf(page, 'high')));
    // 51.2 mm behind the hinge: 2 c sin(a/2).
    expect(Math.abs(Number.parseFloat(up) - 12.5)).toBeLessThan(1);
    expect(up).toContain('up');
    expect(Math.abs(Number.parseFloat(down) - 9)).toBeLessThan(1);
    expect(down).toContain('down');
    const ends = page.getByRole('slider', { name: /^End of the/ });
    await ends.first().focus();
    await page.keyboard.press('ArrowUp');
    await expect(page.getByTestId('tray-count')).toHaveText('1 edit waits');
    await expect(ends.first()).toHaveAttribute('aria-valuetext', /^14\.5° up/);
    await page.keyboard.press('ArrowDown');
    await expect(page.getByTestId('tray-count')).toHaveText(/No edits wait|1 edit waits/);
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('button', { name: 'Undo' }).click();
    await by.typeIn(page.getByRole('textbox', { name: 'left aileron down' }), '75');
    await expect(page.getByText(/The linkage does not go so far|the board refuses/)).toBeVisible();
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
  });
  expect(faults).toEqual([]);
});

/** The end that the station sets, us, as its setting says. */
async function pulseOf(page: Page, end: 'low' | 'high'): Promise<string> {
  await page.keyboard.press('Control+k');
  await page.locator('input[role=combobox]').fill(`output 3 ${end}`);
  const option = page.locator('[role=option][aria-selected=true]');
  await expect(option).toContainText(`out.3.${end}`);
  const text = (await option.textContent())!;
  await page.keyboard.press('Escape');
  return /(\d+) µs/.exec(text)![1]!;
}
