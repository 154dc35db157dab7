import type { SurfaceId } from '#core/airframe/actuators.ts';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { avocet, turnstone } from '#core/airframe/library.ts';
import type { FailCell } from '#core/fails/failCell.ts';
import { pairPrint } from '#core/fails/prints.ts';
import { findAll } from '#core/findings/findings.ts';
import { codeOf } from '#core/findings/rule.ts';
import { DEG } from '#core/math/scalar.ts';
import { makeProof, type ProofWorld } from '#core/proofs/proofs.ts';
import type { Seen, SeenAs } from '#core/proofs/seen.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from './aloft.ts';
import { demoValues } from './demoCraft.ts';
import { example, type FindingExample } from './findingExample.ts';
import { proofWorld } from './proofWorld.ts';
import { routeExamples } from './routeExamples.ts';

type Row = readonly [what: string, change: Values, id: string];

const wing: readonly Row[] = [
  ['nothing happens on lost link', { 'lost.action': 'nothing' }, 'lost-nothing'],
  ['the motors stop on lost link', { 'lost.action': 'cut' }, 'lost-cut'],
  ['help comes late', { 'lost.guard': 20 }, 'lost-late'],
  ['the return height is in the grass', { 'return.height': 20 }, 'return-low'],
  ['the return height is below the ridge', { 'return.height': 200 }, 'return-below-ridge'],
  [
    'the return height is right and reached on the way',
    { 'return.climb': 'climb-on-the-way' },
    'return-climbs-late',
  ],
  ['the way home keeps any height', { 'return.climb': 'keep-height' }, 'return-keeps-height'],
  ['the circle is tighter than the turn', { 'loiter.radius': 20 }, 'loiter-tight'],
  ['the return speed is near the stall', { 'return.speed': 11.2, 'nav.speedFloor': 10 }, 'return-slow'],
  ['the bank stalls it', { 'level.bank': 72 }, 'bank-stall'],
  ['stall protection is at the stall', { 'nav.speedFloor': 8 }, 'floor-low'],
  ['an output is used twice', { 'out.7.drives': 'rudder' }, 'output-twice.rudder'],
  ['a surface has no output', { 'out.5.drives': 'nothing' }, 'no-output.rudder'],
  ['a motor has no output', { 'out.1.drives': 'nothing' }, 'no-output.right-motor'],
  [
    'an output is beyond the board',
    { 'out.4.drives': 'nothing', 'out.10.drives': 'elevator' },
    'output-not-there.10',
  ],
  ['an output drives what is not there', { 'out.8.drives': 'motor' }, 'not-fitted.8'],
  ['ends are inverted', { 'out.3.low': 1500, 'out.3.centre': 1400 }, 'ends-inverted.3'],
  ['a servo hardly moves', { 'out.3.centre': 1900 }, 'ends-narrow.3'],
  ['a servo is driven too fast', { 'timer.2.rate': '400' }, 'servo-rate.3'],
  ['no switch arms', { 'arm.channel': 0 }, 'arm-unset'],
  ['a dial is on the return switch', { 'dial.1.channel': 7, 'dial.1.moves': 'roll' }, 'dial-shared.1'],
  [
    'a notch waits for speeds that pulses do not bring',
    { 'gyro.notchTold': true, 'timer.1.sends': 'pulses' },
    'notch-untold',
  ],
  ['two items over the picture share cells', { 'overlay.a.mode': 120 }, 'overlay-flickers.a'],
  ['items lie outside the picture', { 'overlay.a.cell': 2010 }, 'overlay-outside.a'],
  [
    'the video system draws less than the overlay has',
    { 'overlay.system': 'dipper', 'overlay.a.horizon': 620 },
    'overlay-not-drawn.a',
  ],
  ['a height over ground is shown that nothing measures', { 'overlay.a.ground': 505 }, 'overlay-empty.a'],
  ['a strip hangs where a servo does', { 'light.lamps': 9, 'light.output': 3 }, 'strip-dark'],
  ['more is told than the way back has room for', { 'tell.attitude.rate': 10 }, 'told-too-much'],
  ['the transmitter is not told the place', { 'tell.place.rate': 0 }, 'place-not-told'],
  ['gains are found with the return switch', { 'tune.channel': 7 }, 'tune-shared'],
  [
    'a dial moves gains that are found',
    { 'tune.channel': 10, 'dial.1.channel': 11, 'dial.1.moves': 'roll' },
    'tune-dialled.1',
  ],
  [
    'two dials move one setting',
    { 'dial.1.channel': 11, 'dial.1.moves': 'roll', 'dial.2.channel': 12, 'dial.2.moves': 'rate.roll.p' },
    'dial-twice.2',
  ],
  [
    'a dial moves what only rotors have',
    { 'dial.1.channel': 11, 'dial.1.moves': 'hover.climbP' },
    'dial-idle.1',
  ],
  [
    'a dial leads to gains that ring',
    {
      'dial.1.channel': 11,
      'dial.1.moves': 'roll',
      'dial.1.span': 4,
      'rate.roll.p': 0.5,
      'rate.by': 'nothing',
    },
    'dial-rings.1',
  ],
  ['a mode is on a stick', { 'mode.level.channel': 4 }, 'switch-on-stick.mode.level'],
  ['arming and return share a switch', { 'mode.return.channel': 5 }, 'arm-and-return'],
  ['no switch levels', { 'mode.level.channel': 0 }, 'level-unset'],
  ['no switch brings it home', { 'mode.return.channel': 0 }, 'return-unset'],
  ['it arms without home', { 'arm.needFix': false }, 'return-without-home'],
  ['the cells are others', { 'battery.cells': 3 }, 'cells'],
  ['the board would refuse it', { 'battery.empty': 3.9 }, 'refused.battery.empty'],

  [
    'a servo is sent frames',
    { 'out.3.drives': 'rudder', 'out.5.drives': 'left-aileron', 'timer.2.sends': 'dshot600' },
    'servo-frames.3',
  ],
  ['nobody listens to the receiver', { 'port.2.use': 'free' }, 'no-port.receiver'],
  ['nobody listens to the GNSS receiver', { 'port.3.use': 'camera' }, 'no-port.gnss'],
  ['the link is given away', { 'port.1.use': 'free' }, 'link-port'],
  ['5 Hz with the sky are asked through 9600 baud', { 'gnss.baud': '9600' }, 'gnss-budget'],
  [
    'a port lies on the pins of a driven output',
    { 'port.6.use': 'camera', 'out.9.drives': 'left-flap' },
    'shared-pins.6',
  ],
];

