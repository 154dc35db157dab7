import type { RehearsalInput } from '#bench/rehearsal.ts';
import { THROWN_HZ, throwAbout } from '#bench/stepFlown.ts';
import { type AxisAnswer, axisAnswer, MARGIN_LEAST_DEG, usualSpeed } from '#core/answers/answers.ts';
import { gyroFilters, LOOP_S, throughAll } from '#core/answers/chain.ts';
import { knownDescription } from '#core/board/boardRef.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { angleOf, type Complex, sizeOf } from '#core/math/complex.ts';
import { DEG } from '#core/math/scalar.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { BadInput, write } from './input.ts';
import { say } from './output.ts';

function axesOf(axis: string | undefined): readonly Axis[] {
  if (axis === undefined) return axes;
  const one = axes.find((a) => a === axis);
  if (!one) throw new BadInput(`--axis ${axis} is no axis: roll, pitch or yaw. Nothing was done.`);
  return [one];
}

/** How a craft answers as it is set; exit code 1 where it rings or has little left until it does. */
export function showAnswers(
  craft: CraftFile,
  values: Values,
  options: { readonly axis: string | undefined; readonly speed: number | undefined },
  json: boolean,
): number {
  const { airframe } = craft;
  const pads = knownDescription(craft.board)?.pads ?? [];
  const speed = options.speed ?? usualSpeed(airframe, values);
  const answers = axesOf(options.axis).map((axis) => ({
    axis,
    answer: axisAnswer(airframe, values, pads, axis, speed),
  }));
  const wanting = answers.some(({ answer }) => answer !== null && answer.state !== 'well');
  if (json) {
    const told = answers.map(({ axis, answer }) => (answer ? figures(answer) : { axis, answers: false }));
    say(`${JSON.stringify({ craft: craft.name, wanting, axes: told }, null, 2)}\n`);
  } else
    for (const { axis, answer } of answers) say(answer ? words(answer) : `${axis}: nothing turns it so.\n`);
  return wanting ? 1 : 0;
}

const round = (x: number, digits: number): number | null =>
  Number.isFinite(x) ? Number(x.toFixed(digits)) : null;

function figures(a: AxisAnswer) {
  const { margin: m, figures: f } = a;
  return {
    axis: a.axis,
    answers: true,
    state: a.state,
    speedMps: round(a.speedMps, 2),
    askedDegPerS: round(a.asked / DEG, 1),
    step: {
      riseS: round(f.riseS, 4),
      halfwayS: round(f.delayS, 4),
      overshoot: round(f.overshoot, 4),
      reaches: round(f.reaches, 4),
      settlesS: round(f.settlesS, 3),
    },
    push: { degPerS: round(a.pushed / DEG, 2), degPerSAlone: round(a.pushedAlone / DEG, 2) },
    crossover: m.crossover && {
      hz: round(m.crossover.hz, 3),
      marginDeg: round(m.crossover.degrees, 1),
      delayLeftMs: round(1000 * m.crossover.delayS, 1),
      shares: m.crossover.shares.map((s) => ({ part: s.name, degrees: round(s.degrees, 1) })),
    },
    ringsHz: round(m.ringsHz, 2),
    gainLeft: round(m.gainLeft, 2),
  };
}

