import type { Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    site: true;
  }
}

const station: Station = {
  id: 'site',
  place: 55,
  name: 'Where it flies',
  about:
    'Home, and the ground about it. Findings, starting values, the way home and every rehearsal go by this place; where its ground is not known they say so.',
  settings: /^compass\.(declination|strength)$/,
  small: (p) => (p.world.site.terrain.known ? p.world.site.name : 'the ground is not known'),
  progress: (p) => (p.world.site.terrain.known ? 'set' : 'open'),
  view: () => import('./SiteStation.tsx'),
};
export default station;
