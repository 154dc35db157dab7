import { asPlanned } from '#core/findings/rules/routes.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { EMPTY_PLAN, type FlightPlan, isEmptyPlan, planFaults } from '#core/plan/plan.ts';
import { guessHeights, MAX_ROUTE_BYTES, planOfFile, readRoute, tooFar } from '#core/plan/routeFiles.ts';
import { type RouteProblem, routeProblems } from '#core/plan/routeProblems.ts';
import { type RouteAsked, routeWay } from '#core/plan/routeWay.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { GROUND_UNKNOWN, groundOf, type Site } from '#core/site/site.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { BadInput, readText } from './input.ts';
import { complain, say } from './output.ts';
import { windOf } from './reach.ts';

const RESERVE = 0.2;

/** The plan of a file, as it lies about a site's home. */
function planIn(file: string, site: Site): { plan: FlightPlan; why: string } {
  const read = readRoute(readText(file, MAX_ROUTE_BYTES));
  if (!read.ok) throw new BadInput(`${file}: ${read.why}`);
  const { meaning, why } = read.route.plan
    ? { meaning: 'sea' as const, why: '' }
    : guessHeights(read.route, site);
  const plan = planOfFile(read.route, meaning, site.home);
  const [fault] = planFaults(plan);
  if (fault) throw new BadInput(`${file}: ${fault} Nothing was done.`);
  if (isEmptyPlan(plan)) throw new BadInput(`${file} holds neither points nor areas. Nothing was done.`);
  const corners = plan.fences.flatMap((f) => ('corners' in f.area ? f.area.corners : [f.area]));
  const far = tooFar([...plan.points, ...corners], site.home);
  if (far) throw new BadInput(`${file}: ${far} Nothing was done.`);
  return { plan, why };
}

const askedOf = (
  craft: CraftFile,
  values: Values,
  site: Site,
  plan: FlightPlan,
  wind?: string,
): RouteAsked => ({
  ...{ airframe: craft.airframe, values, site, plan, wind: windOf(wind) },
  ...{ batteryShare: 1, reserveShare: RESERVE, linkM: craft.linkM ?? 0 },
});

/** What flying a craft's own route in thought shows; nothing where it has none. */
export function problemsOfRoute(
  craft: CraftFile,
  values: Values,
  site: Site,
  plan: FlightPlan = EMPTY_PLAN,
): RouteProblem[] {
  if (plan.points.length === 0) return [];
  const asked = askedOf(craft, values, site, plan);
  return routeProblems(asked, routeWay(asked), 'metric');
}

/** Flies a route in thought; exit code 1 where something stands in its way. */
export function checkRoute(
  craft: CraftFile,
  values: Values,
  site: Site,
  file: string,
  options: { readonly wind?: string | undefined },
  json: boolean,
): number {
  const { plan, why } = planIn(file, site);
  const asked = askedOf(craft, values, site, plan, options.wind);
  const way = plan.points.length > 0 ? routeWay(asked) : null;
  const ground = groundOf(site);
  const found = [
    ...asPlanned({ plan, airframe: craft.airframe, values, site, ground, catalogue: pfadCatalogue }),
    ...(way ? routeProblems(asked, way, 'metric') : []),
  ].map(({ id, severity, title, why: because }) => ({ id, severity, title, why: because }));
  if (json)
    say(
      `${JSON.stringify(
        {
          points: plan.points.length,
          fences: plan.fences.length,
          lengthM: way && Math.round(way.lengthM),
          seconds: way && Math.round(way.seconds),
          leftShare: way && Number.isFinite(way.leftShare) ? Number(way.leftShare.toFixed(3)) : null,
          arrivals: way?.arrivals.map((a) => ({
            seconds: Math.round(a.seconds),
            heightM: Math.round(a.heightM),
            share: Number(a.share.toFixed(3)),
          })),
          noReturn: way?.noReturn && {
            beforePoint: way.noReturn.to + 1,
            seconds: Math.round(way.noReturn.seconds),
            limit: way.noReturn.limit,
          },
          problems: found,
        },
        null,
        2,
      )}\n`,
    );
  else {
    if (way)
      say(
        `${plan.points.length} points, ${formatQuantity(way.lengthM, 'm', 'metric', 0)} in ${formatDuration(way.seconds)}, ${Math.round(100 * Math.max(0, way.leftShare))} % of the battery left.\n`,
      );
    for (const f of found) say(`${f.severity === 'blocks' ? 'blocks  ' : 'caution '} ${f.title}. ${f.why}\n`);
    if (found.length === 0) say('Nothing stands in its way.\n');
  }
  if (why) complain(`${why}\n`);
  if (!site.terrain.known) complain(`${GROUND_UNKNOWN}\n`);
  return found.length === 0 ? 0 : 1;
}
