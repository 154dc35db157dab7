import type { Airframe } from '#core/airframe/airframe.ts';
import { knownDescription } from '#core/board/boardRef.ts';
import type { Wishes } from '#core/board/wishes.ts';
import { codeOf, type FindingInput } from '#core/findings/rule.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { groundOf } from '#core/site/site.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { torvholm } from './demoCraft.ts';

/** For tests and for docs/findings.md: every finding with a mistake that raises it. */
export interface FindingExample {
  readonly id: string;
  /** The mistake, as "when ..." */
  readonly what: string;
  readonly input: FindingInput;
  /** An edit puts it right; else somebody has to decide, or to do something. */
  readonly fixable: boolean;
}

/** What no edit puts right by itself. */
const unfixable: ReadonlySet<string> = new Set([
  'no-output',
  'switch-on-stick',
  'refused',
  'cg-aft',
  'cg-forward',
  'unfit',
  'wiring-collides',
  'power',
  'bus-budget',
  'follows-tilt',
  'turns-wrong',
  'twins-unlike',
  'surface-loose',
  'tried-before',
  'mounting-unconfirmed',
  'accel-residual',
  'level-missing',
  'compass-taught-elsewhere',
  'compass-untaught',
  'compass-by-wires',
  'volts-unchecked',
  'baro-pulled',
  'loss-hidden',
  'rows-fight',
  'controllers-differ',
  'controller-dead',
  'controller-cuts-off',
  'not-home',
  'part-garbled',
  'restart-waits',
  'switch-surprise',
  'switch-danger',
  'route-no-switch',
  'route-lands-wing',
  'route-slow',
  'route-ground-unknown',
  'fence-home',
  'plan-not-on-board',
  'route-stuck',
  'route-ground',
  'route-fence',
  'route-empty',
  'route-reserve',
  'route-climb',
  'route-unheard',
  'route-no-return',
  'return-fence',
]);

export function example(
  what: string,
  id: string,
  airframe: Airframe,
  values: Values,
  more: { target?: string; wishes?: Partial<Wishes> } & Pick<
    FindingInput,
    | 'evidence'
    | 'selfTest'
    | 'live'
    | 'transmitter'
    | 'fails'
    | 'plan'
    | 'boardPlan'
    | 'routeProblems'
    | 'ground'
  > = {},
): FindingExample {
  const input: FindingInput = {
    airframe,
    values,
    catalogue: pfadCatalogue,
    description: knownDescription({ target: more.target ?? 'fell-f7' })!,
    ground: groundOf(torvholm),
    site: torvholm,
    evidence: more.evidence,
    selfTest: more.selfTest,
    live: more.live,
    fails: more.fails,
    transmitter: more.transmitter,
    ...('plan' in more ? { plan: more.plan, boardPlan: more.boardPlan } : {}),
    routeProblems: more.routeProblems,
    ...('ground' in more ? { ground: more.ground } : {}),
    wiring: more.wishes && { wishes: { outputs: [], serial: [], buses: [], ...more.wishes } },
  };
  return { id, what, input, fixable: !unfixable.has(codeOf(id)) };
}
