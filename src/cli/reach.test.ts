import { describe, expect, it } from 'vitest';
import { heardCommandLine } from '../testing/heard.ts';
import { main } from './main.ts';

const heard = heardCommandLine();

const CRAFT = 'demo/turnstone.wanderweg.json';

describe('wanderweg reach', () => {
  it('tells the border by bearings, and ends with 0 where it comes home from all that is near', async () => {
    expect(await main(['reach', CRAFT, '--wind', '3@230', '--battery', '95%'])).toBe(0);
    expect(heard.said).toMatch(/With 95 % of the battery .* it comes home from \d+ %/);
    expect(heard.said.split('\n').length).toBeGreaterThan(16);
  });

  it('gives GeoJSON with reasons, and ends with 1 where it does not', async () => {
    expect(await main(['reach', CRAFT, '--wind', '8@230', '--battery', '0.5', '--json'])).toBe(1);
    const json = JSON.parse(heard.said);
    expect(json.type).toBe('FeatureCollection');
    expect(json.features[0].properties).toMatchObject({ batteryShare: 0.5, cellM: 100 });
  });

  it('refuses what it cannot read with a sentence and 2', async () => {
    for (const [option, value] of [
      ['--wind', 'breezy'],
      ['--wind', '60@10'],
      ['--wind', '8@400'],
      ['--battery', '140%'],
      ['--battery', '0%'],
      ['--reserve', 'some'],
      ['--height', '3'],
    ] as const) {
      heard.complained = '';
      expect(await main(['reach', CRAFT, option, value])).toBe(2);
      expect(heard.complained).toContain('Nothing was done.');
    }
    expect(await main(['reach', 'demo/none.json'])).toBe(2);
    expect(await main(['fails', CRAFT, '--wind', 'x'])).toBe(2);
    expect(await main(['reach'])).toBe(2);
  });
});
