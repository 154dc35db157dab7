import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { fellF7Model, massifH7B } from '#core/board/boards.ts';
import type { BoardModel } from '#core/board/model.ts';
import type { EndsEarly } from '#core/formats/batch.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import type { RehearsalResult } from '#core/formats/rehearsalResult.ts';
import { parseScenario } from '#core/formats/scenario.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from '../testing/aloft.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { Rehearsal, rehearse } from './rehearsal.ts';

const craft = demoCraft('turnstone');

function fly(
  scenario: object,
  values: Values = demoValues('turnstone'),
  airframe = craft.airframe,
): RehearsalResult {
  const parsed = parseScenario(
    { ...JSON.parse(readFileSync('demo/scenarios/northeast-in-wind.json', 'utf8')), ...scenario },
    torvholm,
  );
  if (!parsed.ok) throw new Error(parsed.why);
  return rehearse({
    airframe,
    board: fellF7Model,
    values,
    truth: craft.bench!,
    scenario: parsed.scenario,
    site: torvholm,
  });
}

/** How the demo craft is wired, whatever else a test sets. */
const wired = Object.fromEntries(
  Object.entries(demoValues('turnstone')).filter(([key]) => /^(out|rx|timer|port)\./.test(key)),
);

const wind = (speedMps: number, fromDeg: number, gustMps = 0.2 * speedMps) => ({
  wind: { speedMps, fromDeg, gustMps },
});

describe('Turnstone put right', () => {
  const winds = [0, 5, 9].flatMap((speed) =>
    speed === 0 ? [[0, 0]] : [0, 45, 90, 135, 180, 225, 270, 315].map((from) => [speed, from]),
  );

  it.each(winds)('comes home with %i m/s from %i degrees', (speed, from) => {
    const result = fly(wind(speed!, from!));
    expect(result.verdict).toBe('home');
    expect(result.lostLink.map((s) => s.state)).toEqual(['fine', 'noticed', 'guarding', 'acting']);
  });

  it.each([50, 230])(
    'does not come home against 30 m/s from %i degrees, and the reason names the wind',
    (from) => {
      const result = fly(wind(30, from, 2));
      expect(result.verdict).not.toBe('home');
      expect(result.reason).toMatch(/wind/i);
    },
  );

  it('gives the same bytes for the same seed, and others for another', () => {
    const bytes = (seed: number) => JSON.stringify(fly({ seed, limitS: 60 }));
    expect(bytes(7)).toBe(bytes(7));
    expect(bytes(7)).not.toBe(bytes(8));
  });

  it('has a track with at least a point a second, in order of time', () => {
    const { track, seconds } = fly({ limitS: 90 });
    for (let i = 1; i < track.length; i++) {
      expect(track[i]!.atS - track[i - 1]!.atS).toBeGreaterThan(0);
      expect(track[i]!.atS - track[i - 1]!.atS).toBeLessThanOrEqual(1);
    }
    expect(track.at(-1)!.atS).toBe(seconds);
  });

  it('stays out until the limit when nothing calls it home', () => {
    const result = fly({ events: [], limitS: 120 });
    expect(result.verdict).toBe('timeout');
    expect(result.seconds).toBe(120);
  });

  it('gives control back after the link, and comes home by switch', () => {
    const events = [
      { atS: 60, do: 'link-lost' },
      { atS: 80, do: 'link-back' },
      { atS: 120, do: 'return-switch-on' },
      { atS: 125, do: 'return-switch-off' },
      { atS: 130, do: 'return-switch-on' },
    ];
    const result = fly({ events });
    expect(result.verdict).toBe('home');
    expect(result.lostLink.map((s) => s.state)).toEqual([
      'fine',
      'noticed',
      'guarding',
      'acting',
      'recovering',
      'fine',
    ]);
    const modeAt = (s: number) => result.track.find((p) => p.atS >= s)!.mode;
    expect(modeAt(70)).toBe('return');
    expect(modeAt(110)).toBe('level');
    expect(modeAt(122)).toBe('return');
    expect(modeAt(127)).toBe('level');
  });

  it('holds its circle at home within the wind’s reach', () => {
    const result = fly(wind(5, 230, 0));
    expect(result.endDistanceM).toBeLessThan(150);
    expect(result.closestM).toBeLessThan(150);
    expect(result.usedWh).toBeGreaterThan(5);
  });
});