const rotors: readonly Row[] = [
  ['the board flies another kind', { 'craft.kind': 'hex' }, 'craft-kind'],
  ['no compass gives a heading', { 'compass.fitted': false }, 'no-heading'],
  ['rotors get their pulses slowly', { 'timer.1.rate': '50' }, 'slow-rotors'],
  ['the way home is as fast as it can lean', { 'return.speed': 25 }, 'return-fast'],
  ['the compass is set for another place', { 'compass.declination': 3.5 }, 'compass-elsewhere'],
];

const good = demoValues('turnstone');
const six = { ...turnstone, battery: { ...turnstone.battery, cells: 6 } };
const servo = { name: 's', kind: 'servo-pwm' as const };
const flows = Array.from({ length: 16 }, (_, i) => ({
  device: 'flow' as const,
  kind: 'i2c' as const,
  address: 16 + i,
}));

const world = proofWorld('turnstone');
const seen = (what: Seen, then: Partial<ProofWorld> = {}) => ({
  proofs: [makeProof(what, { ...world, ...then }, '2026-06-01T09:00:00Z')],
  world,
});
/** The position jammed far out: it glided down, and would have come home by its airspeed. */
const jammedFarOut: FailCell = {
  fault: 'jammed',
  phase: 'out',
  print: pairPrint({ ...world, truth: world.built! }, world.board.target, { fault: 'jammed', phase: 'out' }),
  verdict: 'elsewhere',
  reason:
    'With the link lost the board glided it down 3.6 km from home. The GNSS receiver was jammed at 15 s.',
  seconds: 256,
  decisions: [{ atS: 16, text: 'No fix: goes on by speed through the air and the last wind.' }],
  saved: { label: 'Fly on without a fix for 240 s', edits: { 'lost.blind': 240 } },
};
const rotorWorld = { ...world, airframe: avocet, values: prepared(avocet) };
/** A rotor that turns the other way than it is described. */
function seenTurning() {
  const motor = avocet.motors.find((m) => m.id === 'front-left-motor')!;
  const first = motor.spin === 'clockwise' ? 'anticlockwise' : 'clockwise';
  const what: Seen = { kind: 'moved', output: 1, actuator: motor.id, first };
  return { proofs: [makeProof(what, rotorWorld, '2026-06-01T09:00:00Z')], world: rotorWorld };
}
/** Throws read so far to both sides of 1500 us, deg at the short pulse and the long one, down positive. */
function seenThrows(
  ...of: readonly (readonly [SurfaceId, offUs: number, shortDeg: number, longDeg: number])[]
) {
  const proofs = of.map(([surface, off, short, long]) => {
    const output = [1, 2, 3, 4, 5, 6].find((n) => good[`out.${n}.drives`] === surface)!;
    const readings = [
      { us: 1500 - off, angle: short * DEG },
      { us: 1500 + off, angle: long * DEG },
    ];
    return makeProof(
      { kind: 'throw', surface, output, readings },
      { ...world, values: good },
      '2026-06-01T09:00:00Z',
    );
  });
  return { proofs, world: { ...world, values: good } };
}
const outputOf = (id: string) => [1, 2, 3, 4, 5, 6].find((n) => good[`out.${n}.drives`] === id)!;
/** Controllers as they were read. */
function seenController(...of: readonly Partial<SeenAs<'controller'>>[]) {
  const usual = {
    kind: 'controller',
    output: 1,
    state: 'answers',
    product: 'Kolk',
    version: '16.2',
    values: {},
  } as const;
  const proofs = of.map((c) =>
    makeProof({ ...usual, ...c }, { ...world, values: good }, '2026-06-01T09:00:00Z'),
  );
  return { proofs, world: { ...world, values: good } };
}
/** Controllers on the first outputs, with what stands in them. */
function seenControllers(...of: readonly Readonly<Record<string, number | boolean>>[]) {
  const proofs = of.map((values, i) =>
    makeProof(
      { kind: 'controller', output: i + 1, state: 'answers', product: 'Kolk', version: '16.2', values },
      world,
      '2026-06-01T09:00:00Z',
    ),
  );
  return { proofs, world };
}
const heard = (on: string, what: string, state: string, says: string) => ({
  settled: true,
  items: [{ on, what, state, says }],
});

