import { actuatorNames } from '../../airframe/actuators.ts';
import { turnsWrong } from '../../proofs/follows.ts';
import { changedSince, type Proof, staleWords, stateOf } from '../../proofs/proofs.ts';
import { armTriedWords, lossWords } from '../../proofs/proofWords.ts';
import { pushMore } from '../../proofs/rotorAnswers.ts';
import type { Seen, Tilt } from '../../proofs/seen.ts';
import { surfacesAgainst } from '../../proofs/surfaceAnswers.ts';
import { type Finding, finding, type Rule, type StationId } from '../rule.ts';

/** What was seen on the bench, what flew in rehearsals, what answers on the board, and how the board is now. */

/** What was tried or measured on the bench, and where that is done. */
export const triedAt: Readonly<Partial<Record<Seen['kind'], StationId>>> = {
  moved: 'which-moved',
  still: 'which-moved',
  stick: 'sticks',
  'stick-ends': 'sticks',
  opposes: 'opposes',
  follows: 'opposes',
  arming: 'ready-to-arm',
  receiver: 'receiver',
  silence: 'radio-silent',
  throw: 'throws',
  controller: 'motors',
  mounted: 'mounted',
  accel: 'poses',
  'gyro-rest': 'shaken',
  shake: 'shaken',
  levelled: 'level',
  fix: 'position',
  compass: 'compass',
  'compass-current': 'compass',
  baro: 'air',
  slipstream: 'air',
  range: 'air',
  flow: 'air',
  tube: 'airspeed',
  'tube-scale': 'airspeed',
  volts: 'volts',
  amps: 'volts',
  charge: 'volts',
  sag: 'volts',
};

const triedWords: Readonly<Partial<Record<StationId, (n: number) => string>>> = {
  'which-moved': (n) => (n === 1 ? 'An output was tried' : `${n} outputs were tried`),
  sticks: (n) => (n === 1 ? 'A stick was tried' : `${n} things about the sticks were tried`),
  opposes: (n) => (n === 1 ? 'A tilt was answered' : `${n} tilts were answered`),
  throws: (n) => (n === 1 ? 'A throw was measured' : `${n} throws were measured`),
  'radio-silent': () => 'The radio was silenced',
  mounted: () => 'The mounting was shown',
  level: () => 'Level was shown',
  position: () => 'A fix was seen',
};
const measured = (n: number) => (n === 1 ? 'It was measured' : `${n} things were measured`);

/** What was seen before something changed holds no longer, however good it was. */
const triedBefore: Rule = ({ evidence }) => {
  if (!evidence) return [];
  const { proofs, world } = evidence;
  const stale = new Map<StationId, Proof[]>();
  for (const p of proofs) {
    const at = triedAt[p.seen.kind];
    if (!at || changedSince(p, world).length === 0) continue;
    stale.set(at, [...(stale.get(at) ?? []), p]);
  }
  return [...stale].map(([station, of]) => {
    const why = [...new Set(of.map((p) => staleWords(p, world)))].join('; ');
    return finding(
      `tried-before.${station}`,
      'caution',
      station,
      `${(triedWords[station] ?? measured)(of.length)} before something changed`,
      `Since then ${why}. What was seen holds no longer: try again before you fly.`,
      [],
    );
  });
};

const tiltWords: Readonly<Record<Tilt, string>> = {
  'roll-right': 'the right wing is down',
  'roll-left': 'the left wing is down',
  'nose-up': 'the nose is up',
  'nose-down': 'the nose is down',
  'yaw-right': 'it is turned to the right',
  'yaw-left': 'it is turned to the left',
};

/** A receiver that goes on as if nothing were, and a board that believes it: the craft flies away. */
const lossHidden: Rule = ({ evidence }) => {
  const proof = evidence?.proofs.find((p) => p.id === 'silence');
  if (!evidence || proof?.seen.kind !== 'silence' || stateOf(proof, evidence.world) !== 'proven') return [];
  const { does, noticed } = proof.seen;
  if (noticed) return [];
  return [
    finding(
      'loss-hidden',
      'blocks',
      'radio-silent',
      'The receiver hides a lost link from the board',
      `With the transmitter off it ${lossWords[does]}, and the board took that for a pilot. It would fly on as it was until the battery is empty.`,
      ['rx.lossBelow', 'rx.quality.channel'],
    ),
  ];
};

/** It armed where it must not: motors turn in somebody's hands. */
const armsByAccident: Rule = ({ evidence, values }) =>
  (evidence?.proofs ?? []).flatMap((proof) => {
    const { seen } = proof;
    if (seen.kind !== 'arming' || seen.good || stateOf(proof, evidence!.world) !== 'proven') return [];
    if (seen.tried === 'in-peace')
      return [
        finding(
          'arms-by-accident.in-peace',
          'blocks',
          'ready-to-arm',
          'The arming switch does not disarm',
          'It was put off and the craft stayed armed. Motors that cannot be stopped by the switch must not be flown.',
          ['arm.channel'],
        ),
      ];
    const fix: Readonly<Record<string, Finding['fix']>> = {
      throttle: { label: 'Arm only with the throttle down', edits: { 'arm.throttle': 0.05 } },
      tilted: { label: 'Arm only within 45° of level', edits: { 'arm.tilt': 45 } },
      moving: { label: 'Arm only when it is still', edits: { 'arm.needStill': true } },
    };
    const cure = fix[seen.tried];
    if (cure && Object.entries(cure.edits).every(([k, v]) => values[k] === v)) return [];
    return [
      finding(
        `arms-by-accident.${seen.tried}`,
        seen.tried === 'moving' ? 'caution' : 'blocks',
        'ready-to-arm',
        `It armed with the switch ${armTriedWords[seen.tried]}`,
        'That was seen on the bench. With propellers on they would have turned in somebody’s hands.',
        seen.tried === 'throttle'
          ? ['arm.throttle']
          : seen.tried === 'tilted'
            ? ['arm.tilt']
            : ['arm.needStill'],
        cure,
      ),
    ];
  });

