import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import {
  HYSTERESIS_US,
  type ModeId,
  type ModeView,
  modeIds,
  modeName,
  type SwitchBand,
  type SwitchedMode,
  switchedModes,
  whyNot,
} from './modes.ts';

/** What a position of a switch can ask for. */
export type Asked = 'arm' | SwitchedMode;

export interface AskBand extends SwitchBand {
  readonly asks: Asked;
}

/** A switch, lever or dial of the transmitter as it reaches the board: a channel and the pulses that it knows, ascending. */
export interface SwitchInput {
  readonly channel: number;
  /** us */
  readonly positions: readonly number[];
  /** It was never flicked: the positions are a guess. */
  readonly guessed?: boolean;
  /** It turns without steps: where it is known, its positions are its ends; among bands, the middle of each part of its way. */
  readonly dial?: boolean | undefined;
  /** Noise of its pulse at rest, one sigma, us. */
  readonly noiseUs?: number | undefined;
}

const ARM_BIT = 1 << switchedModes.length;
const MODE_BITS = ARM_BIT - 1;
const bitOf = (asks: Asked) => (asks === 'arm' ? ARM_BIT : 1 << switchedModes.indexOf(asks));

/** Noise of a switch at rest, where it was not measured, one sigma, us. */
const USUAL_NOISE_US = 1;
/** Of a switch that nobody flicked yet, us. */
const USUAL_POSITIONS = [1000, 1500, 2000];

/** What the settings wait for on which channel; only what has a channel. */
export function bandsOf(values: Values): AskBand[] {
  const s = settingsOf(values);
  return (['arm', ...switchedModes] as const).flatMap((asks) => {
    const id = asks === 'arm' ? ('arm' as const) : (`mode.${asks}` as const);
    const channel = s.number(`${id}.channel`);
    return channel > 0 ? [{ asks, channel, fromUs: s.number(`${id}.from`), toUs: s.number(`${id}.to`) }] : [];
  });
}

/** The inputs that matter to bands: those that are known, and three positions for each of the others. */
export function inputsOf(bands: readonly AskBand[], known: readonly SwitchInput[] = []): SwitchInput[] {
  const channels = [...new Set(bands.map((b) => b.channel))].sort((a, b) => a - b);
  return channels.map((channel) => {
    const own = known.find((k) => k.channel === channel);
    return own ? inParts(bands, own) : { channel, positions: USUAL_POSITIONS, guessed: true };
  });
}

/** Parts of a dial's way that nobody can hit are none, us. */
const PART_LEAST_US = 40;

/**
 * A dial by the parts of its way that ask for different things, and at least its thirds, each by its middle: all that it can ask for is
 * among them. A switch as it is.
 */
export function inParts(bands: readonly AskBand[], input: SwitchInput): SwitchInput {
  if (!input.dial) return input;
  const [low, high] = [input.positions[0]!, input.positions.at(-1)!];
  const edges = bands.flatMap((b) => (b.channel === input.channel ? [b.fromUs, b.toUs] : []));
  const thirds = [low, low + (high - low) / 3, high - (high - low) / 3, high];
  const inside = [...edges, ...thirds].filter((us) => us >= low && us <= high).sort((a, b) => a - b);
  const cuts: number[] = [];
  for (const us of inside) if (cuts.length === 0 || us - cuts.at(-1)! >= PART_LEAST_US) cuts.push(us);
  const positions = cuts.slice(1).map((us, k) => Math.round((us + cuts[k]!) / 2));
  return { ...input, positions };
}

/** Every combination of all positions. */
export interface SwitchMap {
  readonly bands: readonly AskBand[];
  readonly inputs: readonly SwitchInput[];
  /** What is asked for by each combination, a bit a mode; positions of the first input change fastest. */
  readonly masks: Uint16Array;
}

/** What a pulse on a channel asks for, a bit a mode. */
export function maskAt(bands: readonly AskBand[], channel: number, us: number): number {
  let mask = 0;
  for (const b of bands) if (b.channel === channel && us >= b.fromUs && us <= b.toUs) mask |= bitOf(b.asks);
  return mask;
}

