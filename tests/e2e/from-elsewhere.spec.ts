import { expect, test } from '@playwright/test';
import { goTo, open, plugIn, write } from './helpers.ts';

test('a set of 2.8’s scale is carried over by meaning, another scale is described, kept and there after a reload', async ({
  page,
}) => {
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await goTo(page, '/refine/from-elsewhere');
  const main = page.getByRole('main');
  await expect(main.getByRole('combobox', { name: 'Written for' })).toHaveValue('Pfad 2.8');
  const numbers = page.getByRole('region', { name: 'Its numbers' });
  await numbers.getByRole('textbox', { name: 'P as it is written there' }).fill('0.8');
  await numbers.getByRole('textbox', { name: 'I as it is written there' }).fill('1.5');
  await numbers.getByRole('textbox', { name: 'Feed-forward as it is written there' }).fill('2.5');
  await expect(numbers.getByText('÷ 500 µs of full command × 57.3 °/rad').first()).toBeVisible();
  await expect(numbers.getByRole('row', { name: /^P / })).toContainText('0.09167');
  // Nonsense is no number, and is not taken.
  await numbers.getByRole('textbox', { name: 'D as it is written there', exact: true }).fill('much');
  await expect(
    numbers.getByRole('textbox', { name: 'D as it is written there', exact: true }),
  ).toHaveAttribute('aria-invalid', 'true');
  await numbers.getByRole('button', { name: 'Take over 3 for roll' }).click();
  await write(page);
  await goTo(page, '/refine/answers');
  await expect(main.getByRole('textbox', { name: 'Roll P' })).toHaveValue('0.092');
  // One of its own.
  await goTo(page, '/refine/from-elsewhere');
  await main.getByRole('combobox', { name: 'Error' }).selectOption('a full stick');
  await expect(main.getByRole('combobox', { name: 'Written for' })).toHaveValue('a scale of its own');
  await main.getByRole('textbox', { name: 'kept as' }).fill('The old board');
  await main.getByRole('button', { name: 'Keep it' }).click();
  await expect(main.getByRole('combobox', { name: 'Written for' })).toHaveValue('The old board');
  await page.reload();
  await expect(page.getByRole('heading', { level: 1, name: 'From elsewhere' })).toBeVisible();
  await main.getByRole('combobox', { name: 'Written for' }).selectOption('The old board');
  await expect(main.getByRole('combobox', { name: 'Error' })).toHaveValue('share');
  await main.getByRole('button', { name: 'Let The old board go' }).click();
  await expect(main.getByRole('combobox', { name: 'Written for' })).toHaveValue('a scale of its own');
  expect(faults).toEqual([]);
});

test('gains are measured from a log, whatever scale they were written in', async ({ page }) => {
  await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await goTo(page, '/refine/from-elsewhere');
  const measured = page.getByRole('region', { name: 'Measured from a log' });
  const log = measured.getByLabel('Log of a loop');
  await log.setInputFiles({ name: 'no.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n1,2\n') });
  await expect(measured.getByRole('alert')).toContainText('Nothing was taken from it.');
  await log.setInputFiles({ name: 'loop.csv', mimeType: 'text/csv', buffer: Buffer.from(loopTable()) });
  await measured.getByRole('combobox', { name: 'Time', exact: true }).selectOption('clock');
  await measured.getByRole('combobox', { name: 'Rate asked for', exact: true }).selectOption('wish');
  await measured.getByRole('combobox', { name: 'Rate that came', exact: true }).selectOption('turn');
  await measured.getByRole('combobox', { name: 'Command given', exact: true }).selectOption('servo');
  await measured.getByRole('combobox', { name: 'Unit of Command given' }).selectOption('µs from its middle');
  await measured.getByRole('button', { name: 'Read it so' }).click();
  await expect(measured.getByRole('status')).toContainText(
    /^By 0:30 of loop\.csv at 200 samples a second: (99|100) % of what was given is explained/,
  );
  await measured.getByRole('button', { name: 'Take over what was measured' }).click();
  await goTo(page, '/refine/answers');
  await expect(page.getByRole('main').getByRole('textbox', { name: 'Roll P' })).toHaveValue(/^0\.(2|19|20)/);
});

/** A loop with P of 0.2 and feed-forward of 0.1, in degrees and microseconds. */
function loopTable(): string {
  const rows = ['clock,wish,turn,servo'];
  let [rate, wish] = [0, 0];
  for (let k = 0; k < 6000; k++) {
    if (k % 100 === 0) wish = 120 * Math.sin(1 + (k / 100) ** 2);
    const given = 0.1 * (wish / 57.2958) + 0.2 * ((wish - rate) / 57.2958);
    rows.push([(k / 200).toFixed(3), wish.toFixed(3), rate.toFixed(3), (500 * given).toFixed(3)].join());
    rate += (57.2958 * 40 * given - 10 * rate) / 200;
  }
  return `${rows.join('\n')}\n`;
}
