import { windAtHeight } from '#core/flight/wind.ts';
import type { RehearsalResult } from '#core/formats/rehearsalResult.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import { DEG } from '#core/math/scalar.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import type { LastSeen } from '#core/search/lastSeen.ts';
import type { Home } from '#core/site/site.ts';
import { live, recent } from '../../../live/telemetry.ts';

/** What is known of a craft at last, from whoever knows it. */

/** Climb is told by how the height went over so long, s. */
const CLIMB_OVER_S = 4;
const USUAL_HEIGHT_M = 100;
const USUAL_ACCURACY_M = 30;
/** A rehearsal knows the place truly; a receiver would be so far off, m. */
const RECEIVER_M = 3;

const windOf = ({ wind }: Scenario) => ({ windFromRad: wind.fromDeg * DEG, windMps: wind.speedMps });

/** From the board that is connected, over a cable or a link; null where it has no place. */
export function fromBoard(scenario: Scenario, home: Home): LastSeen | null {
  const [navigation, estimates, charge, status] = [
    live('navigation'),
    live('estimates'),
    live('charge'),
    live('status'),
  ];
  if (!navigation?.hasFix) return null;
  const heights = recent('navigation', CLIMB_OVER_S);
  const [first, last] = [heights[0], heights.at(-1)];
  const dt = first && last ? last.atS - first.atS : 0;
  const felt = estimates && estimates.wind.health !== 'lost' ? estimates.wind : null;
  const above = Math.max(10, navigation.height - home.heightM);
  return {
    ...{ lat: navigation.latitude, lon: navigation.longitude, heightM: navigation.height },
    accuracyM: Math.min(2000, Math.max(0.5, estimates?.position.accuracy ?? USUAL_ACCURACY_M)),
    ...{ courseRad: navigation.course, speedMps: navigation.groundSpeed },
    climbMps: dt > 0.5 ? (last!.value.height - first!.value.height) / dt : 0,
    // What it has felt of the wind up there, else what the day is said to be like.
    ...(felt
      ? {
          windFromRad: Math.atan2(-felt.east, -felt.north),
          windMps: Math.hypot(felt.north, felt.east) / windAtHeight(1, above),
        }
      : windOf(scenario)),
    returning: status?.mode === 'return',
    ...(charge?.leftMah != null && charge.leftMah + (live('power')?.usedMah ?? 0) > 0
      ? { batteryShare: charge.leftMah / (charge.leftMah + (live('power')?.usedMah ?? 0)) }
      : {}),
  };
}

/** From a rehearsal, where its link was lost, or where it ended. */
export function fromRehearsal(
  flown: RehearsalResult,
  scenario: Scenario,
): { readonly seen: LastSeen; readonly by: string } {
  const noticed = flown.lostLink.find((s) => s.state === 'noticed');
  const i = Math.max(
    1,
    flown.track.findIndex((p) => p.atS >= (noticed?.atS ?? flown.seconds)),
  );
  const [before, p] = [flown.track[i - 1]!, flown.track[i] ?? flown.track.at(-1)!];
  const dt = Math.max(0.1, p.atS - before.atS);
  const north = northOf(before.lat, p.lat);
  const east = eastOf(before.lat, before.lon, p.lon);
  return {
    by: noticed ? 'the rehearsal, where its link was lost' : 'the end of the rehearsal',
    seen: {
      ...{ lat: p.lat, lon: p.lon, heightM: p.heightM, accuracyM: RECEIVER_M, speedMps: p.groundspeedMps },
      ...{ courseRad: Math.atan2(east, north), climbMps: (p.heightM - before.heightM) / dt },
      ...{ returning: p.mode === 'return', ...windOf(scenario) },
    },
  };
}

export const TYPED = 'what is typed here';

/** A beginning for what is typed: above home, going nowhere. */
export const toBeTyped = (scenario: Scenario, home: Home): LastSeen => ({
  ...{ lat: home.lat, lon: home.lon, heightM: home.heightM + USUAL_HEIGHT_M, accuracyM: USUAL_ACCURACY_M },
  ...{ courseRad: 0, speedMps: 0, climbMps: 0, returning: false, ...windOf(scenario) },
});