/** A surface was seen to go along with a tilt: such a craft rolls or dives into the ground as soon as it is levelled. */
const followsTilt: Rule = ({ evidence }) => {
  if (!evidence) return [];
  const { proofs, world } = evidence;
  return proofs.flatMap((p): Finding[] => {
    if (p.seen.kind !== 'follows' || changedSince(p, world).length > 0) return [];
    const { tilt, wrong } = p.seen;
    const names = wrong.map((id) => actuatorNames[id]).join(' and the ');
    const surfaces = surfacesAgainst(world.airframe, tilt);
    const all: readonly string[] = surfaces.length > 0 ? surfaces : pushMore(world.airframe, tilt);
    const why =
      wrong.length === all.length && all.length > 1
        ? 'All of them do, so most likely the board lies the other way round than its settings say: look at how it is mounted.'
        : 'What was said of how it moves was taken back. Let it move once more at Which one moved?, look at the craft itself, and answer which way it went first.';
    return [
      finding(
        `follows-tilt.${tilt}`,
        'blocks',
        wrong.length === all.length && all.length > 1 ? 'opposes' : 'which-moved',
        `The ${names} ${wrong.length === 1 ? 'does' : 'do'} not oppose when ${tiltWords[tilt]}`,
        `That was seen on the bench, on the board as it is now. ${why}`,
        [],
      ),
    ];
  });
};

/** A rotor turns the other way than it should: its thrust is right and its torque turns the craft the wrong way. */
const turnsOtherWay: Rule = ({ evidence }) => {
  if (!evidence) return [];
  return turnsWrong(evidence.proofs, evidence.world).map((id) => {
    const { spin } = evidence.world.airframe.motors.find((m) => m.id === id)!;
    const name = actuatorNames[id];
    return finding(
      `turns-wrong.${id}`,
      'blocks',
      'which-moved',
      `The ${name} turns the wrong way`,
      `It was seen to turn ${spin === 'clockwise' ? 'anticlockwise' : 'clockwise'} from above; the craft is described, and its turning about yaw computed, with it ${spin}. Swap two of its three wires, or, where it is meant so, say so at The craft; then let it turn once more.`,
      [],
    );
  });
};

/** The settings as they are flew, and did not come home. */
const didNotComeHome: Rule = ({ evidence }) => {
  const flight = evidence?.proofs.find((p) => p.seen.kind === 'flight');
  if (!evidence || flight?.seen.kind !== 'flight' || stateOf(flight, evidence.world) !== 'proven') return [];
  const { verdict, luck } = flight.seen;
  if (verdict === 'home' && !luck) return [];
  return [
    finding(
      'not-home',
      'caution',
      'one-flight',
      luck ? 'It came home by luck' : 'It did not come home in rehearsal',
      luck
        ? 'The flight over everything as it is now ended otherwise with other gusts and noise.'
        : 'The last flight was flown over everything as it is now; its verdict says why, and what would have changed it.',
      [],
    ),
  ];
};

/** Settings that say whether a sensor is fitted, by what the board calls it in its self-test. */
const fittedKeys: Readonly<Record<string, string>> = {
  compass: 'compass.fitted',
  'airspeed sensor': 'pitot.fitted',
  rangefinder: 'range.fitted',
  'optical flow': 'flow.fitted',
};

/** A sensor answers that the settings know nothing of. */
const partUnused: Rule = ({ selfTest, values }) =>
  (selfTest?.settled ? selfTest.items : []).flatMap(({ what, state }) => {
    const key = fittedKeys[what];
    if (state !== 'answers' || key === undefined || values[key] !== false) return [];
    return [
      finding(
        `part-unused.${key.split('.')[0]}`,
        'caution',
        'wiring',
        `The ${what} answers, and is not used`,
        'The settings say that none is fitted, so whatever it tells is not listened to.',
        [key],
        { label: `Use the ${what}`, edits: { [key]: true } },
      ),
    ];
  });

/** A part is heard and not understood: that is a mistake of wiring or speed, whatever else is out. */
const partGarbled: Rule = ({ selfTest }) =>
  (selfTest?.settled ? selfTest.items : []).flatMap(({ on, what, state, says }): Finding[] => {
    if (state !== 'garbage' && state !== 'crossed') return [];
    const title =
      state === 'crossed' ? `The wires of the ${what} are swapped` : `The ${what} on ${on} is not understood`;
    return [finding(`part-garbled.${on}`, 'blocks', 'wiring', title, says, [])];
  });

/** The board stores what it does not run on yet. */
const restartWaits: Rule = ({ live }) =>
  live?.restartNeeded
    ? [
        finding(
          'restart-waits',
          'caution',
          'board',
          'The board does not run on all that it stores',
          'Some of what was written takes effect only after a restart: until then it flies otherwise than is shown here.',
          [],
        ),
      ]
    : [];

export const seenRules: readonly Rule[] = [
  followsTilt,
  turnsOtherWay,
  lossHidden,
  armsByAccident,
  triedBefore,
  didNotComeHome,
  partUnused,
  partGarbled,
  restartWaits,
];
