import type { Airframe } from '#core/airframe/airframe.ts';
import { interned } from '#core/airframe/interned.ts';
import { groundAbout } from '#core/flight/terrain.ts';
import type { Place } from '#core/navigation/earth.ts';
import { fallingCraft } from '#core/search/fallingCraft.ts';
import type { LastSeen } from '#core/search/lastSeen.ts';
import { flyEndings, type Likelihood, likelihoodOf } from '#core/search/likelihood.ts';
import { seenAtEnd } from '#core/search/seenAtEnd.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { openFlownFile } from './flown.ts';

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

/** What a board's log or a track knew last. @param about what a log's metres are counted from where it does not say so */
export async function openSeen(
  file: File,
  about: Place,
  capacityMah: number,
): Promise<LastSeen | { readonly refused: string }> {
  const opened = await openFlownFile(file, about);
  if (!opened.ok) return { refused: opened.why };
  return (
    seenAtEnd(opened.flown, capacityMah) ?? {
      refused: `${file.name} holds no moment of where the craft was. Nothing was taken.`,
    }
  );
}
