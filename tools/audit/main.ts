/** `npm run audit`: the model against second opinions, and flights against what was expected of them. */

import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { chanceLoss, type Hardship } from '../../src/bench/chanceLoss.ts';
import { type FlightEnd, type FlightJob, flyAll } from '../../src/cli/batch.ts';
import { kinds } from '../../src/core/airframe/actuators.ts';
import { flock } from '../../src/core/airframe/library.ts';
import { fellF7Model } from '../../src/core/board/boards.ts';
import { auditSchema } from '../../src/core/formats/audit.ts';
import { truthFromSettings } from '../../src/core/formats/benchTruth.ts';
import { faultKinds, type Scenario, sensorDevices } from '../../src/core/formats/scenario.ts';
import { Random } from '../../src/core/math/random.ts';
import type { Values } from '../../src/core/settings/catalogue.ts';
import { pfadCatalogue } from '../../src/firmware/catalogue.ts';
import { prepared } from '../../src/testing/aloft.ts';
import { anyCraft } from '../../src/testing/anyCraft.ts';
import { torvholm } from '../../src/testing/demoCraft.ts';
import { type Check, modelChecks } from './checks.ts';
import { type AuditFlight, auditFlights, knownCases } from './flights.ts';

/** What the application shows. */
const SHOWN = 'demo/audit.json';
const say = (text: string) => process.stderr.write(`${text}\n`);
const percent = (part: number, whole: number) => Number(((100 * part) / Math.max(1, whole)).toFixed(2));

interface Score {
  readonly flights: number;
  readonly verdictRight: number;
  readonly reasonRight: number;
  readonly falseHome: number;
  /** Flown on for ten minutes after home, and what became of those that were lost. */
  readonly flownOn: number;
  readonly lost: readonly string[];
  readonly misses: readonly {
    readonly name: string;
    readonly expected: string;
    readonly got: string;
    readonly since: string;
  }[];
}

interface Report {
  readonly checks: readonly Check[];
  readonly cases: Score;
  readonly flights: Score;
  readonly random: { readonly flights: number; readonly invalid: number; readonly misses: readonly string[] };
  readonly soon: { readonly flights: number; readonly unlike: number };
  readonly returns: readonly {
    readonly name: string;
    readonly flights: number;
    /** Percent. */
    readonly home: number;
    readonly misses: readonly string[];
    readonly flownOn: number;
    readonly lost: readonly string[];
  }[];
}

/** @param seconds of flight on after home */
async function fly(jobs: readonly FlightJob[], seconds: number): Promise<FlightEnd[]> {
  return flyAll(
    torvholm,
    jobs.map((j) => ({ ...j, flyOnS: seconds })),
    2,
    (done, total) => process.stderr.isTTY && process.stderr.write(`\r  ${done} of ${total}`),
  );
}

function score(flights: readonly AuditFlight[], ends: readonly FlightEnd[]): Score {
  let verdictRight = 0;
  let reasonRight = 0;
  let falseHome = 0;
  const misses: Score['misses'][number][] = [];
  ends.forEach((end, i) => {
    const { name, group, expect } = flights[i]!;
    const verdict = expect.verdicts.includes(end.verdict);
    const reason = verdict && (end.verdict === 'home' || expect.causes.includes(end.cause));
    if (verdict) verdictRight++;
    else if (end.verdict === 'home') falseHome++;
    if (reason) reasonRight++;
    else
      misses.push({
        name: `${group}: ${name}`,
        expected: `${expect.verdicts.join(' or ')}${expect.causes.length > 0 ? ` by ${expect.causes.join(' or ')}` : ''}`,
        got: `${end.verdict} by ${end.cause}. ${end.reason}`,
        since: expect.since,
      });
  });
  const n = flights.length;
  return {
    flights: n,
    verdictRight: percent(verdictRight, n),
    reasonRight: percent(reasonRight, n),
    falseHome,
    misses,
    ...laterOf(ends),
  };
}

/** Lost links by chance with every craft of the flock. */
function byChance(each: number, hardship: Hardship): FlightJob[] {
  return flock.flatMap((airframe) => {
    const values = prepared(airframe);
    const truth = truthFromSettings(airframe, values);
    return Array.from({ length: each }, (_, seed) => ({
      airframe,
      board: fellF7Model,
      values,
      truth,
      scenario: chanceLoss(airframe, torvholm, seed, hardship),
    }));
  });
}

