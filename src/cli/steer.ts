import { isRotorcraft } from '#core/airframe/airframe.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { authorityOf, mixRows } from '#core/mixer/authority.ts';
import { linkageReport, linkageSchema } from '#core/mixer/linkageReport.ts';
import { modeName } from '#core/modes/modes.ts';
import {
  armsIn,
  bandsOf,
  decider,
  enumerate,
  inputsOf,
  inTheAir,
  issuesOf,
  positionsOf,
} from '#core/modes/switchMap.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { readAs } from './input.ts';
import { say } from './output.ts';

const MAX_LINKAGE_BYTES = 100_000;

/** What a measured linkage gives over its travel; exit code 1 where it binds or the readings do not fit it. */
export function linkageFile(file: string, json: boolean): number {
  const read = readAs(linkageSchema, file, MAX_LINKAGE_BYTES);
  const report = linkageReport(read);
  if (json) say(`${JSON.stringify(report, null, 2)}\n`);
  else if ('refused' in report) say(`${report.refused}\n`);
  else {
    say(`Arm ${report.armMm} mm, rod ${report.rodMm} mm.\n`);
    say('   pulse    servo   surface  trailing edge  leverage\n');
    for (const p of report.points)
      say(
        p.deg === null
          ? `${column(p.us, 0, 5)} us ${column(p.servoDeg, 1, 6)}°   binds\n`
          : `${column(p.us, 0, 5)} us ${column(p.servoDeg, 1, 6)}° ${column(p.deg, 1, 7)}° ${column(p.edgeMm!, 1, 10)} mm ${column(p.leverage!, 2, 9)}\n`,
      );
    say(
      report.binds
        ? `It binds: it moves freely from ${report.freeFromUs} to ${report.freeToUs} us only. Keep the ends within, or turn the arm back to square.\n`
        : `It moves freely; at the ends it is ${Math.round(100 * (1 - report.endsShare))} % weaker than in the middle.\n`,
    );
    if (Math.abs(report.middleDeg) > MIDDLE_DEG)
      say(
        `With the servo at its middle the surface stands ${Math.abs(report.middleDeg).toFixed(1)}° ${report.middleDeg > 0 ? 'down' : 'up'}: turn the clevis before anything is trimmed.\n`,
      );
  }
  return 'refused' in report || report.binds || Math.abs(report.middleDeg) > MIDDLE_DEG ? 1 : 0;
}

/** Farther off than this the middle is a matter of the rod, not of trim. */
const MIDDLE_DEG = 2;

const column = (v: number, digits: number, width: number) => v.toFixed(digits).padStart(width);

/** What the mix of a craft does to it; exit code 1 where an axis that it needs has no command. */
export function showMix(craft: CraftFile, values: Values, speed: number | undefined, json: boolean): number {
  const { airframe } = craft;
  const rows = mixRows(airframe, values);
  const authority = authorityOf(airframe, values, speed);
  // A wing turns by banking: it flies without a command about yaw.
  const wanting = authority.lacking.filter((a) => isRotorcraft(airframe) || a !== 'yaw');
  if (json) say(`${JSON.stringify({ craft: craft.name, rows, ...authority, wanting }, null, 2)}\n`);
  else {
    say('output  drives                    roll  pitch    yaw  throttle   flap\n');
    for (const { output, drives, mix } of rows)
      say(
        `${String(output).padStart(6)}  ${drives.padEnd(22)} ${[mix.roll, mix.pitch, mix.yaw].map((v) => column(v, 2, 6)).join(' ')}    ${column(mix.throttle, 2, 6)} ${column(mix.flap, 2, 6)}\n`,
      );
    say(
      isRotorcraft(airframe)
        ? 'Full commands in a hover turn it by\n'
        : `Full commands at ${authority.speedMps.toFixed(1)} m/s turn it by\n`,
    );
    (['roll', 'pitch', 'yaw'] as const).forEach((axis, i) => {
      say(`  ${axis.padEnd(6)} ${column(authority.turns[i]![i]!, 1, 8)} rad/s²\n`);
    });
    for (const axis of authority.lacking)
      say(
        wanting.includes(axis)
          ? `Nothing turns it about ${axis}.\n`
          : `Nothing turns it about ${axis} alone; a wing turns by banking.\n`,
      );
    for (const { commands, lost } of authority.together)
      for (const axis of commands)
        if (lost[axis] > 0.01 && commands.length === 2)
          say(
            `Full ${commands.join(' and ')} together: ${Math.round(100 * lost[axis])} % of ${axis} is lost.\n`,
          );
  }
  return wanting.length === 0 ? 0 : 1;
}

/** More combinations than this are counted by what wins, not listed. */
const MOST_LISTED = 162;

/** Every combination of the switches with the mode that wins in the air; exit code 1 where something surprises. */
export function showSwitches(craft: CraftFile, values: Values, json: boolean): number {
  const rotors = isRotorcraft(craft.airframe);
  const bands = bandsOf(values);
  const map = enumerate(bands, inputsOf(bands, craft.transmitter?.switches));
  const decide = decider(inTheAir(values, rotors));
  const issues = issuesOf(map, values, rotors);
  const cells = [...map.masks].map((mask, c) => ({
    pulses: Object.fromEntries(
      positionsOf(map, c).map((p, i) => [map.inputs[i]!.channel, map.inputs[i]!.positions[p]!]),
    ),
    armed: armsIn(mask),
    wins: decide(mask),
  }));
  if (json)
    say(
      `${JSON.stringify({ craft: craft.name, inputs: map.inputs, combinations: cells, issues }, null, 2)}\n`,
    );
  else {
    say(
      `Channels ${map.inputs.map((i) => i.channel).join(', ')}, each taken to know 1000, 1500 and 2000 us.\n`,
    );
    if (cells.length <= MOST_LISTED)
      for (const cell of cells)
        say(
          `  ${Object.entries(cell.pulses)
            .map(([ch, us]) => `${ch}: ${us}`)
            .join('  ')}  ${cell.armed ? 'armed' : '     '}  ${modeName(cell.wins)}\n`,
        );
    else {
      const count = new Map<string, number>();
      for (const { wins } of cells) count.set(wins, (count.get(wins) ?? 0) + 1);
      for (const [mode, n] of count) say(`  ${String(n).padStart(6)} combinations  ${modeName(mode)}\n`);
    }
    for (const issue of issues) say(`${issue.sentence}\n`);
    say(
      `${cells.length} combinations, ${issues.length === 0 ? 'nothing that surprises' : issues.length === 1 ? '1 surprise' : `${issues.length} surprises`}.\n`,
    );
  }
  return issues.length === 0 ? 0 : 1;
}