describe('a craft with a mistake', () => {
  it('as found never leaves the hand, and says why', () => {
    const result = fly({}, demoValues('turnstone-as-found'));
    expect(result).toMatchObject({ verdict: 'not-flown', cause: 'arming' });
    expect(result.reason).toContain('refuses to arm');
  });

  it('with a reversed elevator does not survive the launch', () => {
    const result = fly({}, { ...demoValues('turnstone'), 'out.4.reversed': false });
    expect(result.verdict).toBe('lost-control');
    expect(result.seconds).toBeLessThan(30);
  });

  it('with a reversed aileron pair does not survive either', () => {
    const result = fly({}, { ...demoValues('turnstone'), 'out.3.reversed': true, 'out.6.reversed': true });
    expect(result.verdict).toBe('lost-control');
  });

  it('that returns below Aldrygg flies into it', () => {
    const far = {
      outbound: { bearingDeg: 314, distanceM: 5600, heightM: 460 },
      events: [{ atS: 480, do: 'link-lost' }],
      ...wind(3, 230, 0),
    };
    const result = fly(far, { ...demoValues('turnstone'), 'return.height': 120 });
    expect(result.verdict).toBe('terrain');
    expect(result.reason).toContain('above the sea');
    expect(fly(far).verdict).toBe('home');
  });

  it('that stops its motors on lost link comes down out there', () => {
    const result = fly({}, { ...demoValues('turnstone'), 'lost.action': 'cut' });
    expect(result.verdict).not.toBe('home');
    expect(result.reason).toContain('stopped the motors');
  });

  it('with too small a battery runs out', () => {
    const airframe = { ...craft.airframe, battery: { ...craft.airframe.battery, capacityMah: 350 } };
    const result = fly({ events: [] }, demoValues('turnstone'), airframe);
    expect(result.verdict).toBe('energy');
  });

  it('without a fix has no home: it is not armed', () => {
    const result = fly({}, { ...demoValues('turnstone'), 'gnss.baud': '9600' });
    expect(result.reason).toContain('No position fix');
  });
});

describe('a craft whose wiring is not known', () => {
  it('flies as its settings say it is built', () => {
    const values = demoValues('turnstone');
    const parsed = parseScenario(JSON.parse(readFileSync('demo/scenarios/calm.json', 'utf8')), torvholm);
    if (!parsed.ok) throw new Error(parsed.why);
    const truth = truthFromSettings(craft.airframe, values);
    const result = rehearse({
      board: fellF7Model,
      airframe: craft.airframe,
      values,
      truth,
      scenario: parsed.scenario,
      site: torvholm,
    });
    expect(result.verdict).toBe('home');
  });
});

describe('the board that the craft is for', () => {
  const parsed = parseScenario(
    {
      ...JSON.parse(readFileSync('demo/scenarios/calm.json', 'utf8')),
      outbound: { bearingDeg: 50, distanceM: 500, heightM: 100 },
      events: [{ atS: 40, do: 'link-lost' }],
    },
    torvholm,
  );
  if (!parsed.ok) throw new Error(parsed.why);
  const { scenario } = parsed;
  const values = { ...demoValues('turnstone'), 'out.4.drives': 'nothing', 'out.10.drives': 'elevator' };
  const truth = {
    ...craft.bench!,
    pads: craft.bench!.pads.map((p) => (p.actuator === 'elevator' ? { ...p, output: 10 } : p)),
  };
  const flyOn = (board: BoardModel) =>
    rehearse({
      airframe: craft.airframe,
      board,
      values: {
        ...values,
        'out.10.reversed': demoValues('turnstone')['out.4.reversed']!,
        'return.height': 110,
      },
      truth,
      scenario,
      site: torvholm,
      endsEarly: 'circling',
    });

  it('flies an elevator on its tenth output where it has twelve', () => {
    expect(flyOn(massifH7B)).toMatchObject({ verdict: 'home' });
  });

  it('moves nothing on an output that it does not have, and the verdict says so', () => {
    const result = flyOn(fellF7Model);
    expect(result).toMatchObject({ cause: 'wiring', settings: ['out.10.drives'] });
    expect(result.reason).toContain('The elevator is on output 10, and Fell F7 has 9 outputs.');
  });
});

