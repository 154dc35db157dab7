import { expose, transfer } from 'comlink';
import { flyThrows, type ThrowFlown } from '#bench/badThrows.ts';
import { flyOuter } from '#bench/outerFlown.ts';
import { Rehearsal, rehearse } from '#bench/rehearsal.ts';
import { flyThrottles } from '#bench/shakeFlown.ts';
import { flyStep, type Refused, type StepFlown } from '#bench/stepFlown.ts';
import { flyTrim } from '#bench/trimFlown.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { interned } from '#core/airframe/interned.ts';
import { type ThrottleSpectra, throttleSpectra } from '#core/analysis/throttleSpectra.ts';
import { askedOf } from '#core/answers/answers.ts';
import { loopOf } from '#core/answers/chain.ts';
import { chooseFilters, type FilterChoice, type FilterWish } from '#core/answers/filterChoice.ts';
import { solveGainLaw } from '#core/answers/gainSchedule.ts';
import type { OuterTraces } from '#core/answers/outer/predict.ts';
import { solveGains } from '#core/answers/solveGains.ts';
import type { BoardDescription } from '#core/board/description.ts';
import { type Answer, arrange } from '#core/board/explain.ts';
import type { BoardModel } from '#core/board/model.ts';
import type { Wishes } from '#core/board/wishes.ts';
import type { TrimFlown } from '#core/calibration/surfaceTrim.ts';
import type { RateGains } from '#core/control/rateLoop.ts';
import type { Terrain } from '#core/flight/terrain.ts';
import type { EndsEarly } from '#core/formats/batch.ts';
import { type Inspected, inspectImage } from '#core/formats/firmwareImage.ts';
import { type ReadHistory, readHistory } from '#core/formats/history.ts';
import {
  OTHER_SEEDS,
  type OtherSeed,
  type RehearsalResult,
  type TrackPoint,
  type Verdict,
} from '#core/formats/rehearsalResult.ts';
import { Random } from '#core/math/random.ts';
import type { Axis } from '#core/mixer/authority.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { type FlownShape, flownShape } from '#core/plan/routeFlown.ts';
import { type RouteProblem, routeProblems } from '#core/plan/routeProblems.ts';
import { type RouteAsked, type RouteWay, routeWay } from '#core/plan/routeWay.ts';
import { pairsAlong, type ReachCheck } from '#core/reach/checks.ts';
import type { WayPoint } from '#core/reach/homeMarch.ts';
import { type Mend, mendFor, reachPlace } from '#core/reach/place.ts';
import { REACH_CELLS_M, type ReachInput, reachMap, reachRows } from '#core/reach/reachMap.ts';
import { flyOut, type OutFlight, type PackDay } from '#core/reach/turnBack.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import { type MigrationReport, migrate, pathBetween } from '#core/settings/migration/migrate.ts';
import { type StartingValue, startingValues } from '#core/settings/startingValues.ts';
import { parseAsciiGrid } from '#core/site/asciiGrid.ts';
import { parseHgt, type Tile } from '#core/site/hgt.ts';
import { groundOf, type Home, type Site } from '#core/site/site.ts';
import type { UnitSystem } from '#core/units/units.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { catalogueOf, isPfadVersion } from '#firmware/releases.ts';
import { type DrawnReach, drawReach, knownInput, marchOf, type ReachWay } from './drawnReach.ts';
import { buffersOf, type FlownBy, type LookedAt, lookAt } from './flown.ts';
import { type OpenedTuning, openGains, openLog, openShake, openTuning, SHAKE_BANDS } from './openedLog.ts';
import { type OverlayFlown, overlayFlown } from './overlayFlown.ts';
import { openSeen, search } from './search.ts';
import { prepare, type ToFly } from './toFly.ts';
import { type TuneSeen, tuneSeen } from './tuneSeen.ts';
import { flyTuning } from './tuningFlown.ts';

/** Heavy work off the main thread: rehearsals and starting values. */

const SLICE_STEPS = 20_000;

export type FlightOutcome =
  | { readonly kind: 'flown'; readonly result: RehearsalResult }
  | { readonly kind: 'cancelled'; readonly seconds: number }
  | { readonly kind: 'refused'; readonly why: string };

export type VerdictOutcome =
  | {
      readonly kind: 'flown';
      readonly verdict: Verdict;
      readonly reason: string;
      readonly seconds: number;
      readonly batteryShare: number;
    }
  | { readonly kind: 'refused'; readonly why: string };

export type FailureOutcome =
  | {
      readonly kind: 'flown';
      readonly verdict: Verdict;
      readonly reason: string;
      readonly seconds: number;
      readonly decisions: RehearsalResult['decisions'];
    }
  | { readonly kind: 'refused'; readonly why: string };

