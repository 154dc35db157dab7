import { deviceNames } from './deviceKinds.ts';
import type { BoardModel } from './model.ts';
import { type Assignment, canDo, feasible, fits, softProtocol, solve } from './solve.ts';
import {
  addressOf,
  type BusWish,
  needsFrames,
  needsOf,
  type OutputWish,
  protocolOf,
  type SerialWish,
  type Wishes,
} from './wishes.ts';

/** One wish, wherever it stands in the list. */
export type Wish =
  | { readonly of: 'outputs'; readonly wish: OutputWish }
  | { readonly of: 'serial'; readonly wish: SerialWish }
  | { readonly of: 'buses'; readonly wish: BusWish };

/** The least change that makes the wishes possible, and where everything then goes. */
interface Offer {
  readonly change: string;
  readonly wishes: Wishes;
  readonly assignment: Assignment;
}

interface Collision {
  /** Wishes that cannot all be had, though all but any one of them can. */
  readonly wishes: readonly Wish[];
  readonly sentence: string;
  readonly offer: Offer | null;
}

export type Answer =
  | { readonly ok: true; readonly assignment: Assignment }
  | { readonly ok: false; readonly collision: Collision };

/** A place for everything, or the wishes that collide and the least change that helps. */
export function arrange(board: BoardModel, wishes: Wishes): Answer {
  const assignment = solve(board, wishes);
  if (assignment) return { ok: true, assignment };
  const colliding = smallestCollision(board, wishes);
  return {
    ok: false,
    collision: {
      wishes: colliding,
      sentence: sentenceOf(board, wishes, colliding),
      offer: offerFor(board, wishes, colliding),
    },
  };
}

function listOf(wishes: Wishes): Wish[] {
  return [
    ...wishes.outputs.map((wish): Wish => ({ of: 'outputs', wish })),
    ...wishes.serial.map((wish): Wish => ({ of: 'serial', wish })),
    ...wishes.buses.map((wish): Wish => ({ of: 'buses', wish })),
  ];
}

function wishesOf(list: readonly Wish[], like: Wishes): Wishes {
  return {
    ...like,
    outputs: list.flatMap((w) => (w.of === 'outputs' ? [w.wish] : [])),
    serial: list.flatMap((w) => (w.of === 'serial' ? [w.wish] : [])),
    buses: list.flatMap((w) => (w.of === 'buses' ? [w.wish] : [])),
  };
}

/** What makes two wishes interchangeable for the question whether there is a way. */
function classOf(w: Wish): string {
  switch (w.of) {
    case 'outputs':
      return protocolOf(w.wish);
    case 'serial': {
      const n = needsOf(w.wish);
      return `${w.wish.device}/${n.baud}`;
    }
    case 'buses':
      return `${w.wish.kind}/${w.wish.device}/${w.wish.address ?? ''}`;
  }
}

/**
 * The smallest set of wishes that cannot be had together. First any set that loses its fault with any one wish
 * (deletion filter); then every smaller choice of kinds is tried, smallest first, as long as that is soon done.
 */
function smallestCollision(board: BoardModel, wishes: Wishes): Wish[] {
  const impossible = (list: readonly Wish[]) => !feasible(board, wishesOf(list, wishes));
  let least = listOf(wishes);
  for (const order of [listOf(wishes), listOf(wishes).reverse()]) {
    let set = order;
    for (const w of order) {
      const without = set.filter((x) => x !== w);
      if (impossible(without)) set = without;
    }
    if (set.length < least.length) least = set;
  }
  const classes = new Map<string, Wish[]>();
  for (const w of listOf(wishes)) classes.set(classOf(w), [...(classes.get(classOf(w)) ?? []), w]);
  let tries = 400;
  for (let size = 1; size < least.length && tries > 0; size++) {
    for (const set of choices([...classes.values()], size)) {
      if (tries-- <= 0) break;
      if (impossible(set)) return set;
    }
  }
  const order = listOf(wishes);
  return [...least].sort(
    (a, b) => order.findIndex((w) => w.wish === a.wish) - order.findIndex((w) => w.wish === b.wish),
  );
}

