import type { CraftFile } from '#core/formats/craftFile.ts';
import { DEG } from '#core/math/scalar.ts';
import type { ReachCircumstances } from '#core/reach/homeMarch.ts';
import { limitNames, limitWords, reachPlace } from '#core/reach/place.ts';
import { reachGeoJson } from '#core/reach/reachGeoJson.ts';
import { homeMarch, REACH_M, reachMap } from '#core/reach/reachMap.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { GROUND_UNKNOWN, type Site } from '#core/site/site.ts';
import { formatQuantity } from '#core/units/units.ts';
import { BadInput } from './input.ts';
import { complain, say } from './output.ts';

/** Where nothing else is said: an easy day, three quarters of the charge, a fifth to be left, over 120 m. */
const USUAL = { wind: '5@230', battery: '75%', reserve: '20%', height: '120' };
/** It is to come home from everywhere so near, m; nearer than this nobody asks. */
const WITHIN_M = 2000;
const NEAREST_M = 200;
const CELL_M = 100;
const BEARINGS = 16;

export interface ReachOptions {
  readonly wind?: string | undefined;
  readonly battery?: string | undefined;
  readonly reserve?: string | undefined;
  readonly height?: string | undefined;
}

/** A share as people write it: 60% or 0.6. */
function shareOf(name: string, text: string, least: number): number {
  const told = /^(\d+(?:\.\d+)?)\s*(%?)$/.exec(text.trim());
  const share = told ? Number(told[1]) / (told[2] === '%' ? 100 : 1) : Number.NaN;
  if (!(share >= least && share <= 1))
    throw new BadInput(`--${name} ${text} is no share from ${100 * least} % to 100 %. Nothing was done.`);
  return share;
}

/** The wind of the command line: speed at 10 m above ground and where it comes from, as 8@230. */
export function windOf(text: string = USUAL.wind): ReachCircumstances['wind'] {
  const told = /^(\d+(?:\.\d+)?)@(\d+(?:\.\d+)?)$/.exec(text);
  const [speedMps, fromDeg] = told ? [Number(told[1]), Number(told[2])] : [Number.NaN, Number.NaN];
  if (!(speedMps <= 40 && fromDeg <= 360))
    throw new BadInput(
      `--wind ${text} is not understood: write the speed in m/s at 10 m above ground up to 40 and where it comes from, as 8@230. Nothing was done.`,
    );
  return { speedMps, fromDeg, gustMps: Math.min(10, 0.2 * speedMps) };
}

function circumstancesOf(o: ReachOptions): ReachCircumstances {
  const heightM = Number(o.height ?? USUAL.height);
  if (!(heightM >= 20 && heightM <= 1500))
    throw new BadInput(`--height ${o.height} is no height above home from 20 to 1500 m. Nothing was done.`);
  return {
    wind: windOf(o.wind),
    batteryShare: shareOf('battery', o.battery ?? USUAL.battery, 0.02),
    reserveShare: shareOf('reserve', o.reserve ?? USUAL.reserve, 0),
    heightM,
  };
}

/** From where a craft's drafted return works; exit code 1 where it does not from everywhere within two kilometres. */
export function showReach(
  craft: CraftFile,
  values: Values,
  site: Site,
  options: ReachOptions,
  json: boolean,
): number {
  const circumstances = circumstancesOf(options);
  const { airframe } = craft;
  const march = homeMarch({ airframe, values, site, circumstances, fences: craft.plan?.fences });
  const map = reachMap(march, CELL_M);
  const returns = settingsOf(values).choice('lost.action') === 'return';
  const near = reachMap(march, CELL_M, WITHIN_M);
  const half = (near.side - 1) / 2;
  const everywhere = Array.from(near.margins).every((margin, at) => {
    const r = CELL_M * Math.hypot((at % near.side) - half, Math.floor(at / near.side) - half);
    return margin >= 0 || r > WITHIN_M || r < NEAREST_M;
  });
  if (json) say(`${JSON.stringify(reachGeoJson(map, march, site.home, circumstances))}\n`);
  else {
    const { wind, batteryShare, reserveShare } = circumstances;
    say(
      `With ${Math.round(100 * batteryShare)} % of the battery where the link is lost, ${Math.round(100 * reserveShare)} % to be left and a wind of ${wind.speedMps} m/s from ${wind.fromDeg}°, it comes home from ${Math.round(100 * map.share)} % of ${(2 * REACH_M) / 1000} by ${(2 * REACH_M) / 1000} km.\n`,
    );
    for (let k = 0; k < BEARINGS; k++) {
      const bearing = (360 / BEARINGS) * k;
      const [e, n] = [Math.sin(bearing * DEG), Math.cos(bearing * DEG)];
      let far = NEAREST_M;
      while (far < REACH_M && march.from(n * far, e * far) >= 0) far += CELL_M;
      const told = `  ${bearing.toFixed(1).padStart(5)}°  `;
      if (far >= REACH_M) say(`${told}farther than ${formatQuantity(REACH_M, 'm', 'metric', 0)}\n`);
      else {
        const place = reachPlace(march, e * far, n * far);
        say(
          `${told}${formatQuantity(far - CELL_M, 'm', 'metric', 0)}, then ${limitNames[place.limit].name}: ${limitWords(place, 'metric')}\n`,
        );
      }
    }
  }
  if (!site.terrain.known) complain(`${GROUND_UNKNOWN}\n`);
  if (!returns) complain('When the link is lost it is not set to return home: this is how it would be.\n');
  return returns && everywhere ? 0 : 1;
}