describe('a verdict of home', () => {
  const machine = (scenario: object, values: Values = demoValues('turnstone'), endsEarly?: EndsEarly) => {
    const parsed = parseScenario(
      {
        ...JSON.parse(readFileSync('demo/scenarios/northeast-in-wind.json', 'utf8')),
        outbound: { bearingDeg: 50, distanceM: 700, heightM: 100 },
        events: [{ atS: 80, do: 'link-lost' }],
        ...scenario,
      },
      torvholm,
    );
    if (!parsed.ok) throw new Error(parsed.why);
    return new Rehearsal({
      airframe: craft.airframe,
      board: fellF7Model,
      values: { ...values, 'return.height': 110 },
      truth: craft.bench!,
      scenario: parsed.scenario,
      site: torvholm,
      ...(endsEarly ? { endsEarly } : {}),
    });
  };
  const end = (r: Rehearsal) => {
    while (!r.advance(10_000));
    return r.result!;
  };

  it.each([
    ['circling', {}],
    ['landed', { 'return.arrival': 'land' }],
  ])('%s holds for ten minutes more', (_, change) => {
    const r = machine(wind(4, 250), { ...demoValues('turnstone'), ...change });
    expect(`${end(r).verdict}: ${r.result!.reason}`).toMatch(/^home/);
    expect(r.flyOn(600)).toBe('safe');
  });

  it('is not lost by ending soon: batches say what the whole flight says, in less time', () => {
    for (const [speed, from] of [
      [0, 0],
      [6, 100],
      [11, 230],
    ] as const) {
      const ended = (early?: EndsEarly) => end(machine(wind(speed, from), undefined, early));
      const [whole, circling, homeward] = [ended(), ended('circling'), ended('homeward')];
      expect([circling.verdict, homeward.verdict]).toEqual([whole.verdict, whole.verdict]);
      expect(circling.seconds).toBeLessThanOrEqual(whole.seconds);
      expect(homeward.seconds).toBeLessThanOrEqual(circling.seconds);
      if (speed < 8) expect(circling.seconds).toBeLessThan(whole.seconds - 20);
    }
  });

  it('waits for what is still to happen: a gyro that dies above home is not home', () => {
    const events = [
      { atS: 80, do: 'link-lost' },
      { atS: 700, do: 'fault', device: 'gyro', fault: 'dead' },
    ];
    const result = end(machine({ events }));
    expect(result).toMatchObject({ cause: 'device', causeAtS: 700 });
    expect(result.verdict).not.toBe('home');
  });

  it('says how near to an edge it came', () => {
    const calm = end(machine(wind(0, 0)));
    expect(calm.near).toEqual([]);
    expect(calm.margins.batteryShare).toBeGreaterThan(0.6);
    expect(calm.margins.windShare).toBe(0);
    const windy = end(machine({ wind: { speedMps: 15, fromDeg: 230, gustMps: 1 }, limitS: 2400 }));
    if (windy.verdict === 'home') expect(windy.near.join(' ')).toMatch(/wind reached \d+ %/);
  });
});

describe('a launch', () => {
  it('by the board’s own hand launch, where a switch is set for it', () => {
    const launch = { 'mode.launch.channel': 8, 'mode.launch.from': 1700, 'mode.launch.to': 2200 };
    const result = fly({ events: [], limitS: 40 }, { ...demoValues('turnstone'), ...launch });
    expect(result.decisions.map((d) => d.text).join(' ')).toMatch(/Hand launch: thrown\./);
    expect(result.verdict).toBe('timeout');
  });

  it.each(['bungee', 'catapult'] as const)('by %s carries what no arm can throw', (kind) => {
    const heavy = { ...craft.airframe, massKg: 2.5 * craft.airframe.massKg };
    const values = { ...demoValues('turnstone'), ...prepared(heavy), ...wired };
    const thrown = fly({ ...wind(0, 0, 0), events: [], limitS: 60 }, values, heavy);
    expect(thrown).toMatchObject({ verdict: 'not-flown', cause: 'launch' });
    const helped = fly({ ...wind(0, 0, 0), events: [], limitS: 60 }, values, { ...heavy, launch: kind });
    expect(helped.verdict).toBe('timeout');
  });
});

describe('a propeller that its motor cannot turn', () => {
  it('does not come home: ten inches on 2100 rpm/V', () => {
    const wild = {
      ...craft.airframe,
      motors: craft.airframe.motors.map((m) => ({
        ...m,
        propDiameterM: 0.254,
        propPitchM: 0.14,
        kvRpmPerV: 2100,
      })),
    };
    const result = fly({}, { ...demoValues('turnstone'), ...prepared(wild), ...wired }, wild);
    expect(result.verdict).not.toBe('home');
    expect(result).toMatchObject({ cause: 'power' });
    expect(result.reason).toMatch(/burnt .* more than the 28 A that it carries/);
  });
});
