import { actuatorNames, isMotor } from '../../airframe/actuators.ts';
import { kolkEntries } from '../../controllers/kolk.ts';
import { sendsFrames } from '../../mixer/pulseTiming.ts';
import { stateOf } from '../../proofs/proofs.ts';
import type { SeenAs } from '../../proofs/seen.ts';
import { settingOf } from '../../settings/typed.ts';
import { type FindingInput, finding, outputsOf, type Rule } from '../rule.ts';

/** What stands in the motor controllers, as far as they were read. */

/** A Li-ion cell still has a fifth of its charge at this voltage, V. */
const LI_ION_CUTOFF_V = 2.8;

function controllersRead(
  { evidence }: FindingInput,
  state: SeenAs<'controller'>['state'] = 'answers',
): readonly SeenAs<'controller'>[] {
  if (!evidence) return [];
  return evidence.proofs.flatMap(({ seen, ...p }) =>
    seen.kind === 'controller' && stateOf({ ...p, seen }, evidence.world) === 'proven' && seen.state === state
      ? [seen]
      : [],
  );
}

/** A controller that was left in its loader turns nothing. */
const noFirmware: Rule = (input) =>
  controllersRead(input, 'loader').map((c) =>
    finding(
      `controller-dead.${c.output}`,
      'blocks',
      'motors',
      `The controller on output ${c.output} has no whole firmware`,
      'It waits in its loader and turns its motor no more. What was written of a new firmware stays: bring it to the end.',
      [],
    ),
  );

/** Controllers of one craft that run different firmware. */
const otherFirmware: Rule = (input) => {
  const read = controllersRead(input);
  if (new Set(read.map((c) => c.version)).size < 2) return [];
  return [
    finding(
      'controllers-differ.version',
      'caution',
      'motors',
      'The motor controllers run different firmware',
      `${read.map((c) => `output ${c.output}: ${c.product} ${c.version}`).join(', ')}. They may start, brake and tell otherwise than each other: bring them to one version.`,
      [],
    ),
  ];
};

/** Controllers of one craft that are set otherwise than each other; direction may differ. */
const unlike: Rule = (input) => {
  const read = controllersRead(input);
  return kolkEntries
    .filter((e) => e.key !== 'direction')
    .flatMap((e) => {
      const said = new Set(read.map((c) => JSON.stringify(c.values[e.key])));
      if (said.size < 2) return [];
      const words = read.map((c) => {
        const drives = settingOf(input.values, `out.${c.output}.drives`);
        const v = c.values[e.key];
        return `${drives && isMotor(drives) ? actuatorNames[drives] : `output ${c.output}`} ${v === true ? 'on' : v === false ? 'off' : String(v)}`;
      });
      return [
        finding(
          `controllers-differ.${e.key}`,
          'caution',
          'motors',
          `The motor controllers differ in ${e.label.toLowerCase()}`,
          `${words.join(', ')}. One motor then answers otherwise than the other, and the craft turns with the throttle.`,
          [],
        ),
      ];
    });
};

/** A controller that takes the power away in flight, where the board could have come home. */
const cutsOff: Rule = (input) => {
  if (input.airframe.battery.chemistry !== 'li-ion') return [];
  return controllersRead(input).flatMap((c) => {
    const volts = c.values.cutoff;
    if (typeof volts !== 'number' || volts <= LI_ION_CUTOFF_V) return [];
    return [
      finding(
        `controller-cuts-off.${c.output}`,
        'caution',
        'motors',
        `The controller on output ${c.output} stops its motor at ${volts} V a cell`,
        'A Li-ion cell has a good part of its charge left there: the motor would stop on the way home. Turn the cut-off off, and let the board watch the battery.',
        [],
      ),
    ];
  });
};

/** Notches that wait for a speed that nobody tells: pulses bring nothing back. */
const notchUntold: Rule = ({ values, description }) => {
  if (settingOf(values, 'gyro.notchTold') !== true || (settingOf(values, 'gyro.notch') ?? 0) === 0) return [];
  const pulsed = outputsOf(values).filter(
    ({ n, drives }) =>
      isMotor(drives) &&
      description &&
      !sendsFrames(values, description.pads.find((p) => p.output === n)?.timer),
  );
  if (pulsed.length === 0) return [];
  return [
    finding(
      'notch-untold',
      'caution',
      'shakes',
      'The notch waits for speeds that nobody tells',
      `Output ${pulsed.map((p) => p.n).join(', ')} sends pulses, which bring nothing back: the notch stays where it would be without. Send frames, or let it follow the throttle.`,
      ['gyro.notchTold'],
      {
        label: 'Follow the throttle instead',
        edits: { 'gyro.notchTold': false, 'gyro.notchFollows': true },
      },
    ),
  ];
};

export const controllerRules: readonly Rule[] = [unlike, cutsOff, noFirmware, otherFirmware, notchUntold];