/** Enumerates; a band is on one channel, so what is asked together is the sum of what each position asks. */
export function enumerate(bands: readonly AskBand[], inputs: readonly SwitchInput[]): SwitchMap {
  let masks = new Uint16Array(1);
  for (const { channel, positions } of inputs) {
    const before = masks;
    masks = new Uint16Array(before.length * positions.length);
    positions.forEach((us, p) => {
      const own = maskAt(bands, channel, us);
      const at = p * before.length;
      for (let i = 0; i < before.length; i++) masks[at + i] = before[i]! | own;
    });
  }
  return { bands, inputs, masks };
}

/** What a mask asks for: arming, then modes, the one that comes first in front. */
export function askedIn(mask: number): Asked[] {
  const modes = [...switchedModes].reverse().filter((m) => (mask & bitOf(m)) !== 0);
  return armsIn(mask) ? ['arm', ...modes] : modes;
}

/** The modes of a mask, without arming. */
export const modesIn = (mask: number): number => mask & MODE_BITS;

/** Whether a combination arms. */
export const armsIn = (mask: number): boolean => (mask & ARM_BIT) !== 0;

/** Which position every input has in a combination. */
export function positionsOf(map: SwitchMap, combination: number): number[] {
  let rest = combination;
  return map.inputs.map(({ positions }) => {
    const p = rest % positions.length;
    rest = (rest - p) / positions.length;
    return p;
  });
}

/** Under which conditions modes are asked for. */
export interface Conditions {
  readonly rotorcraft: boolean;
  /** Modes that cannot be had; asked for, they leave Level behind when nothing else can. */
  readonly cannot: readonly ModeId[];
  /** Modes that are passed over as if they were not asked for, such as the launch once it is in the air. */
  readonly over: readonly ModeId[];
}

const bitsOf = (modes: readonly ModeId[]) =>
  modes.reduce((bits, m) => (m === 'manual' ? bits : bits | bitOf(m)), 0);

/** Decides a combination as the firmware does: the highest mode that is asked for and can be had. */
export function decider({ rotorcraft, cannot, over }: Conditions): (mask: number) => ModeId {
  const [no, past] = [bitsOf(cannot), bitsOf(over)];
  const bottom: ModeId = rotorcraft ? 'rate' : 'manual';
  return (mask) => {
    const asked = mask & MODE_BITS & ~past;
    const can = asked & ~no;
    if (can !== 0) return switchedModes[31 - Math.clz32(can)]!;
    return asked !== 0 ? 'level' : bottom;
  };
}

/** A craft in the air with everything that its settings give it. */
export function inTheAir(values: Values, rotorcraft: boolean): Conditions & { readonly view: ModeView } {
  const s = settingsOf(values);
  const gnss = Object.entries(values).some(([k, v]) => /^port\.\d+\.use$/.test(k) && v === 'gnss');
  const view: ModeView = {
    rotorcraft,
    attitude: 'good',
    height: 'good',
    position: gnss ? 'good' : 'lost',
    heading: !rotorcraft || s.flag('compass.fitted'),
    homeSet: gnss,
    satellites: gnss ? 99 : 0,
    satellitesToReturn: 0,
    // Whether it has points is asked where routes are laid.
    routePoints: 1,
    routeByGround: false,
    groundKnown: true,
    flown: true,
  };
  const cannot = modeIds.filter((m) => m !== 'launch' && whyNot(m, view) !== null);
  return { rotorcraft, cannot, over: ['launch'], view };
}

type SwitchIssueKind = 'loose' | 'beaten' | 'disarms' | 'cannot' | 'gap' | 'edge';

/** Something about the switches that surprises in the air. */
export interface SwitchIssue {
  readonly kind: SwitchIssueKind;
  readonly asks: Asked | null;
  readonly channel: number;
  readonly sentence: string;
}

const nameOf = (asks: Asked) => (asks === 'arm' ? 'Arming' : modeName(asks));
const pulses = (us: readonly number[]) =>
  us.length === 1 ? `${us[0]}` : `${us.slice(0, -1).join(', ')} and ${us.at(-1)}`;

