import { expect, test } from '@playwright/test';
import { goTo, open, plugIn, write } from './helpers.ts';
import { byKeys as by } from './people.ts';

/** Rows of a mix of one's own, by keys alone: made, judged, written, taken out. */

test.use({ actionTimeout: 20_000 });

test('rows are added and judged, written to the board, and taken out again', async ({ page }) => {
  test.setTimeout(180_000);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await goTo(page, '/steer/mixing');
  const own = page.getByRole('region', { name: 'Rows of your own' });
  const drawn = page.getByRole('img', { name: /roll right to left aileron/ });
  await test.step('a mix that people make comes as rows, and is drawn', async () => {
    await by.choose(own.getByLabel('A mix that people make'), 'crow: ailerons up with the flaps');
    await by.press(own.getByRole('button', { name: 'Add these rows' }));
    await expect(own.getByRole('listitem')).toHaveCount(2);
    await expect(drawn).toHaveAccessibleName(/flaps to left aileron −0\.60/);
  });
  await test.step('a row that works against the ailerons is said, with what it takes away', async () => {
    await by.choose(own.getByLabel('Output of a new row'), '3');
    await by.press(own.getByRole('button', { name: 'Add it' }));
    await by.typeIn(own.getByRole('textbox', { name: 'Mix row 3, weight' }), '-0.9');
    await expect(page.getByRole('link', { name: /^Mixing/ })).toContainText('1 finding');
    await by.press(own.getByRole('listitem', { name: 'Row 3' }).getByRole('button', { name: 'Take it out' }));
    await expect(page.getByRole('link', { name: /^Mixing/ })).not.toContainText('finding');
  });
  await test.step('a free output follows a switch; the board has it', async () => {
    await by.choose(own.getByLabel('Output of a new row'), '7');
    await by.press(own.getByRole('button', { name: 'Add it' }));
    const row = own.getByRole('listitem', { name: 'Row 3' });
    await by.choose(row.getByRole('combobox', { name: 'Mix row 3, source' }), 'always');
    await by.typeIn(row.getByRole('textbox', { name: 'Mix row 3, condition' }), '7');
    await expect(drawn).toHaveAccessibleName(/always to output 7/);
    await write(page);
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
  });
  await test.step('what is no weight is refused where it is typed', async () => {
    await own.getByRole('textbox', { name: 'Mix row 1, weight' }).fill('7');
    await expect(own.getByRole('alert')).toContainText('goes from -2 to 2');
    await page.keyboard.press('Escape');
    await expect(page.getByTestId('tray-count')).toHaveText('No edits wait');
  });
  expect(faults).toEqual([]);
});