/** Any craft, any settings within their ranges, any wind, any fault: nothing has to fly, but every number has to be one. */
function anything(count: number): FlightJob[] {
  const jobs: FlightJob[] = [];
  // Settings that the board would refuse are left out.
  for (let k = 0; jobs.length < count; k++) {
    const random = new Random(k * 104_729 + 13);
    const airframe =
      random.uniform() < 0.5 ? flock[k % flock.length]! : anyCraft(kinds[k % kinds.length]!, k % 400);
    const odd: Record<string, string | number | boolean> = {};
    for (const e of pfadCatalogue.entries) {
      if (
        random.uniform() > 0.08 ||
        !/^(rate|level|nav|hover|return|lost|land|loiter|motor|mix|gyro|launch)\./.test(e.key)
      )
        continue;
      if (typeof e.default === 'number' && 'min' in e && 'max' in e)
        odd[e.key] = Number((Number(e.min) + (Number(e.max) - Number(e.min)) * random.uniform()).toFixed(3));
    }
    const clean = Object.fromEntries(
      Object.entries(odd).filter(([key, v]) => pfadCatalogue.checkValue(key, v) === null),
    );
    const values: Values = prepared(airframe, clean);
    if (pfadCatalogue.check(values).length > 0) continue;
    const scenario: Scenario = {
      seed: k,
      home: torvholm.home,
      wind: {
        speedMps: 25 * random.uniform() ** 2,
        fromDeg: 360 * random.uniform(),
        gustMps: 5 * random.uniform(),
      },
      outbound: {
        bearingDeg: 360 * random.uniform(),
        distanceM: 200 + 800 * random.uniform(),
        heightM: 40 + 200 * random.uniform(),
      },
      events: [
        { atS: 12 * random.uniform(), do: 'link-lost' },
        {
          atS: 18 * random.uniform(),
          do: 'fault',
          device: sensorDevices[Math.floor(random.uniform() * sensorDevices.length)]!,
          fault: faultKinds[Math.floor(random.uniform() * faultKinds.length)]!,
        },
      ],
      limitS: 20,
    };
    const truth = truthFromSettings(airframe, values);
    const mistaken = random.uniform() < 0.3;
    const pads = mistaken
      ? truth.pads.map((p) => ({ ...p, direction: random.uniform() < 0.5 ? (1 as const) : (-1 as const) }))
      : truth.pads;
    jobs.push({ airframe, board: fellF7Model, values, truth: { ...truth, pads }, scenario });
  }
  return jobs;
}

/** Of the flights by chance and of anything at all: so many of the whole number. */
let share = 1;
const of = (count: number) => Math.max(1, Math.round(share * count));

const parts = ['checks', 'cases', 'flights', 'random', 'chance'] as const;
type Part = (typeof parts)[number];

export async function main(): Promise<void> {
  const { values: flags } = parseArgs({
    options: {
      json: { type: 'boolean' },
      quick: { type: 'boolean' },
      write: { type: 'boolean' },
      part: { type: 'string', multiple: true },
      share: { type: 'string' },
    },
  });
  const quick = flags.quick ?? false;
  share = Math.min(1, Math.max(0.01, Number(flags.share ?? 1) || 1));
  const wanted = parts.filter((p) => !flags.part || flags.part.includes(p));
  const report: Partial<Report> = {};
  for (const part of wanted) {
    say(`${partWords[part]}…`);
    Object.assign(report, await partsFlown[part](quick));
    if (flags.write) show(report);
  }
  if (flags.json) process.stdout.write(`${JSON.stringify(report)}\n`);
  else tell(report);
  process.exit(0);
}

const partWords: Readonly<Record<Part, string>> = {
  checks: 'The model against second opinions',
  cases: 'The known cases',
  flights: 'Flights with what is expected of them, whole and ended early',
  random: 'Anything at all, for its numbers',
  chance: 'Lost links by chance, flown on after home',
};