function words(a: AxisAnswer): string {
  const { margin: m, figures: f } = a;
  const at = a.speedMps === 0 ? 'in a hover' : `at ${a.speedMps.toFixed(1)} m/s`;
  const rise = Number.isNaN(f.riseS) ? 'does not get there' : `up in ${f.riseS.toFixed(2)} s`;
  const lines = [
    `${a.axis} ${at}: asked for ${(a.asked / DEG).toFixed(0)} °/s it is ${rise}, ${(100 * f.overshoot).toFixed(0)} % over.`,
    `  A push turns it at ${(a.pushed / DEG).toFixed(1)} °/s, without its loop at ${(a.pushedAlone / DEG).toFixed(1)} °/s.`,
  ];
  const { crossover: c } = m;
  if (!c)
    lines.push(
      '  Its loop is too weak for any delay to make it ring: what it does comes from the feed-forward.',
    );
  else
    lines.push(
      `  Crosses over at ${c.hz.toFixed(2)} Hz with ${c.degrees.toFixed(0)}° left (at least ${MARGIN_LEAST_DEG}°), or ${(1000 * c.delayS).toFixed(0)} ms.`,
      `  ${c.shares.map((s) => `${s.name} ${s.degrees.toFixed(1)}°`).join(', ')}.`,
    );
  if (a.state === 'rings')
    lines.push(
      `  It rings by itself${Number.isNaN(m.ringsHz) ? '' : `, ${m.ringsHz.toFixed(1)} times a second`}.`,
    );
  else if (!Number.isNaN(m.gainLeft))
    lines.push(
      `  Its gains can be ${m.gainLeft.toFixed(1)} times what they are until it rings, ${m.ringsHz.toFixed(1)} times a second.`,
    );
  return `${lines.join('\n')}\n`;
}

/** Flies a craft with its stick about one axis thrown about, and writes what its board measured as a table. */
export function flyAnswer(
  input: RehearsalInput,
  axis: string | undefined,
  file: string,
  json: boolean,
): number {
  if (axis === undefined)
    throw new BadInput('Say about which axis with --axis roll, pitch or yaw. Nothing was flown.');
  const flown = throwAbout(input, axesOf(axis)[0]!);
  if ('refused' in flown) {
    if (json) say(`${JSON.stringify({ refused: flown.refused }, null, 2)}\n`);
    else say(`It was not flown: ${flown.refused}\n`);
    return 1;
  }
  const { asked, came, speedMps } = flown;
  const rows = Array.from(asked, (x, k) => `${k},${(x / DEG).toFixed(3)},${(came[k]! / DEG).toFixed(3)}`);
  write('log', file, `t_ms,asked_dps,came_dps\n${rows.join('\n')}\n`);
  const seconds = asked.length / THROWN_HZ;
  if (json)
    say(`${JSON.stringify({ seconds, speedMps: round(speedMps, 2), samples: asked.length }, null, 2)}\n`);
  else
    say(
      `Flown for ${seconds.toFixed(0)} s at ${speedMps.toFixed(1)} m/s; ${asked.length} samples in ${file}.\n`,
    );
  return 0;
}

/** Frequencies of the command line: 5,20,80. */
function frequenciesOf(text: string): readonly number[] {
  const most = 0.45 / LOOP_S;
  const all = text.split(',').map(Number);
  if (all.length > 100 || all.some((hz) => !(hz > 0 && hz <= most)))
    throw new BadInput(
      `--at ${text} is not understood: write up to a hundred frequencies above 0 and up to ${most} Hz, as 5,20,80. Nothing was done.`,
    );
  return all;
}

/** What every filter between gyro and loop does, and all of them together. */
export function showFilters(craft: CraftFile, values: Values, at: string | undefined, json: boolean): number {
  if (at === undefined) throw new BadInput('Say at which frequencies with --at 5,20,80. Nothing was done.');
  const filters = gyroFilters(values);
  const all = frequenciesOf(at).map((hz) => ({
    hz,
    filters: filters.map((f) => ({ filter: f.name, ...does(f.at(hz), hz) })),
    chain: does(throughAll(filters, hz), hz),
  }));
  if (json) say(`${JSON.stringify({ craft: craft.name, at: all }, null, 2)}\n`);
  else
    for (const { hz, filters: each, chain } of all) {
      say(`${hz} Hz\n`);
      for (const { filter, ...d } of [...each, { filter: 'all together', ...chain }])
        say(`  ${filter.padEnd(20)} ${column(d.dB)} dB ${column(d.degrees)}° ${column(d.ms)} ms\n`);
    }
  return 0;
}

const column = (x: number): string => x.toFixed(2).padStart(8);

/** dB, degrees and the delay that they are at this frequency, ms. */
function does(response: Complex, hz: number) {
  const degrees = angleOf(response) / DEG;
  return { dB: 20 * Math.log10(sizeOf(response)), degrees, ms: (-1000 * degrees) / 360 / hz };
}