/** Every way to take `size` wishes, where wishes of one class count alike. */
function* choices(classes: readonly (readonly Wish[])[], size: number): Generator<Wish[]> {
  if (size === 0) {
    yield [];
    return;
  }
  const [first, ...rest] = classes;
  if (!first) return;
  for (let n = Math.min(size, first.length); n >= 0; n--)
    for (const others of choices(rest, size - n)) yield [...first.slice(0, n), ...others];
}

const list = (names: readonly string[]) =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

const serialName = (w: SerialWish) => deviceNames[w.device];

export function nameOf(w: Wish): string {
  return w.of === 'outputs' ? w.wish.name : deviceNames[w.wish.device];
}

/** Why they collide, in one sentence with the numbers. */
function sentenceOf(board: BoardModel, all: Wishes, colliding: readonly Wish[]): string {
  const w = wishesOf(colliding, all);
  const names = list(colliding.map(nameOf));
  const facts: string[] = [];
  const protocols = new Map<string, OutputWish[]>();
  for (const o of w.outputs) protocols.set(protocolOf(o), [...(protocols.get(protocolOf(o)) ?? []), o]);
  for (const [protocol, outs] of protocols) {
    const frames = needsFrames(outs[0]!.kind);
    const timers = board.timers.filter((t) => canDo(t, { frames, capture: false }));
    const pads = board.outputs.filter((p) => timers.some((t) => t.n === p.timer));
    facts.push(
      `${outs.length === 1 ? 'one output wants' : `${outs.length} outputs want`} ${protocol}, which ${pads.length} pads on timers ${list(timers.map((t) => String(t.n)))} can give`,
    );
  }
  if (protocols.size > 1) facts.push('a timer has one protocol and rate for all its pads');
  for (const bus of w.buses) {
    const fit = board.buses.filter((b) => b.kind === bus.kind);
    if (fit.length === 0) facts.push(`this board has no ${bus.kind.toUpperCase()} bus`);
    for (const b of fit) {
      if (b.takesTimer !== undefined) {
        const pads = board.outputs.filter((p) => p.timer === b.takesTimer).map((p) => p.pad);
        facts.push(`${b.name} takes timer ${b.takesTimer} and with it ${list(pads)}`);
      }
      if (b.sharesPort !== undefined) facts.push(`${b.name} lies on the pins of ${b.sharesPort}`);
    }
    const address = addressOf(bus);
    for (const b of fit)
      for (const d of b.onBoard)
        if (b.kind !== 'can' && d.address === address)
          facts.push(`the address ${hex(address)} on ${b.name} is the ${d.device}'s`);
    const twins = w.buses.filter((x) => x.kind === bus.kind && addressOf(x) === address).length;
    if (twins > 1)
      facts.push(`${twins} devices have the address ${hex(address)}, and a bus takes only one of them`);
  }
  const devices = w.serial.filter((s) => s.device !== 'receiver-pulse-train');
  for (const s of devices) {
    const needs = needsOf(s);
    const can = board.ports.filter((p) => p.name !== all.linkPort && fits(p, s));
    if (can.length < board.ports.length - 1 || devices.length < 3) {
      const what = needs.inverted
        ? 'inverted levels'
        : needs.halfDuplex
          ? 'one wire both ways'
          : `${needs.baud} baud`;
      facts.push(
        `the ${serialName(s)} wants ${what}, which ${can.length === 0 ? 'no free port has' : `${list(can.map((p) => p.name))} can give`}`,
      );
    }
  }
  if (devices.length > 1) {
    const free = board.ports.filter((p) => p.name !== all.linkPort).length;
    const link = all.linkPort === undefined ? '' : `, since ${all.linkPort} carries this link`;
    facts.push(`${devices.length} devices want a port and there are ${free}${link}`);
  }
  for (const port of board.ports)
    if (port.sharesOutputs && w.serial.length > 0 && w.outputs.length > 0)
      facts.push(
        `${port.name} lies on the pins of ${list(port.sharesOutputs.map((o) => board.outputs.find((p) => p.output === o)!.pad))}`,
      );
  const singles = w.serial.filter((s) => needsOf(s).single);
  if (singles.length === 2 && colliding.length === 2)
    facts.splice(0, facts.length, 'a board takes only one of them');
  for (const s of w.serial.filter((x) => x.device === 'receiver-pulse-train'))
    facts.push(`${softProtocol(s)} needs a timer of its own that can time edges`);
  const together =
    colliding.length === 1
      ? `${names} cannot be had on ${title(board)}`
      : `${names} cannot all be had on ${title(board)}`;
  const sentence = `${together}: ${[...new Set(facts)].join('; ')}.`;
  return sentence[0]!.toUpperCase() + sentence.slice(1);
}

