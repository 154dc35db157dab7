import { formatNumber, type UnitSystem } from './units.ts';

/**
 * Sentences of others in the units that a person likes: verdicts, decisions, reasons and findings are written in metric,
 * by the firmware and by whatever computes them, and are told so only to who reads metric.
 */

interface Told {
  readonly symbol: string;
  readonly factor: number;
}

const FT: Told = { symbol: 'ft', factor: 1 / 0.3048 };
const IN: Told = { symbol: 'in', factor: 1 / 25.4 };
const LB: Told = { symbol: 'lb', factor: 1 / 0.45359237 };

const tellings: Readonly<Record<Exclude<UnitSystem, 'metric'>, Readonly<Record<string, Told>>>> = {
  imperial: {
    'm/s': { symbol: 'mph', factor: 1 / 0.44704 },
    'km/h': { symbol: 'mph', factor: 1 / 1.609344 },
    km: { symbol: 'mi', factor: 1 / 1.609344 },
    m: FT,
    cm: { symbol: 'in', factor: 1 / 2.54 },
    mm: IN,
    'm²': { symbol: 'ft²', factor: 1 / 0.3048 ** 2 },
    kg: LB,
    g: { symbol: 'oz', factor: 1 / 28.349523125 },
  },
  aviation: {
    'm/s': { symbol: 'kt', factor: 3600 / 1852 },
    'km/h': { symbol: 'kt', factor: 1 / 1.852 },
    km: { symbol: 'NM', factor: 1 / 1.852 },
    m: FT,
  },
};

const NUMBER = String.raw`-?\d+(?:\.\d+)?`;
const QUANTITY = new RegExp(
  String.raw`(?<![\w.])(${NUMBER})((?: to | and |, |\/)(?=${NUMBER})(?:${NUMBER}))?( ?)(km\/h|m\/s|km|cm|mm|m²|m|kg|g)(?![\w/²^])`,
  'g',
);

/** As exact as it was said, and no more. */
function digitsOf(said: string, value: number): number {
  const decimals = said.split('.')[1]?.length ?? 0;
  if (decimals > 0) return Math.abs(value) >= 100 ? 0 : Math.max(1, decimals);
  return Math.abs(value) < 10 ? 1 : 0;
}

/** A text with its metric quantities told in another system; in metric only with the letter that a board may not have. */
export function retold(text: string, system: UnitSystem): string {
  const micro = text.replace(/(\d) us\b/g, '$1 µs');
  if (system === 'metric') return micro;
  const told = tellings[system];
  return micro.replace(
    QUANTITY,
    (all, first: string, second: string | undefined, space: string, unit: string) => {
      const to = told[unit];
      if (!to) return all;
      const tell = (number: string) => {
        const value = Number(number) * to.factor;
        return formatNumber(value, digitsOf(number, value));
      };
      const rest = second?.replace(new RegExp(NUMBER), tell) ?? '';
      return `${tell(first)}${rest}${space || ' '}${to.symbol}`;
    },
  );
}