export const examples: readonly FindingExample[] = [
  ...routeExamples,
  ...wing.map(([what, change, id]) => example(what, id, turnstone, { ...good, ...change })),
  ...rotors.map(([what, change, id]) => example(what, id, avocet, prepared(avocet, change))),
  example('the craft is tail-heavy', 'cg-aft', { ...turnstone, cgAftM: 0.46 }, good),
  example('the craft is nose-heavy', 'cg-forward', { ...turnstone, cgAftM: 0.4 }, good),
  example(
    'the craft is heavier than its propellers can hold',
    'unfit.thrust',
    { ...turnstone, massKg: 8 },
    good,
  ),
  example('ten servos are to hang on nine outputs', 'wiring-collides', turnstone, good, {
    wishes: { outputs: Array(10).fill(servo) },
  }),
  example('the pack has more than the board takes', 'power.1', six, good, {
    target: 'cobble-f4-wing',
    wishes: {},
  }),
  example('sixteen flow sensors are to share one bus', 'bus-budget.I2C 1', turnstone, good, {
    target: 'cobble-f4-wing',
    wishes: { buses: flows },
  }),
  example(
    'a direction was seen before the output was reversed',
    'tried-before.which-moved',
    turnstone,
    good,
    {
      evidence: seen(
        { kind: 'moved', output: 5, actuator: 'rudder', first: 'left' },
        { values: { ...good, 'out.5.reversed': good['out.5.reversed'] !== true } },
      ),
    },
  ),
  example('one motor controller brakes and the other does not', 'controllers-differ.brake', turnstone, good, {
    evidence: seenControllers({ brake: true }, { brake: false }),
  }),
  example('a controller was left without a whole firmware', 'controller-dead.1', turnstone, good, {
    evidence: seenController({ state: 'loader', version: '', values: {} }),
  }),
  example('one controller runs another firmware', 'controllers-differ.version', turnstone, good, {
    evidence: seenController({ output: 1 }, { output: 2, version: '16.4' }),
  }),
  example(
    'a controller cuts off above what a Li-ion cell can go to',
    'controller-cuts-off.1',
    { ...turnstone, battery: { ...turnstone.battery, chemistry: 'li-ion' } },
    { ...good, 'battery.low': 3.1, 'battery.empty': 2.7 },
    { evidence: seenControllers({ cutoff: 3.2 }) },
  ),
  example('a row of one’s own works against the ailerons', 'rows-fight.roll', turnstone, {
    ...good,
    'mix.row.1.to': outputOf('left-aileron'),
    'mix.row.1.from': 'roll',
    'mix.row.1.weight': -0.9,
  }),
  example(
    'a rotor stands elsewhere than the board was told',
    'arms-unlike',
    avocet,
    prepared(avocet, { 'mix.rotors': 'arms' }),
  ),
  example('a row is for an output that the board has not', 'row-nowhere.2', turnstone, {
    ...good,
    'mix.row.2.to': 12,
    'mix.row.2.weight': 0.5,
  }),
  example('the left aileron hangs at rest', 'surface-off-centre.left-aileron', turnstone, good, {
    evidence: seenThrows(['left-aileron', 500, -14, 30]),
  }),
  example('the rod of the rudder is in line before its end', 'linkage-binds.rudder', turnstone, good, {
    evidence: seenThrows(['rudder', 150, -32, 32]),
  }),
  example('one aileron goes less far than the other', 'twins-unlike.left-aileron', turnstone, good, {
    evidence: seenThrows(['left-aileron', 500, -16, 16], ['right-aileron', 500, 22, -22]),
  }),
  example('the rudder’s horn is worn', 'surface-loose.rudder', turnstone, good, {
    evidence: (() => {
      const readings = [
        { us: 1000, angle: -24 * DEG },
        { us: 1500, angle: -1.5 * DEG, from: 'below' as const },
        { us: 1500, angle: 1.5 * DEG, from: 'above' as const },
        { us: 2000, angle: 24 * DEG },
      ];
      return seen({ kind: 'throw', surface: 'rudder', output: outputOf('rudder'), readings });
    })(),
  }),
  example('the elevator went along with the nose that was raised', 'follows-tilt.nose-up', turnstone, good, {
    evidence: seen({ kind: 'follows', tilt: 'nose-up', tiltDeg: 30, wrong: ['elevator'] }),
  }),
  example(
    'a rotor was seen to turn the other way',
    'turns-wrong.front-left-motor',
    avocet,
    prepared(avocet),
    { evidence: seenTurning() },
  ),
  example('the receiver was seen to hide a loss', 'loss-hidden', turnstone, good, {
    evidence: seen({ kind: 'silence', does: 'holds', noticed: false, throttleUs: 1450 }),
  }),
  example(
    'it armed while it was moved',
    'arms-by-accident.moving',
    turnstone,
    { ...good, 'arm.needStill': false },
    {
      evidence: (() => {
        const w = { ...world, values: { ...good, 'arm.needStill': false } };
        const what: Seen = { kind: 'arming', tried: 'moving', good: false };
        return { proofs: [makeProof(what, w, '2026-06-01T09:00:00Z')], world: w };
      })(),
    },
  ),
  example('the last rehearsal ended in the ridge', 'not-home', turnstone, good, {
    evidence: seen({ kind: 'flight', verdict: 'terrain', luck: false, seconds: 300 }),
  }),
  example(
    'a compass answers that is said not to be there',
    'part-unused.compass',
    turnstone,
    { ...good, 'compass.fitted': false },
    { selfTest: heard('I2C 1', 'compass', 'answers', '') },
  ),
  example('the wires of the GNSS receiver are swapped', 'part-garbled.port 3', turnstone, good, {
    selfTest: heard('port 3', 'GNSS receiver', 'crossed', 'It is heard on the pad that the board sends on.'),
  }),
  example('a board was met and its mounting never shown', 'mounting-unconfirmed', turnstone, good, {
    evidence: { proofs: [], world },
  }),
  example('the accelerometer is off after it was taught', 'accel-residual.1', turnstone, good, {
    evidence: seen({ kind: 'accel', chip: 1, before: 0.4, left: 0.22 }),
  }),
  example('the mounting is confirmed and level was never said', 'level-missing', turnstone, good, {
    evidence: seen({ kind: 'mounted', rollDeg: 0, pitchDeg: 0, yawDeg: 0, fineDeg: 0.3, offDeg: 1 }),
  }),
  example('a compass is fitted and was never taught', 'compass-untaught', avocet, prepared(avocet), {
    evidence: { proofs: [], world: rotorWorld },
  }),
  example('the compass was taught far from here', 'compass-taught-elsewhere', avocet, prepared(avocet), {
    evidence: {
      proofs: [
        makeProof(
          { kind: 'compass', coverage: 1, residual: 0.01, strength: 45, headingErrorDeg: 1, lat: 45, lon: 7 },
          { ...rotorWorld, site: { ...world.site, home: { ...world.site.home, lat: 45, lon: 7 } } },
          '2026-06-01T09:00:00Z',
        ),
      ],
      world: rotorWorld,
    },
  }),
  example('the compass sits over the wires', 'compass-by-wires', avocet, prepared(avocet), {
    evidence: {
      proofs: [
        makeProof(
          { kind: 'compass-current', perAmp: 0.5, mostA: 40, verdict: 'move-it' },
          rotorWorld,
          '2026-06-01T09:00:00Z',
        ),
      ],
      world: rotorWorld,
    },
  }),
  example(
    'a mode waits for a position that its switch has not',
    'switch-surprise.loose.height',
    turnstone,
    { ...good, 'mode.height.channel': 8, 'mode.height.from': 1300, 'mode.height.to': 1700 },
    { transmitter: { switches: [{ channel: 8, positions: [1000, 2000] }] } },
  ),
  example('a mode is asked for where the arming switch is off', 'switch-surprise.disarms.level', turnstone, {
    ...good,
    'mode.level.channel': 5,
    'mode.level.from': 900,
    'mode.level.to': 1100,
  }),
  example('a later mode is asked for wherever this one is', 'switch-surprise.beaten.height', turnstone, {
    ...good,
    'mode.height.channel': 9,
    'mode.loiter.channel': 9,
  }),
  example('a mode needs what the craft has not', 'switch-surprise.cannot.loiter', turnstone, {
    ...good,
    'port.3.use': 'free',
    'mode.loiter.channel': 9,
  }),
  example(
    'a switch rests on the edge of a band',
    'switch-surprise.edge.level',
    turnstone,
    { ...good, 'mode.level.from': 1495 },
    { transmitter: { switches: [{ channel: 6, positions: [1000, 1500, 2000] }] } },
  ),
  example(
    'the arming switch lies beside the one for return home',
    'switch-danger.beside.5',
    turnstone,
    good,
    {
      transmitter: {
        switches: [
          { channel: 5, positions: [1000, 2000], place: 0 },
          { channel: 7, positions: [1000, 2000], place: 2 },
        ],
      },
    },
  ),
  example('no meter was ever held to the battery', 'volts-unchecked', turnstone, good, {
    evidence: { proofs: [], world },
  }),
  example('a fan pulled at the barometer', 'baro-pulled', turnstone, good, {
    evidence: seen({ kind: 'slipstream', shiftM: 1.9, atCruiseM: 3.8, verdict: 'shield-it' }),
  }),
  example(
    'a failure that was flown ended badly, and a setting would have saved it',
    'failure-saved.jammed',
    turnstone,
    world.values,
    {
      evidence: { proofs: [], world },
      fails: [jammedFarOut],
    },
  ),
  example('what was written waits for a restart', 'restart-waits', turnstone, good, {
    live: { restartNeeded: true },
  }),
];