const hex = (n: number) => `0x${n.toString(16).padStart(2, '0')}`;

export const title = (board: BoardModel) => `${board.name} revision ${board.revision}`;

/** Changes a person might live with, mildest first; the first that makes everything possible is offered. */
function offerFor(board: BoardModel, wishes: Wishes, colliding: readonly Wish[]): Offer | null {
  const offers: { change: string; wishes: Wishes }[] = [];
  const all = listOf(wishes);
  const replace = (old: Wish, now: Wish | null, change: string) =>
    offers.push({
      change,
      wishes: wishesOf(
        all.flatMap((w) => (w.wish === old.wish ? (now ? [now] : []) : [w])),
        wishes,
      ),
    });
  for (const w of colliding) {
    if (w.of !== 'buses') continue;
    const other = w.wish.kind === 'can' ? 'i2c' : 'can';
    const { bus: _, ...free } = w.wish;
    if (board.buses.some((b) => b.kind === other))
      replace(
        w,
        { of: 'buses', wish: { ...free, kind: other } },
        `Connect the ${nameOf(w)} by ${other.toUpperCase()} instead of ${w.wish.kind.toUpperCase()}.`,
      );
    if (w.wish.device === 'flow' || w.wish.device === 'rangefinder')
      replace(
        w,
        { of: 'serial', wish: { device: w.wish.device } },
        `Connect the ${nameOf(w)} to a serial port instead of ${w.wish.kind.toUpperCase()}.`,
      );
  }
  const outs = colliding.flatMap((w) => (w.of === 'outputs' ? [w.wish] : []));
  const kinds = [...new Set(outs.map(protocolOf))];
  for (const protocol of kinds) {
    for (const other of outs.filter((o) => protocolOf(o) !== protocol && o.kind !== 'led')) {
      const mine = wishes.outputs.filter((o) => protocolOf(o) === protocol);
      // A servo cannot take frames; a motor controller takes pulses as well.
      if (mine.some((o) => o.kind === 'led' || (o.kind === 'servo-pwm' && needsFrames(other.kind)))) continue;
      if (mine.some((o) => o.kind === 'servo-pwm') && (other.rateHz ?? 400) > 50) continue;
      const changed = (o: OutputWish): OutputWish => ({
        ...o,
        kind: needsFrames(other.kind) ? other.kind : o.kind === 'servo-pwm' ? o.kind : 'motor-pwm',
        rateHz: needsFrames(other.kind)
          ? undefined
          : (other.rateHz ?? (other.kind === 'servo-pwm' ? 50 : 400)),
      });
      offers.push({
        change: `Drive ${list(mine.map((o) => o.name))} by ${protocolOf(other)} instead of ${protocol}.`,
        wishes: { ...wishes, outputs: wishes.outputs.map((o) => (mine.includes(o) ? changed(o) : o)) },
      });
    }
  }
  for (const w of [...colliding].reverse()) replace(w, null, `Leave out the ${nameOf(w)}.`);
  for (const offer of offers) {
    const assignment = solve(board, offer.wishes);
    if (assignment) return { ...offer, assignment };
  }
  return leaveOut(board, wishes, colliding);
}

/** When no single change helps: one wish after the other is left out until the rest has room. */
function leaveOut(board: BoardModel, wishes: Wishes, colliding: readonly Wish[]): Offer | null {
  let rest = listOf(wishes);
  const left: string[] = [];
  for (let set = [...colliding]; set.length > 0; ) {
    const out = set.at(-1)!;
    left.push(nameOf(out));
    rest = rest.filter((w) => w.wish !== out.wish);
    const now = wishesOf(rest, wishes);
    const assignment = solve(board, now);
    if (assignment) return { change: `Leave out the ${list(left)}.`, wishes: now, assignment };
    set = smallestCollision(board, now);
  }
  return null;
}