export type RouteOutcome =
  | {
      readonly kind: 'flown';
      readonly verdict: Verdict;
      readonly reason: string;
      readonly seconds: number;
      readonly shape: FlownShape;
      readonly clearanceM: number;
      readonly leftShare: number;
      /** Metres east and north of home. */
      readonly track: readonly (readonly [number, number])[];
    }
  | { readonly kind: 'refused'; readonly why: string };

export type ArrivalOutcome =
  | {
      readonly kind: 'flown';
      readonly verdict: Verdict;
      readonly reason: string;
      readonly seconds: number;
      /** Of what it bears, share; 0 in the air. */
      readonly touchShare: number;
      /** Metres east and north of home. */
      readonly end: readonly [number, number];
      readonly way: readonly (readonly [number, number])[];
    }
  | { readonly kind: 'refused'; readonly why: string };

let cancelled = false;
/** Counts the flights, so that the other seeds of one stop when the next begins. */
let flight = 0;

/** Of each axis, roll, pitch and yaw. */
interface ShakeSpectra {
  readonly spectra: readonly ThrottleSpectra[];
  readonly rateHz: number;
  readonly seconds: number;
}

export type ReadGround =
  | { readonly ok: true; readonly terrain: Terrain }
  | { readonly ok: false; readonly why: string };

export interface RouteThought {
  readonly way: RouteWay;
  readonly problems: readonly RouteProblem[];
}