const partsFlown: Readonly<Record<Part, (quick: boolean) => Promise<Partial<Report>>>> = {
  checks: async (quick) => ({ checks: modelChecks(!quick) }),
  cases: async (quick) => {
    const known = knownCases(quick ? 1 : 8);
    const ends = await fly(
      known.map((f) => f.job),
      quick ? 0 : 600,
    );
    return { cases: score(known, ends) };
  },
  flights: async (quick) => {
    const all = auditFlights();
    const chosen = quick ? all.filter((_, i) => i % 7 === 3) : all;
    const ends = await fly(
      chosen.map((f) => f.job),
      quick ? 0 : 600,
    );
    // Ended as early as a batch may, without its asking for a stronger wind before: the verdict has to be the same.
    const early = await fly(
      chosen.map((f) => ({ ...f.job, endsEarly: 'homeward' as const })),
      0,
    );
    const unlike = early.filter((e, i) => e.verdict !== ends[i]!.verdict).length;
    return { flights: score(chosen, ends), soon: { flights: early.length, unlike } };
  },
  random: async (quick) => {
    const ends = await fly(anything(quick ? 300 : of(10_400)), 0);
    const invalid = ends.filter(
      (e) => e.verdict === 'invalid' || !Number.isFinite(e.usedWh + e.endDistanceM + e.closestM),
    );
    return {
      random: {
        flights: ends.length,
        invalid: invalid.length,
        misses: invalid.slice(0, 20).map((e) => e.reason),
      },
    };
  },
  chance: async (quick) => {
    const sets = [
      ['a lost link by chance, winds up to 60 % of cruise', byChance(quick ? 1 : of(60), 'none')],
      ['the same without a fix for 20 s', byChance(quick ? 1 : of(20), 'gnss-out')],
      ['true gusts at 40 % of cruise', byChance(quick ? 1 : of(40), 'gusts')],
    ] as const;
    const returns: Report['returns'][number][] = [];
    for (const [name, jobs] of sets) {
      const flown = await fly(jobs, 600);
      const away = flown.filter((e) => e.verdict !== 'home');
      returns.push({
        name,
        flights: flown.length,
        home: percent(flown.length - away.length, flown.length),
        misses: away.map((e) => `${e.verdict}: ${e.reason}`),
        ...laterOf(flown),
      });
    }
    return { returns };
  },
};
/** Of those that were called home: how many were flown on, and what became of those that were lost. */
function laterOf(ends: readonly FlightEnd[]) {
  const on = ends.filter((e) => e.later !== undefined);
  const lost = on.filter((e) => e.later !== 'safe');
  return { flownOn: on.length, lost: lost.map((e) => `${e.later}: ${e.reason}`) };
}

/** Puts what was flown into what the application shows, and leaves the rest of it. */
function show(r: Partial<Report>): void {
  const before = auditSchema.parse(JSON.parse(readFileSync(SHOWN, 'utf8')));
  const short = ({ flights, verdictRight, reasonRight, falseHome, flownOn, lost }: Score) => ({
    flights,
    verdictRight,
    reasonRight,
    falseHome,
    flownOn,
    lost: lost.length,
  });
  const after = {
    ...before,
    ...(r.cases ? { cases: short(r.cases) } : {}),
    ...(r.flights ? { flights: short(r.flights) } : {}),
    ...(r.random ? { random: { flights: r.random.flights, invalid: r.random.invalid } } : {}),
    ...(r.returns
      ? {
          returns: r.returns.map(({ name, flights, home, flownOn, lost }) => ({
            name,
            flights,
            home,
            flownOn,
            lost: lost.length,
          })),
        }
      : {}),
    ...(r.checks ? { checks: r.checks } : {}),
  };
  writeFileSync(SHOWN, `${JSON.stringify(after, null, 2)}\n`);
}

function tell(r: Partial<Report>): void {
  const out = (text: string) => process.stdout.write(`${text}\n`);
  for (const c of r.checks ?? [])
    out(
      `${c.holds ? 'holds' : 'OFF  '}  ${c.name.padEnd(58)} ${String(c.ours).padStart(10)} ${c.unit} against ${c.independent} (${c.source}), ${c.error} of ${c.bound}`,
    );
  for (const [name, s] of [
    ['known cases', r.cases],
    ['flights', r.flights],
  ] as const) {
    if (!s) continue;
    out(
      `${name}: ${s.flights} flown, verdict right ${s.verdictRight} %, verdict and reason ${s.reasonRight} %, false home ${s.falseHome}; flown on ${s.flownOn}, lost ${s.lost.length}`,
    );
    for (const m of s.misses) out(`  ${m.name}: expected ${m.expected} (${m.since}), got ${m.got}`);
    for (const m of s.lost) out(`  ${m}`);
  }
  if (r.random) out(`anything at all: ${r.random.flights}, no number in ${r.random.invalid}`);
  for (const m of r.random?.misses ?? []) out(`  ${m}`);
  for (const x of r.returns ?? []) {
    out(`${x.name}: ${x.flights} flown, ${x.home} % home; flown on ${x.flownOn}, lost ${x.lost.length}`);
    for (const m of [...x.misses, ...x.lost]) out(`  ${m}`);
  }
  if (r.soon) out(`ended early against in full: ${r.soon.flights}, unlike ${r.soon.unlike}`);
}
