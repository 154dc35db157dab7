import type { Finding, StationId } from '#core/findings/rule.ts';
import type { Progress, ProgressInput, Station } from './station.ts';

/** The walk: seven legs, and the stations of each in the order people do them. */
export const legIds = ['build', 'sense', 'steer', 'return', 'refine', 'rehearse', 'field'] as const;
export type LegId = (typeof legIds)[number];

interface Leg {
  readonly id: LegId;
  readonly name: string;
  readonly stations: readonly Station[];
}

/** Every station module of `legs/`, by the leg whose folder it lies in. */
const modules = import.meta.glob<{ default: Station }>('./*/*.station.ts', { eager: true });

function leg(id: LegId, name: string): Leg {
  const stations = Object.entries(modules)
    .filter(([path]) => path.startsWith(`./${id}/`))
    .map(([, module]) => module.default)
    .sort((a, b) => a.place - b.place);
  return { id, name, stations };
}

export const legs: readonly Leg[] = [
  leg('build', 'Build'),
  leg('sense', 'Sense'),
  leg('steer', 'Steer'),
  leg('return', 'Return'),
  leg('refine', 'Refine'),
  leg('rehearse', 'Rehearse'),
  leg('field', 'Field'),
];

const byId = new Map(legs.flatMap((l) => l.stations.map((s) => [s.id, { station: s, leg: l.id }])));

export const stationOf = (id: StationId): Station => byId.get(id)!.station;
export const stationLeg = (id: StationId): LegId => byId.get(id)!.leg;
/** Where it is in the address bar. */
export const pathOf = (id: StationId): string => `/${stationLeg(id)}/${id}`;

/** The station so many further on the walk, through legs as well; null beyond its ends. */
export function stationAfter(
  id: StationId,
  by: 1 | -1,
): { readonly station: Station; readonly path: string; readonly otherLeg: string | null } | null {
  const walk = legs.flatMap((l) => l.stations);
  const station = walk[walk.findIndex((s) => s.id === id) + by];
  if (!station) return null;
  const leg = stationLeg(station.id);
  const otherLeg = leg === stationLeg(id) ? null : legs.find((l) => l.id === leg)!.name;
  return { station, path: pathOf(station.id), otherLeg };
}

/** The first station of the walk that is not done: blocked, changed since, or open; null where all are. */
export function nextToDo(p: ProgressInput): Station | null {
  const walk = legs.flatMap((l) => l.stations);
  return walk.find((s) => !['set', 'proven'].includes(stationProgress(s, p))) ?? null;
}

/** Where one stands on coming to a leg: where one stood last, or its first station. */
export function stationIn(leg: LegId, last: StationId | undefined): Station {
  const { stations } = legs.find((l) => l.id === leg)!;
  return stations.find((s) => s.id === last) ?? stations[0]!;
}

/** Where a leg is in the address bar, given the stations last stood at. */
export function pathOfLeg(leg: LegId, last: Readonly<Partial<Record<LegId, StationId>>>): string {
  return pathOf(stationIn(leg, last[leg]).id);
}

/** Those of a leg, or all. */
export function findingsOf(findings: readonly Finding[], leg: LegId | 'all'): readonly Finding[] {
  return leg === 'all' ? findings : findings.filter((f) => stationLeg(f.station) === leg);
}

/** The station at which a setting is made; null for one that is made by name only. */
export function madeAt(key: string): Station | null {
  for (const { station } of byId.values()) if (station.settings?.test(key)) return station;
  return null;
}

/** Settings that a station cannot be without and a board does not have. */
export const lackingAt = (station: Station, has: (key: string) => boolean): readonly string[] =>
  (station.requires ?? []).filter((key) => !has(key));

export function stationProgress(station: Station, p: ProgressInput): Progress {
  if (lackingAt(station, p.has).length > 0) return 'open';
  if (p.findings.some((f) => f.station === station.id && f.severity === 'blocks')) return 'blocked';
  return station.progress(p, station);
}

/** A leg is as far as its least station; blocked and stale win over open. */
export function legProgress(leg: LegId, p: ProgressInput): Progress {
  const { stations } = legs.find((l) => l.id === leg)!;
  const states = stations.map((s) => stationProgress(s, p));
  if (states.includes('blocked')) return 'blocked';
  if (states.includes('stale')) return 'stale';
  if (states.includes('open')) return 'open';
  // What can be proven and is only set keeps its leg from being so.
  const unproven = stations.some((s, i) => s.provable && states[i] === 'set');
  return states.includes('proven') && !unproven ? 'proven' : 'set';
}
