import { actuatorNames } from '../airframe/actuators.ts';
import { isFirstFlight, lookFigures } from '../field/looks.ts';
import { DEG } from '../math/scalar.ts';
import { formatQuantity } from '../units/units.ts';
import type { Seen, SeenAs } from './seen.ts';

const tilt = {
  'roll-right': 'right wing down',
  'roll-left': 'left wing down',
  'nose-up': 'nose up',
  'nose-down': 'nose down',
  'yaw-right': 'turned to the right',
  'yaw-left': 'turned to the left',
};

/** What a receiver does at a loss, to follow its name. */
export const lossWords: Readonly<Record<SeenAs<'silence'>['does'], string>> = {
  stops: 'falls silent',
  'says-so': 'says that it hears nothing',
  holds: 'says the last values again',
  'makes-up': 'makes values up',
};

/** How the arming switch was put on. */
export const armTriedWords: Readonly<Record<SeenAs<'arming'>['tried'], string>> = {
  'at-start': 'on at the start of the board',
  throttle: 'on with the throttle up',
  tilted: 'on while it was tilted',
  moving: 'on while it was moved',
  'in-peace': 'on in peace',
};

function lookedWords({ line, good, figure }: SeenAs<'looked'>): string {
  const verdict = isFirstFlight(line)
    ? good
      ? 'flown, and well'
      : 'flown, and not well'
    : good
      ? 'looked at, and well'
      : 'looked at, and not well';
  const of = lookFigures[line];
  return of && figure !== undefined ? `${formatQuantity(figure, of.unit)}, ${verdict}` : verdict;
}

/** What was seen, with its figures, as the beginning of a line; null for what is not shown by itself. Length in metres. */
export function proofWords(seen: Seen): string | null {
  switch (seen.kind) {
    case 'moved':
      return `output ${seen.output}: ${actuatorNames[seen.actuator]}, first ${seen.first}`;
    case 'still':
      return `output ${seen.output}: nothing`;
    case 'opposes':
      return `${tilt[seen.tilt]}, ${Math.abs(seen.tiltDeg).toFixed(0)}${seen.tilt.startsWith('yaw') ? ' °/s' : '°'}: ${seen.rotors ? 'the rotors would oppose' : 'the surfaces oppose'}`;
    case 'follows':
      return `${tilt[seen.tilt]}: ${seen.wrong.map((id) => actuatorNames[id]).join(', ')} not opposing`;
    case 'stick':
      return `${seen.stick} on channel ${seen.channel}`;
    case 'stick-ends':
      return `ends and middles of all sticks, ${seen.noiseUs.toFixed(1)} µs of noise`;
    case 'receiver':
      return `receiver heard, ${seen.hz.toFixed(0)} frames a second`;
    case 'silence':
      return `radio silent: the receiver ${lossWords[seen.does]}, ${seen.noticed ? 'noticed' : 'not noticed'}`;
    case 'lost-drill':
      return `transmitter off: noticed after ${seen.noticedS.toFixed(1)} s, acted after ${seen.actsS.toFixed(1)} s`;
    case 'home-arrow':
      return `walked ${seen.distanceM.toFixed(0)} m away, the arrow ${seen.good ? 'points' : 'does not point'} home`;
    case 'arrival':
      return `arrival, home in ${seen.home} of ${seen.total} winds`;
    case 'fails':
      return `what may go wrong, flown: ${seen.home} home, ${seen.down} down where it was, ${seen.lost} lost`;
    case 'looked':
      return lookedWords(seen);
    case 'reach':
      return `map of the reach, right in ${seen.right} of ${seen.flown} flights`;
    case 'arming':
      return `arming switch ${armTriedWords[seen.tried]}: ${seen.tried === 'in-peace' ? (seen.good ? 'armed and disarmed' : 'did not disarm') : seen.good ? 'refused' : 'it armed'}`;
    case 'controller':
      return `controller on output ${seen.output}: ${seen.state === 'answers' ? 'read' : seen.state}`;
    case 'ends-taught':
      return `ends taught to the controllers on ${seen.outputs.length === 1 ? 'output' : 'outputs'} ${seen.outputs.join(', ')}`;
    case 'throw':
      return `throw of the ${actuatorNames[seen.surface]}, ${seen.readings.length} readings`;
    case 'mounted':
      return `mounting, ${seen.offDeg.toFixed(0)}° off straight`;
    case 'accel':
      return `accelerometer ${seen.chip}, ${seen.left.toFixed(3)} m/s² left`;
    case 'gyro-rest':
      return `gyro ${seen.chip} at rest, ${(Math.hypot(...seen.bias) / DEG).toFixed(2)} °/s of its own`;
    case 'shake':
      return `run-up, ${(seen.rms / DEG).toFixed(1)} °/s at ${Math.round(100 * seen.throttle)} % throttle`;
    case 'levelled':
      return `level, within ${seen.leftDeg.toFixed(1)}°`;
    case 'fix':
      return `fix with ${seen.used} satellites after ${seen.seconds.toFixed(0)} s`;
    case 'compass':
      return `compass, heading within ${seen.headingErrorDeg.toFixed(1)}°, ${(100 * seen.residual).toFixed(1)} % left over`;
    case 'compass-current':
      return `compass, ${seen.perAmp.toFixed(2)} µT per ampere up to ${seen.mostA.toFixed(0)} A`;
    case 'volts':
      return `${seen.boardV.toFixed(2)} V by the board, ${seen.meterV.toFixed(2)} V by the meter`;
    case 'amps':
      return `${seen.boardA.toFixed(1)} A by the board, ${seen.knownA.toFixed(1)} A known`;
    case 'charge':
      return `${seen.countedMah.toFixed(0)} mAh counted, ${seen.chargedMah.toFixed(0)} mAh charged`;
    case 'sag':
      return `sag, ${seen.ohms.toFixed(3)} Ω up to ${seen.mostA.toFixed(0)} A`;
    case 'baro':
      return 'barometer at rest';
    case 'slipstream':
      return `barometer blown at, ${seen.verdict === 'shielded' ? 'shielded' : 'pulled'}`;
    case 'range':
      return 'rangefinder, lifted';
    case 'flow':
      return `optical flow, scale within ${(100 * Math.abs(seen.scale - 1)).toFixed(0)} %`;
    case 'tube':
      return `tube, ${seen.peakPa.toFixed(0)} Pa of a breath`;
    case 'tube-scale':
      return `tube’s scale, within ${(200 * seen.sigma).toFixed(1)} %`;
    // Taken on the way to something else, or shown where they are.
    default:
      return null;
  }
}
