import { fieldSettings } from '../../settings/fieldSettings.ts';
import { settingOf } from '../../settings/typed.ts';
import { finding, num, type Rule } from '../rule.ts';

/** So much of a declination that is off turns every course with it, deg. */
const DECLINATION_OFF = 3;
/** So much of the field's strength off, the compass is taken for a disturbed one, uT. */
const STRENGTH_OFF = 5;

/** A compass points where the field of the place says, which its settings have to know. */
const compassHere: Rule = ({ values, site }) => {
  if (!site || settingOf(values, 'compass.fitted') !== true) return [];
  const wanted = fieldSettings(site);
  const off = Math.abs(num(values, 'compass.declination') - wanted['compass.declination']!);
  const weak = Math.abs(num(values, 'compass.strength') - wanted['compass.strength']!);
  if (off <= DECLINATION_OFF && weak <= STRENGTH_OFF) return [];
  return [
    finding(
      'compass-elsewhere',
      'caution',
      'site',
      'The compass is set for another place',
      `Here north of the field lies ${wanted['compass.declination']}° off true north at ${wanted['compass.strength']} µT; it is set to ${num(values, 'compass.declination')}° at ${num(values, 'compass.strength')} µT. Every heading would be off, or the compass not believed.`,
      ['compass.declination', 'compass.strength'],
      { label: 'Set the compass to this place', edits: wanted },
    ),
  ];
};

export const siteRules: readonly Rule[] = [compassHere];
