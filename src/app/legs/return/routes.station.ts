import { isEmptyPlan } from '#core/plan/plan.ts';
import { fromProof, held, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    routes: true;
  }
}

const station: Station = {
  id: 'routes',
  place: 70,
  name: 'Routes and fence',
  about:
    'Points to be flown in order and areas to be kept in or out of, drawn on the site: with the height over the ground, time, charge, and where the link and the way home end.',
  requires: ['fence.action', 'fence.radius'],
  settings: /^fence\./,
  small: (p) => {
    const seen = held('route', p)?.seen;
    if (seen?.kind === 'route') return `flown: ${seen.reached} of ${seen.points} points`;
    const { points = [], fences = [] } = p.world.plan ?? {};
    const said = [
      points.length > 0 && `${points.length} ${points.length === 1 ? 'point' : 'points'}`,
      fences.length > 0 && `${fences.length} ${fences.length === 1 ? 'fence' : 'fences'}`,
    ].filter(Boolean);
    return said.length > 0 ? said.join(', ') : 'none drawn';
  },
  progress: (p) => {
    const { plan } = p.world;
    const onBoard = !p.findings.some((f) => f.id === 'plan-not-on-board');
    // A craft need not fly a route: without one there is nothing left to do.
    if (!plan || isEmptyPlan(plan)) return p.boardMet && onBoard ? 'set' : 'open';
    const state = togetherOf(['route'], p);
    if (plan.points.length > 0 && state !== 'none') return fromProof(state);
    return p.boardMet && onBoard ? 'set' : 'open';
  },
  provable: true,
  view: () => import('./RoutesStation.tsx'),
};
export default station;
