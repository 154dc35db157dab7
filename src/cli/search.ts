import { groundAbout } from '#core/flight/terrain.ts';
import { lastsS } from '#core/flown/flown.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { endings, endingWords } from '#core/search/endings.ts';
import { fallingCraft } from '#core/search/fallingCraft.ts';
import { flyEndings, likelihoodOf } from '#core/search/likelihood.ts';
import { searchGeoJson } from '#core/search/searchFiles.ts';
import { seenAtEnd } from '#core/search/seenAtEnd.ts';
import { searchWalk } from '#core/search/walk.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { formatBearing } from '#core/units/units.ts';
import { settingsOfFlight } from '#firmware/releases.ts';
import { flownIn } from './flownLog.ts';
import { BadInput } from './input.ts';
import { say } from './output.ts';

const FLIGHTS = 6000;
const TOLD_STEPS = 8;

/** Where a craft may lie after the last that a log tells, and the walk that finds it soonest. Told as GeoJSON with `json`. */
export function showSearch(
  file: string,
  craft: CraftFile,
  values: Values,
  site: Site,
  json: boolean,
): number {
  const { flown: flight } = flownIn(file, site.home);
  const seen = seenAtEnd(flight, craft.airframe.battery.capacityMah);
  if (!seen)
    throw new BadInput(
      `${file} does not tell where the craft was: it holds no moment of its place. Nothing was computed.`,
    );
  // By what it was flown, where the log tells it.
  const flown = settingsOfFlight({ firmware: flight.firmware, changed: flight.settings }) ?? values;
  const world = {
    craft: fallingCraft(craft.airframe, flown),
    seen,
    ground: groundAbout(site.terrain, site.home),
    home: site.home,
  };
  const map = likelihoodOf(flyEndings(world, FLIGHTS, 1), world);
  const walk = searchWalk(map, northOf(seen.lat, site.home.lat), eastOf(seen.lat, seen.lon, site.home.lon));
  if (json) {
    say(`${JSON.stringify(searchGeoJson(map, walk, seen))}\n`);
    return 0;
  }
  say(
    `Last seen at ${seen.lat.toFixed(5)}, ${seen.lon.toFixed(5)}, ${seen.heightM.toFixed(0)} m above the sea, ${seen.speedMps.toFixed(0)} m/s to ${formatBearing(seen.courseRad)}, ${lastsS(flight).toFixed(0)} s into it.\n`,
  );
  for (const e of endings)
    if (map.shares[e] >= 0.01)
      say(`  ${(100 * map.shares[e]).toFixed(0).padStart(3)} %  ${endingWords[e]}\n`);
  say(
    `${((map.order.length * map.cellM ** 2) / 10_000).toFixed(0)} ha hold nine tenths of the chance. From home:\n`,
  );
  for (const [i, s] of walk.slice(0, TOLD_STEPS).entries())
    say(
      `  ${String(i + 1).padStart(2)}. ${s.distanceM.toFixed(0).padStart(5)} m at ${formatBearing(s.bearingRad)}, square of ${s.sideM.toFixed(0)} m: found by then in ${(100 * s.found).toFixed(0)} %\n`,
    );
  return 0;
}
