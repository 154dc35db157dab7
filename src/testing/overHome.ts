import { parseScenario, type Scenario } from '#core/formats/scenario.ts';
import { torvholm } from './demoCraft.ts';

/** A flight over Torvholm in a steady wind, out and back within sight. */
export function overHome(speedMps: number, fromDeg: number, gustMps: number): Scenario {
  const parsed = parseScenario(
    {
      seed: 4,
      home: torvholm.home,
      wind: { speedMps, fromDeg, gustMps },
      outbound: { bearingDeg: 50, distanceM: 500, heightM: 120 },
      limitS: 600,
    },
    torvholm,
  );
  if (!parsed.ok) throw new Error(parsed.why);
  return parsed.scenario;
}