/** What is wrong with a map, and why. */
export function issuesOf(map: SwitchMap, values: Values, rotorcraft: boolean): SwitchIssue[] {
  const { bands, inputs, masks } = map;
  const air = inTheAir(values, rotorcraft);
  const decide = decider(air);
  const arms = bands.some((b) => b.asks === 'arm');
  /** Asked for while armed, and won then. */
  let asked = 0;
  let won = 0;
  const beatenBy = new Map<SwitchedMode, Set<ModeId>>();
  for (const mask of masks) {
    if (arms && (mask & ARM_BIT) === 0) continue;
    asked |= mask;
    const winner = decide(mask);
    if (winner !== 'manual') won |= bitOf(winner) & mask;
    for (let left = mask & MODE_BITS; left !== 0; left &= left - 1) {
      const mode = switchedModes[31 - Math.clz32(left & -left)]!;
      if (mode !== winner) (beatenBy.get(mode) ?? beatenBy.set(mode, new Set()).get(mode)!).add(winner);
    }
  }
  const inputAt = (channel: number) => inputs.find((i) => i.channel === channel)!;
  const ofBands = bands.flatMap((b): SwitchIssue[] => {
    const { asks, channel } = b;
    const say = (kind: SwitchIssueKind, sentence: string): SwitchIssue[] => [
      { kind, asks, channel, sentence },
    ];
    const { positions } = inputAt(channel);
    if (!positions.some((us) => us >= b.fromUs && us <= b.toUs))
      return say(
        'loose',
        `${nameOf(asks)} waits for ${b.fromUs} to ${b.toUs} µs on channel ${channel}, which knows only ${pulses(positions)}: it is never asked for.`,
      );
    if (asks === 'arm') return [];
    if ((asked & bitOf(asks)) === 0)
      return say(
        'disarms',
        `Channel ${channel} asks for ${nameOf(asks)} only where it stops the motors as well: in the air it cannot be had.`,
      );
    if (air.cannot.includes(asks))
      return say('cannot', `${nameOf(asks)} cannot be had. ${whyNot(asks, air.view)}`);
    if (asks !== 'launch' && (won & bitOf(asks)) === 0)
      return say(
        'beaten',
        `${nameOf(asks)} never wins: wherever it is asked for, so is ${[...beatenBy.get(asks)!].map(modeName).join(' or ')}, which comes before it.`,
      );
    return [];
  });
  const bottom = modeName(rotorcraft ? 'rate' : 'manual');
  const ofInputs = inputs.flatMap(({ channel, positions, dial, noiseUs }): SwitchIssue[] => {
    const own = positions.map((us) => maskAt(bands, channel, us) & MODE_BITS);
    const [first, last] = [own.findIndex((m) => m !== 0), own.findLastIndex((m) => m !== 0)];
    const gaps = positions.filter((_, p) => p > first && p < last && own[p] === 0);
    const slack = HYSTERESIS_US + 3 * (noiseUs ?? USUAL_NOISE_US);
    const edges = bands.flatMap((b) =>
      // A dial rests anywhere: its edges are where a person turns it past them.
      b.channel !== channel || dial
        ? []
        : positions.flatMap((us) =>
            [b.fromUs, b.toUs].flatMap((edge): SwitchIssue[] =>
              Math.abs(us - edge) > slack
                ? []
                : [
                    {
                      kind: 'edge',
                      asks: b.asks,
                      channel,
                      sentence: `Channel ${channel} rests at ${us} µs, on the edge of ${nameOf(b.asks)} at ${edge} µs: noise alone may switch it.`,
                    },
                  ],
            ),
          ),
    );
    return [
      ...gaps.map(
        (us): SwitchIssue => ({
          kind: 'gap',
          asks: null,
          channel,
          sentence: `Channel ${channel} asks for nothing at ${us} µs, between two positions that do: there it falls to ${bottom}, unless another switch asks for more.`,
        }),
      ),
      ...edges,
    ];
  });
  return [...ofBands, ...ofInputs];
}

/** Bounds between a position and its neighbours, so that neither noise nor a worn switch reaches another: us. */
export function bandAround(
  positions: readonly number[],
  from: number,
  to: number,
): { readonly fromUs: number; readonly toUs: number } {
  const middle = (a: number, b: number) => Math.round((a + b) / 20) * 10;
  return {
    fromUs: from === 0 ? LEAST_US : middle(positions[from - 1]!, positions[from]!),
    toUs: to === positions.length - 1 ? MOST_US : middle(positions[to]!, positions[to + 1]!),
  };
}

/** What a setting of a band may be, us. */
const LEAST_US = 800;
const MOST_US = 2200;
