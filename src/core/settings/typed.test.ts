import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { WRITTEN_VERSION } from '#firmware/versions.ts';
import { settingTypes } from '../../testing/settingTypes.ts';
import { settingOf, settingsOf } from './typed.ts';

const values = pfadCatalogue.defaults();

describe('settings that the compiler knows', () => {
  it('are those of the catalogue as it is', () => {
    const written = readFileSync('src/core/settings/pfadSettings.ts', 'utf8');
    expect(written).toBe(settingTypes(pfadCatalogue, WRITTEN_VERSION));
  });

  it('have the types that the catalogue gives them, families of numbered ones among them', () => {
    const s = settingsOf(values);
    const height: number = s.number('return.height');
    const reversed: boolean = s.flag(`out.${3}.reversed`);
    const action: 'nothing' | 'cut' | 'glide' | 'return' = s.choice('lost.action');
    expect([typeof height, typeof reversed, typeof action]).toEqual(['number', 'boolean', 'string']);
    expect(settingOf({}, 'return.height')).toBeUndefined();
  });

  it('refuse a wrong key or type before anything runs', () => {
    const s = settingsOf(values);
    // @ts-expect-error there is no such setting
    expect(s.number('return.hight')).toBeUndefined();
    // @ts-expect-error it is a choice, not a number
    expect(s.number('lost.action')).toBe(values['lost.action']);
    // @ts-expect-error it is a number, not a flag
    expect(s.flag('out.1.low')).toBe(values['out.1.low']);
    // @ts-expect-error outputs are numbered
    expect(settingOf(values, 'out.one.low')).toBeUndefined();
  });
});
