import { isRotorcraft } from '../../airframe/airframe.ts';
import { stallSpeed } from '../../airframe/performance.ts';
import { brokenWords, localFences } from '../../plan/fences.ts';
import { planPrint } from '../../plan/packPlan.ts';
import { EMPTY_PLAN, isEmptyPlan } from '../../plan/plan.ts';
import { homeBreaks } from '../../plan/routeWay.ts';
import { settingsOf } from '../../settings/typed.ts';
import { formatQuantity } from '../../units/units.ts';
import { type Finding, finding, need, type Rule } from '../rule.ts';

/** A wing that is asked for a speed nearer to its stall than this stalls in the first turn. */
const OVER_STALL = 1.2;

/** What a plan asks of the board, the craft and the switches, without flying it. */
export const asPlanned: Rule = ({
  plan = EMPTY_PLAN,
  airframe,
  values,
  site,
  ground,
  units = 'metric',
  boardPlan,
}) => {
  const out: Finding[] = [];
  const { points, fences } = plan;
  const route = points.length > 0;
  if (route) {
    need(values, 'mode.route.channel');
    if (settingsOf(values).number('mode.route.channel') === 0)
      out.push(
        finding(
          'route-no-switch',
          'blocks',
          'routes',
          'No switch begins the route',
          'The route is flown while a switch asks for Route, and none does. Give it one at Switches and modes.',
          ['mode.route.channel', 'mode.route.from', 'mode.route.to'],
        ),
      );
    const rotors = isRotorcraft(airframe);
    if (!rotors) {
      const landing = points.findIndex((p) => p.do === 'land');
      if (landing >= 0)
        out.push(
          finding(
            'route-lands-wing',
            'caution',
            'routes',
            `A wing does not land at point ${landing + 1}`,
            'A wing lands at home only, where its approach is known: at that point it turns for home.',
            ['return.arrival'],
          ),
        );
      const least = OVER_STALL * stallSpeed(airframe);
      const slow = points.findIndex((p) => p.speedMps > 0 && p.speedMps < least);
      if (slow >= 0)
        out.push(
          finding(
            'route-slow',
            'blocks',
            'routes',
            `The way to point ${slow + 1} is flown too near to the stall`,
            `It asks for ${formatQuantity(points[slow]!.speedMps, 'm/s', units)}; this craft stalls at ${formatQuantity(stallSpeed(airframe), 'm/s', units)} and needs ${formatQuantity(least, 'm/s', units)}.`,
            ['nav.speed'],
          ),
        );
    }
    if (!ground && points.some((p) => p.above === 'ground'))
      out.push(
        finding(
          'route-ground-unknown',
          'blocks',
          'routes',
          'The route counts heights from a ground that nobody knows',
          'Without the ground of the site the board refuses the route. Open its ground at Site, or count from home.',
          [],
        ),
      );
  }
  if (site && fences.length > 0) {
    const local = localFences(fences, site.home);
    const broken = homeBreaks(local);
    if (broken >= 0)
      out.push(
        finding(
          'fence-home',
          'blocks',
          'routes',
          'Home breaks a fence',
          `Home lies ${brokenWords(local[broken]!)}: from the launch on the board would do what it does at a fence.`,
          ['fence.action'],
        ),
      );
  }
  if (boardPlan !== undefined && planPrint(boardPlan) !== planPrint(plan))
    out.push(
      finding(
        'plan-not-on-board',
        'caution',
        'routes',
        isEmptyPlan(boardPlan)
          ? 'The board has no route and no fences yet'
          : 'The board has another route or other fences',
        'What is drawn here flies only once it is written to the board. Write it, or take what the board has.',
        [],
      ),
    );
  return out;
};

/** What flying it in thought shows. */
const asFlown: Rule = ({ routeProblems = [] }) =>
  routeProblems.map((p) => finding(p.id, p.severity, 'routes', p.title, p.why, p.keys));

export const routeRules: readonly Rule[] = [asPlanned, asFlown];
