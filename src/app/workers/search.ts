import type { Airframe } from '#core/airframe/airframe.ts';
import { interned } from '#core/airframe/interned.ts';
import { groundAbout } from '#core/flight/terrain.ts';
import { readFlightLog } from '#core/formats/flightLog.ts';
import type { Place } from '#core/navigation/earth.ts';
import { fallingCraft } from '#core/search/fallingCraft.ts';
import type { LastSeen } from '#core/search/lastSeen.ts';
import { flyEndings, type Likelihood, likelihoodOf } from '#core/search/likelihood.ts';
import { seenInLog } from '#core/search/seenInLog.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';

/** So many endings are flown for a map. */
const FLIGHTS = 6000;

/** Where a craft may lie, by endings that are flown from where it was last seen. Equal questions get equal maps. */
export function search(airframe: Airframe, values: Values, site: Site, seen: LastSeen): Likelihood {
  const world = {
    craft: fallingCraft(interned(airframe), values),
    seen,
    ground: groundAbout(site.terrain, site.home),
    home: site.home,
  };
  return likelihoodOf(flyEndings(world, FLIGHTS, 1), world);
}

const MOST_LOG_BYTES = 64_000_000;

/** What a board's log knew last. @param about what its metres are counted from where it does not say so */
export async function openSeen(
  file: File,
  about: Place,
  capacityMah: number,
): Promise<LastSeen | { readonly refused: string }> {
  if (file.size > MOST_LOG_BYTES)
    return {
      refused: `${file.name} has ${(file.size / 1e6).toFixed(0)} MB; a board’s log has less than ${MOST_LOG_BYTES / 1e6}.`,
    };
  const log = readFlightLog(new Uint8Array(await file.arrayBuffer()));
  if (!log) return { refused: `${file.name} is no flight log of a board.` };
  return (
    seenInLog(log, about, capacityMah) ?? { refused: `${file.name} holds no sample of where the craft was.` }
  );
}