/** docs/findings.md: each rule once, with what it says of its first example. */
export function findingsPage(): string {
  const seen = new Set<string>();
  const rows: string[] = [];
  for (const e of examples) {
    const code = codeOf(e.id);
    if (seen.has(code)) continue;
    seen.add(code);
    const f = findAll(e.input).find((x) => x.id === e.id);
    if (!f) throw new Error(`${e.id} is not raised by its example`);
    const craft = isRotorcraft(e.input.airframe) ? ', on rotors' : '';
    rows.push(
      [
        `## \`${code}\``,
        '',
        `${f.severity === 'blocks' ? 'Blocks flight' : 'Caution'}; mended at \`${f.station}\`. Raised when ${e.what}${craft}:`,
        '',
        `> **${f.title}.** ${f.why}`,
        '',
        f.fix
          ? `Offers: ${f.fix.label} (${Object.entries(f.fix.edits)
              .map(([k, v]) => `\`${k}\` = ${v}`)
              .join(', ')}).`
          : 'Offers no edit: somebody has to decide, or to do something.',
        '',
      ].join('\n'),
    );
  }
  return [
    '# Findings',
    '',
    'Every rule that looks at a craft all the time, with a mistake that raises it and what it then says. Made by',
    '`npm run demo` from `src/testing/findingExamples.ts`; a test holds that each rule is here, that its fix ends it, and that',
    'this page is as the rules are.',
    '',
    rows.sort().join('\n'),
  ].join('\n');
}
