import { expect, type Page, test } from '@playwright/test';
import { bench, goTo, open, openBench, plugIn, tiltByKeys } from './helpers.ts';
import { byKeys as by } from './people.ts';

/** Ready to arm: blockers lead to their cure, the switch is tried in every way, throws are felt and flown. */

test.use({ actionTimeout: 20_000 });

const tries = (page: Page) => page.getByRole('region', { name: 'Tries of the arming switch' });
const tried = (page: Page, name: string) => tries(page).getByRole('listitem').filter({ hasText: name });
const blocking = (page: Page) => page.getByRole('region', { name: 'In the way of arming' });

async function tryOn(page: Page, ms = 1600): Promise<void> {
  await bench(page, 'Arm', true);
  await page.waitForTimeout(ms);
  await bench(page, 'Arm', false);
  await page.waitForTimeout(400);
}

test('the arming switch is tried in peace and where it must not arm; throws are felt and flown', async ({
  page,
}) => {
  test.setTimeout(300_000);
  const faults = await open(page);
  await page.getByLabel('Craft file').setInputFiles('demo/turnstone.wanderweg.json');
  await expect(page.getByText('Turnstone 1600 is open.')).toBeVisible();
  await plugIn(page);
  await goTo(page, '/steer/ready-to-arm');

  await test.step('what is in the way is said with its cure, and leads there', async () => {
    await expect(blocking(page)).toContainText('The flight battery is not in');
    await expect(blocking(page)).toContainText('No position fix');
    const fix = blocking(page).getByRole('listitem').filter({ hasText: 'No position fix' });
    await by.press(fix.getByRole('button', { name: 'Go there' }));
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Position');
    await goTo(page, '/steer/ready-to-arm');
    await bench(page, 'Battery', true);
    await bench(page, 'Craft is', true);
  });
  await test.step('with the throttle up, tilted and moving it is refused', async () => {
    const throttle = page.getByRole('slider', { name: /^Left stick/ });
    await throttle.focus();
    for (let k = 0; k < 10; k++) await page.keyboard.press('w');
    await tryOn(page);
    await expect(tried(page, 'Throttle up')).toContainText('it did not arm');
    await throttle.focus();
    for (let k = 0; k < 11; k++) await page.keyboard.press('s');
    await tiltByKeys(page, 80, 0);
    await page.waitForTimeout(1200);
    await tryOn(page);
    await expect(tried(page, 'Tilted')).toContainText('it did not arm');
    await tiltByKeys(page, 0, 0);
    await page.getByLabel('Turned').selectOption('round');
    await page.waitForTimeout(1000);
    await tryOn(page);
    await expect(tried(page, 'Moving')).toContainText('it did not arm');
    await page.getByLabel('Turned').selectOption('not');
  });
  await test.step('a switch left on does not arm once the way is clear', async () => {
    await bench(page, 'Craft is', false);
    await page.waitForTimeout(1500);
    await bench(page, 'Arm', true);
    await bench(page, 'Craft is', true);
    await expect(blocking(page)).toContainText('put on while something stood in the way', {
      timeout: 40_000,
    });
    await page.waitForTimeout(1000);
    await expect(tries(page)).toContainText('The craft is disarmed.');
    await bench(page, 'Arm', false);
  });
  await test.step('in peace it arms, and disarms with the switch', async () => {
    await expect(blocking(page)).toContainText('Nothing. The switch arms it now.', { timeout: 60_000 });
    await bench(page, 'Arm', true);
    await expect(tries(page)).toContainText('The craft is armed.');
    await bench(page, 'Arm', false);
    await expect(tried(page, 'In peace')).toContainText('it armed, and disarmed');
  });
  await test.step('on at the start it does not arm', async () => {
    await bench(page, 'Arm', true);
    await bench(page, 'USB cable', false);
    await bench(page, 'Battery', false);
    await page.waitForTimeout(500);
    await plugIn(page, true);
    await expect(tried(page, 'On at the start')).toContainText('it did not arm', { timeout: 30_000 });
    await expect(page.getByRole('link', { name: /^Ready to arm/ })).toContainText('proven');
    await bench(page, 'Arm', false);
  });
  await test.step('a swing is felt as a throw; a weak one is not', async () => {
    const felt = page.getByRole('region', { name: 'The throw in the hand' });
    await openBench(page);
    await page.getByRole('button', { name: 'Tools', exact: true }).click();
    await page.getByRole('button', { name: 'firmly', exact: true }).click();
    await expect(felt).toContainText('That is a throw');
  });
  await test.step('bad throws are flown; settings changed since are said', async () => {
    await by.press(page.getByRole('button', { name: 'Throw it' }));
    const flown = page.getByRole('region', { name: 'Bad throws, flown' });
    await expect(flown.getByRole('listitem')).toHaveCount(5, { timeout: 60_000 });
    await expect(flown.getByRole('listitem').filter({ hasText: 'as it should be' })).toContainText('flew on');
    await by.typeIn(page.getByRole('textbox', { name: 'Motor after' }), '0.4');
    await expect(flown).toContainText('Settings were changed since these were flown');
  });
  expect(faults).toEqual([]);
});