let reachAsked = 0;
const REACH_SLICE_MS = 20;
const api = {
  startingValues(airframe: Airframe, site: Site): StartingValue[] {
    return startingValues(airframe, groundOf(site)).filter(
      (s) => pfadCatalogue.checkValue(s.key, s.value) === null,
    );
  },

  /** Settings of one firmware version as another has them; null when one of the two is not known. */
  carry(
    values: Values,
    from: string,
    to: string,
    chosen: Readonly<Record<string, number>> = {},
  ): MigrationReport | null {
    const path = pathBetween(from, to);
    if (!path || !isPfadVersion(from) || !isPfadVersion(to)) return null;
    return migrate(values, from, to, path, catalogueOf(from), catalogueOf(to), chosen);
  },

  /** Where everything goes on a board, or what collides. */
  arrange(board: BoardModel, wishes: Wishes): Answer {
    return arrange(board, wishes);
  },

  /** Looks at a firmware image, which may have some MB. */
  inspect(file: Uint8Array, target: string | undefined): Inspected {
    const looked = inspectImage(file, target);
    return looked.ok ? transfer(looked, [looked.bytes.buffer as ArrayBuffer]) : looked;
  },

  /** An exported history may have many MB. */
  readHistory(text: string): ReadHistory {
    return readHistory(text);
  },

  /** Ground from files: `.hgt` tiles, or one ASCII grid, about a home. */
  readGround(files: readonly Tile[], home: Home): ReadGround {
    const told = files.map((f) => f.name).join(', ');
    try {
      const grid = files.find((f) => !/\.hgt$/i.test(f.name));
      if (grid && files.length > 1)
        return { ok: false, why: 'Open either tiles or one grid. Nothing was changed.' };
      const terrain = grid
        ? parseAsciiGrid(new TextDecoder().decode(grid.bytes), home)
        : parseHgt(files, home);
      return transfer({ ok: true, terrain }, [terrain.heights.buffer as ArrayBuffer]);
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      return { ok: false, why: `${told} cannot be used as ground: ${why}. Nothing was changed.` };
    }
  },

  cancel(): void {
    cancelled = true;
  },

  /** Flies a rehearsal in slices, so that it can be stopped. */
  async fly(what: ToFly, onProgress: (seconds: number, rate: number) => void): Promise<FlightOutcome> {
    cancelled = false;
    flight++;
    const input = prepare(what);
    if (typeof input === 'string') return { kind: 'refused', why: input };
    const rehearsal = new Rehearsal(input);
    const start = performance.now();
    while (!rehearsal.advance(SLICE_STEPS)) {
      if (cancelled) return { kind: 'cancelled', seconds: rehearsal.seconds };
      onProgress(rehearsal.seconds, (1000 * rehearsal.seconds) / (performance.now() - start));
      await new Promise((resolve) => setTimeout(resolve, 0));
    }
    return { kind: 'flown', result: rehearsal.result! };
  },

  /** The same flight with the seeds that follow its own, quietly; null when another flight began. */
  async otherSeeds(what: ToFly): Promise<readonly OtherSeed[] | null> {
    const mine = flight;
    const input = prepare(what);
    if (typeof input === 'string') return null;
    const out: OtherSeed[] = [];
    for (let k = 1; k <= OTHER_SEEDS; k++) {
      const seed = (what.scenario.seed + k) >>> 0;
      const scenario = { ...input.scenario, seed };
      const rehearsal = new Rehearsal({ ...input, scenario, endsEarly: 'circling' });
      while (!rehearsal.advance(SLICE_STEPS)) {
        await new Promise((resolve) => setTimeout(resolve, 0));
        if (mine !== flight) return null;
      }
      const { verdict, reason } = rehearsal.result!;
      out.push({ seed, verdict, reason });
    }
    return out;
  },

  /** Gains of one axis that go no higher over what is asked than wanted; null where there are none, or nothing turns it so. */
  solveGains(
    airframe: Airframe,
    values: Values,
    pads: BoardDescription['pads'],
    axis: Axis,
    speedMps: number,
    overshoot: number,
  ): RateGains | null {
    const loop = loopOf(interned(airframe), values, pads, axis, speedMps);
    return loop && solveGains(loop, askedOf(values, axis), overshoot);
  },

  /** How gains are to go with speed or throttle; nothing where nothing turns the craft. */
  solveGainLaw: (
    airframe: Airframe,
    values: Values,
    pads: BoardDescription['pads'],
    by: 'speed' | 'throttle',
  ): Readonly<Record<string, SettingValue>> => solveGainLaw(interned(airframe), values, pads, by),

  /** The answer about one axis out of a flight with its stick thrown about. */
  flyStep(what: ToFly, axis: Axis): StepFlown | Refused {
    const input = prepare(what);
    return typeof input === 'string' ? { refused: input } : flyStep(input, axis);
  },

  /** What is asked of the loops around the rate loops, each flown. */
  flyOuter(what: ToFly): { readonly flown: OuterTraces } | Refused {
    const input = prepare(what);
    return typeof input === 'string' ? { refused: input } : flyOuter(input);
  },

  /** The answer about one axis out of a log, and why it is not the one that was promised. */
  openLog,

  /** What shakes the gyro at each throttle, out of a flight over all of them: about roll, pitch and yaw. */
  flyShake(what: ToFly): ShakeSpectra | Refused {
    const input = prepare(what);
    if (typeof input === 'string') return { refused: input };
    const flown = flyThrottles(input);
    if ('refused' in flown) return flown;
    const { gyro, throttle, rateHz } = flown;
    const spectra = gyro.map((signal) => throttleSpectra([{ signal, throttle }], rateHz, SHAKE_BANDS));
    return { spectra, rateHz, seconds: throttle.length / rateHz };
  },

  /** The same about one axis, out of a table. */
  openShake,

  /** Finding gains in flight, rehearsed. */
  flyTune(what: ToFly): TuneSeen | Refused {
    const input = prepare(what);
    return typeof input === 'string' ? { refused: input } : tuneSeen(input);
  },

  /** What the pilot sees on a flight. */
  flyOverlay(what: ToFly): OverlayFlown | Refused {
    const input = prepare(what);
    return typeof input === 'string' ? { refused: input } : overlayFlown(input);
  },

  /** Where a craft may lie that did not come back. */
  search,

  /** What a log knew last. */
  openSeen,

  /** A flight that was flown, looked over. */
  lookAt(bytes: Uint8Array, name: string, by: FlownBy): LookedAt | Refused {
    const looked = lookAt(bytes, name, by);
    return 'refused' in looked ? looked : transfer(looked, buffersOf(looked));
  },

  /** What level flight takes of a wing, rehearsed. */
  flyTrim(what: ToFly): TrimFlown | Refused {
    const input = prepare(what);
    return typeof input === 'string' ? { refused: input } : flyTrim(input);
  },

  /** By what a log was flown, and how each axis answered. */
  openTuning,

  /** The same of a flight in the bench. */
  flyTuning(what: ToFly): OpenedTuning | Refused {
    const input = prepare(what);
    if (typeof input === 'string') return { refused: input };
    return flyTuning(input);
  },

  /** Gains out of a table of a loop, whoever flew it. */
  openGains,

  /** Filters with least delay for a shake; null where nothing turns the craft so. */
  chooseFilters(
    airframe: Airframe,
    values: Values,
    pads: BoardDescription['pads'],
    axis: Axis,
    speedMps: number,
    spectra: ThrottleSpectra,
    { middle, ...wanted }: FilterWish & { readonly middle: number },
  ): FilterChoice | null {
    const loop = loopOf(interned(airframe), values, pads, axis, speedMps);
    return loop && chooseFilters(spectra, middle, loop, wanted);
  },

  /** Throws the craft in each of the ways that go wrong; a sentence where it cannot be flown. */
  throws(what: ToFly): readonly ThrowFlown[] | string {
    const input = prepare(what);
    return typeof input === 'string' ? input : flyThrows(input, input.scenario);
  },

  /** Flies a rehearsal in one go and tells only how it ended: for batches, which are stopped by ending the worker. */
  flyToVerdict(what: ToFly, endsEarly: EndsEarly): VerdictOutcome {
    const input = prepare(what);
    if (typeof input === 'string') return { kind: 'refused', why: input };
    const { verdict, reason, seconds, margins } = rehearse({ ...input, endsEarly });
    return { kind: 'flown', verdict, reason, seconds, batteryShare: margins.batteryShare };
  },

  /** Flies what goes wrong to its end, and tells what the board decided from then on. */
  flyFailure(what: ToFly, fromS: number): FailureOutcome {
    const input = prepare(what);
    if (typeof input === 'string') return { kind: 'refused', why: input };
    const { verdict, reason, seconds, decisions } = rehearse({ ...input, endsEarly: 'circling' });
    return {
      kind: 'flown',
      verdict,
      reason,
      seconds,
      decisions: decisions.filter((d) => d.atS >= fromS - 1),
    };
  },

  /** Flies the route to its end, and tells how near to it that was. */
  flyRoute(what: ToFly): RouteOutcome {
    const input = prepare(what);
    if (typeof input === 'string') return { kind: 'refused', why: input };
    const { verdict, reason, seconds, track, margins, decisions } = rehearse(input);
    const { home } = input.scenario;
    const at = (p: TrackPoint) => [eastOf(home.lat, home.lon, p.lon), northOf(home.lat, p.lat)] as const;
    return {
      ...{ kind: 'flown', verdict, reason, seconds, track: track.map(at) },
      shape: flownShape(what.plan, track, decisions, home),
      clearanceM: margins.clearanceM,
      leftShare: margins.batteryShare,
    };
  },

  /** Flies an arrival to its end, and tells where that was and the way of its last minutes. */
  flyArrival(what: ToFly, lastS: number): ArrivalOutcome {
    const input = prepare(what);
    if (typeof input === 'string') return { kind: 'refused', why: input };
    const { verdict, reason, seconds, track, margins } = rehearse(input);
    const { home } = input.scenario;
    const at = (p: TrackPoint) => [eastOf(home.lat, home.lon, p.lon), northOf(home.lat, p.lat)] as const;
    return {
      kind: 'flown',
      verdict,
      reason,
      seconds,
      touchShare: margins.touchShare,
      end: at(track.at(-1)!),
      way: track.filter((p) => p.atS >= seconds - lastS).map(at),
    };
  },

  /** The reach from coarse to fine; ends early when it is asked for anew. */
  async reach(asked: ReachInput, onMap: (map: DrawnReach) => void): Promise<void> {
    const mine = ++reachAsked;
    const march = marchOf(asked);
    let paused = performance.now();
    for (const cellM of REACH_CELLS_M) {
      const rows = reachRows(march, cellM);
      let next = rows.next();
      for (; !next.done; next = rows.next()) {
        if (performance.now() - paused < REACH_SLICE_MS) continue;
        await new Promise((resolve) => setTimeout(resolve, 0));
        if (mine !== reachAsked) return;
        paused = performance.now();
      }
      onMap(drawReach(next.value, march));
    }
  },

  /** A route flown in thought, and what is wrong with it. */
  routeWay(asked: RouteAsked, units: UnitSystem): RouteThought {
    const known = { ...asked, airframe: interned(asked.airframe) };
    const way = routeWay(known);
    return { way, problems: routeProblems(known, way, units) };
  },

  /** The way home from one place. */
  reachWay(asked: ReachInput, eastM: number, northM: number): ReachWay {
    const points: WayPoint[] = [];
    const place = reachPlace(marchOf(asked), eastM, northM, points);
    return { place, points };
  },

  /** What would bring it home from a place; null where it does, or where no setting helps. */
  reachMend(asked: ReachInput, eastM: number, northM: number, units: UnitSystem): Mend | null {
    return mendFor(knownInput(asked), eastM, northM, units);
  },

  /** A flight straight out until the battery is empty, and where it is said to be low. */
  flyOut(asked: ReachInput, bearingDeg: number, day: PackDay): OutFlight {
    return flyOut(knownInput(asked), bearingDeg, day);
  },

  /** Pairs of places along the border, each with what the map says. */
  reachPairs(asked: ReachInput, pairs: number, seed: number): ReachCheck[] {
    const march = marchOf(asked);
    return pairsAlong(reachMap(march, REACH_CELLS_M[1]), march, pairs, new Random(seed));
  },
};

export type WorkshopApi = typeof api;
expose(api);
