import { type BoardModel, type Bus, type Port, SOFTWARE_MOST_BAUD, type Timer } from './model.ts';
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

/** Where everything goes. */
export interface Assignment {
  readonly outputs: readonly { readonly wish: OutputWish; readonly output: number }[];
  readonly serial: readonly {
    readonly wish: SerialWish;
    /** A port by name, or the outputs that a port made in software or a pulse train uses. */
    readonly port: string | null;
    readonly outputs: readonly number[];
  }[];
  readonly buses: readonly { readonly wish: BusWish; readonly bus: string }[];
  /** What each timer sends or hears. */
  readonly timers: readonly { readonly timer: number; readonly protocol: string }[];
  /** Wishes that were soldered elsewhere. */
  readonly moved: number;
}

/** Cost of moving something that is soldered, and of a port made in software where a real one would do. */
const MOVE = 10;
const SOFTWARE = 3;

/** Outputs that have to lie on one timer: a servo or motor, or the pads of a port made in software. */
interface Unit {
  readonly size: number;
  readonly at: number | undefined;
}
interface Group {
  readonly protocol: string;
  readonly frames: boolean;
  readonly capture: boolean;
  readonly units: Unit[];
}

/** Timers by protocol, and what moves on the way to it. */
interface TimerPlan {
  readonly protocols: ReadonlyMap<number, number>;
  readonly cost: number;
}

/**
 * Finds a place for every wish under the rules of the board: one protocol and rate a timer, one device a port, pins
 * that are used once, addresses that differ, CAN that takes a timer. Of all ways it takes one that moves the least
 * of what is soldered; null when there is no way. Exact: buses, ports and timers touch each other only by the ports
 * and timers that buses take and the outputs that ports take, so each is searched whole for every such outcome.
 */
export function solve(board: BoardModel, wishes: Wishes): Assignment | null {
  return search(board, wishes, true);
}

/** Whether there is a way at all, wherever things are soldered now. */
export function feasible(board: BoardModel, wishes: Wishes): boolean {
  return search(board, wishes, false) !== null;
}

/** Where the buses' devices go, and what they take from the rest. */
interface BusOutcome {
  readonly cost: number;
  readonly at: readonly Bus[];
  readonly ports: ReadonlySet<string>;
  readonly timers: ReadonlySet<number>;
}

/** Where the serial devices go: a port, or null for pads; and the outputs that ports take. */
interface SerialOutcome {
  readonly cost: number;
  readonly at: readonly (string | null)[];
  readonly blocked: ReadonlySet<number>;
}

/** @param soldered looks at what is soldered; otherwise the first way will do */
function search(board: BoardModel, wishes: Wishes, soldered: boolean): Assignment | null {
  if (twoOfOne(wishes.serial)) return null;
  const plans = new Map<string, TimerPlan | null>();
  let best: {
    cost: number;
    bus: BusOutcome;
    serial: SerialOutcome;
    groups: Group[];
    plan: TimerPlan;
  } | null = null;
  for (const bus of busOutcomes(board, wishes, soldered)) {
    for (const serial of serialOutcomes(board, wishes, bus, soldered)) {
      const before = bus.cost + serial.cost;
      if (best && before >= best.cost) continue;
      const groups = groupsOf(wishes, serial, soldered);
      const key = `${[...serial.blocked].join()}|${[...bus.timers].join()}|${groups.map((g) => `${g.protocol}${g.units.length}`).join()}`;
      let plan = plans.get(key);
      if (plan === undefined) {
        plan = planTimers(board, groups, serial.blocked, bus.timers, soldered);
        plans.set(key, plan);
      }
      if (plan && (!best || before + plan.cost < best.cost))
        best = { cost: before + plan.cost, bus, serial, groups, plan };
      if (best && (best.cost === 0 || !soldered)) break;
    }
    if (best && (best.cost === 0 || !soldered)) break;
  }
  return best && assignmentOf(board, wishes, best.bus, best.serial, best.groups, best.plan, soldered);
}

/** A board takes only one receiver, and only one of some other devices. */
function twoOfOne(serial: readonly SerialWish[]): boolean {
  const singles = serial
    .filter((w) => needsOf(w).single)
    .map((w) => (w.device.startsWith('receiver') ? 'receiver' : w.device));
  return new Set(singles).size !== singles.length;
}

/** Every different outcome of placing the buses' devices, each as cheaply as can be; cheapest first. */
function busOutcomes(board: BoardModel, wishes: Wishes, soldered: boolean): BusOutcome[] {
  const outcomes = new Map<string, BusOutcome>();
  const at: Bus[] = [];
  const visit = (i: number, cost: number): void => {
    const wish = wishes.buses[i];
    if (!wish) {
      const used = [...new Set(at)];
      const ports = new Set(used.flatMap((b) => b.sharesPort ?? []));
      const timers = new Set(used.flatMap((b) => b.takesTimer ?? []));
      const key = `${[...ports].sort().join()}|${[...timers].sort().join()}`;
      const known = outcomes.get(key);
      if (!known || cost < known.cost) outcomes.set(key, { cost, at: [...at], ports, timers });
      return;
    }
    const order = soldered
      ? [...board.buses].sort((a, b) => +(b.name === wish.bus) - +(a.name === wish.bus))
      : board.buses;
    for (const bus of order) {
      if (bus.kind !== wish.kind || addressTaken(bus, wish, at, wishes.buses)) continue;
      if (bus.sharesPort !== undefined && bus.sharesPort === wishes.linkPort) continue;
      at.push(bus);
      visit(i + 1, cost + (soldered && wish.bus !== undefined && wish.bus !== bus.name ? MOVE : 0));
      at.pop();
    }
  };
  visit(0, 0);
  return [...outcomes.values()].sort((a, b) => a.cost - b.cost);
}

function addressTaken(bus: Bus, wish: BusWish, at: readonly Bus[], wishes: readonly BusWish[]): boolean {
  const address = addressOf(wish);
  if (bus.kind !== 'can' && bus.onBoard.some((d) => d.address === address)) return true;
  return at.some((b, k) => b === bus && addressOf(wishes[k]!) === address);
}

/**
 * Every different outcome of placing the serial devices, each as cheaply as can be; cheapest first. One device after
 * the other over the sets of ports used and of devices left to pads.
 */
function serialOutcomes(
  board: BoardModel,
  wishes: Wishes,
  bus: BusOutcome,
  soldered: boolean,
): SerialOutcome[] {
  const ports = board.ports.filter((p) => p.name !== wishes.linkPort && !bus.ports.has(p.name));
  interface State {
    readonly cost: number;
    readonly used: number;
    readonly at: readonly (string | null)[];
  }
  let states = new Map<string, State>([['0|', { cost: 0, used: 0, at: [] }]]);
  const put = (next: Map<string, State>, state: State) => {
    const key = `${state.used}|${state.at.map((p) => (p === null ? 's' : '.')).join('')}`;
    const known = next.get(key);
    if (!known || state.cost < known.cost) next.set(key, state);
  };
  for (const wish of wishes.serial) {
    const next = new Map<string, State>();
    const here = soldered ? wish.port : undefined;
    const inSoftware = wish.device === 'receiver-pulse-train' || softwareCan(wish);
    const softCost = wish.device === 'receiver-pulse-train' ? 0 : SOFTWARE + (here !== undefined ? MOVE : 0);
    for (const s of states.values()) {
      ports.forEach((port, p) => {
        if (s.used & (1 << p) || !fits(port, wish)) return;
        const move = here !== undefined && here !== port.name ? MOVE : 0;
        put(next, { cost: s.cost + move, used: s.used | (1 << p), at: [...s.at, port.name] });
      });
      if (inSoftware) put(next, { cost: s.cost + softCost, used: s.used, at: [...s.at, null] });
    }
    states = next;
  }
  const outcomes = new Map<string, SerialOutcome>();
  const takenByBuses = board.ports.filter((p) => bus.ports.has(p.name) || p.name === wishes.linkPort);
  for (const { cost, used, at } of states.values()) {
    const taken = [...takenByBuses, ...ports.filter((_, p) => used & (1 << p))];
    const blocked = new Set(taken.flatMap((p) => p.sharesOutputs ?? []));
    const key = `${[...blocked].sort().join()}|${at.map((p, i) => (p === null ? i : '')).join()}`;
    const known = outcomes.get(key);
    if (!known || cost < known.cost) outcomes.set(key, { cost, at, blocked });
  }
  return [...outcomes.values()].sort((a, b) => a.cost - b.cost);
}

/** Slow enough, and of the usual levels. */
function softwareCan(wish: SerialWish): boolean {
  const needs = needsOf(wish);
  return needs.baud <= SOFTWARE_MOST_BAUD && !needs.inverted;
}

/** Outputs by protocol, with what pulse trains and ports made in software want of them. */
function groupsOf(wishes: Wishes, serial: SerialOutcome, soldered: boolean): Group[] {
  const groups = new Map<string, Group>();
  const put = (protocol: string, frames: boolean, capture: boolean, unit: Unit) => {
    const group = groups.get(protocol);
    if (group) group.units.push(unit);
    else groups.set(protocol, { protocol, frames, capture, units: [unit] });
  };
  for (const w of wishes.outputs)
    put(protocolOf(w), needsFrames(w.kind), false, { size: 1, at: soldered ? w.output : undefined });
  wishes.serial.forEach((w, i) => {
    if (serial.at[i] === null) put(softProtocol(w), false, true, { size: padsOf(w), at: undefined });
  });
  return [...groups.values()];
}

function assignmentOf(
  board: BoardModel,
  wishes: Wishes,
  bus: BusOutcome,
  serial: SerialOutcome,
  groups: readonly Group[],
  plan: TimerPlan,
  soldered: boolean,
): Assignment {
  const taken = new Set<number>(serial.blocked);
  const groupOf = (protocol: string) => groups.findIndex((g) => g.protocol === protocol);
  const take = (group: number, size: number): number[] => {
    for (const [timer, at] of plan.protocols) {
      if (at !== group) continue;
      const pads = board.outputs.filter((p) => p.timer === timer && !taken.has(p.output));
      if (pads.length < size) continue;
      const mine = pads.slice(0, size).map((p) => p.output);
      for (const n of mine) taken.add(n);
      return mine;
    }
    throw new RangeError('a plan of timers without room');
  };
  // First what needs two pads of one timer, then what stays where it is, then the rest.
  const soft = wishes.serial.map((): number[] => []);
  const inSoftware = wishes.serial
    .map((wish, i) => ({ wish, i, size: padsOf(wish) }))
    .filter(({ i }) => serial.at[i] === null)
    .sort((a, b) => b.size - a.size);
  for (const { wish, i, size } of inSoftware) soft[i] = take(groupOf(softProtocol(wish)), size);
  const stay = wishes.outputs.map((w) => {
    const pad = board.outputs.find((p) => p.output === w.output);
    if (!soldered || !pad || taken.has(pad.output)) return 0;
    if (plan.protocols.get(pad.timer) !== groupOf(protocolOf(w))) return 0;
    taken.add(pad.output);
    return pad.output;
  });
  const outputs = wishes.outputs.map((wish, i) => ({
    wish,
    output: stay[i]! || take(groupOf(protocolOf(wish)), 1)[0]!,
  }));
  const devices = wishes.serial.map((wish, i) => ({ wish, port: serial.at[i]!, outputs: soft[i]! }));
  const buses = wishes.buses.map((wish, i) => ({ wish, bus: bus.at[i]!.name }));
  const moved = [
    ...outputs.map((o) => o.wish.output !== undefined && o.wish.output !== o.output),
    ...devices.map((d) => d.wish.port !== undefined && d.wish.port !== d.port),
    ...buses.map((b) => b.wish.bus !== undefined && b.wish.bus !== b.bus),
  ].filter(Boolean).length;
  const timers = [...plan.protocols]
    .map(([timer, g]) => ({ timer, protocol: groups[g]!.protocol }))
    .sort((a, b) => a.timer - b.timer);
  return { outputs, serial: devices, buses, timers, moved };
}

export function softProtocol(wish: SerialWish): string {
  return wish.device === 'receiver-pulse-train'
    ? 'a pulse train coming in'
    : `a port made in software at ${needsOf(wish).baud} baud`;
}

/** Pads that a device needs without a port: one for each way it talks. */
export function padsOf(wish: SerialWish): number {
  const needs = needsOf(wish);
  return needs.halfDuplex ? 1 : +needs.sends + +needs.listens;
}

/** Whether a device can be on a port. */
export function fits(port: Port, wish: SerialWish): boolean {
  const needs = needsOf(wish);
  if (wish.device === 'receiver-pulse-train') return false;
  return (
    needs.baud <= port.mostBaud && (!needs.inverted || port.inverts) && (!needs.halfDuplex || port.halfDuplex)
  );
}

export function canDo(timer: Timer, group: { readonly frames: boolean; readonly capture: boolean }): boolean {
  return (!group.frames || timer.frames) && (!group.capture || timer.capture);
}

/** Gives each timer a protocol so that all units have room, with as few moves as can be; null when none will do. */
function planTimers(
  board: BoardModel,
  groups: readonly Group[],
  blocked: ReadonlySet<number>,
  blockedTimers: ReadonlySet<number>,
  soldered: boolean,
): TimerPlan | null {
  const timers = board.timers
    .filter((t) => !blockedTimers.has(t.n))
    .map((t) => ({
      timer: t,
      pads: board.outputs.filter((p) => p.timer === t.n && !blocked.has(p.output)).map((p) => p.output),
    }));
  const chosen = new Map<number, number>();
  let best: { protocols: Map<number, number>; cost: number } | null = null;
  const room = (upTo: number) => timers.slice(upTo).reduce((n, t) => n + t.pads.length, 0);
  const rooms = timers.map((_, i) => room(i));
  const wanted = groups.map((g) => g.units.reduce((n, u) => n + u.size, 0));
  const have = groups.map(() => 0);
  const visit = (i: number): void => {
    if (best && (best.cost === 0 || !soldered)) return;
    const missing = wanted.reduce((n, w, g) => n + Math.max(0, w - have[g]!), 0);
    if (missing > (rooms[i] ?? 0)) return;
    const t = timers[i];
    if (!t) {
      if (!fitsPairs(groups, timers, chosen)) return;
      const cost = soldered ? movesOf(board, groups, chosen, blocked) : 0;
      if (!best || cost < best.cost) best = { protocols: new Map(chosen), cost };
      return;
    }
    // What is soldered to this timer now is tried first.
    const order = groups.map((_, g) => g);
    if (soldered) order.sort((a, b) => soldersOn(groups[b]!, t.pads) - soldersOn(groups[a]!, t.pads));
    for (const g of order) {
      // A timer more than there is need for only spares a move.
      const spares = soldered && soldersOn(groups[g]!, t.pads) > 0;
      if (!canDo(t.timer, groups[g]!) || (have[g]! >= wanted[g]! && !spares)) continue;
      chosen.set(t.timer.n, g);
      have[g]! += t.pads.length;
      visit(i + 1);
      have[g]! -= t.pads.length;
      chosen.delete(t.timer.n);
    }
    visit(i + 1);
  };
  visit(0);
  return best;
}

/** How many units of a group are soldered to a timer's pads. */
const soldersOn = (group: Group, pads: readonly number[]) =>
  group.units.filter((u) => u.at !== undefined && pads.includes(u.at)).length;

/** Units of two pads need both on one timer: an odd pad left over on each does not help them. */
function fitsPairs(
  groups: readonly Group[],
  timers: readonly { readonly timer: Timer; readonly pads: readonly number[] }[],
  chosen: ReadonlyMap<number, number>,
): boolean {
  return groups.every((group, g) => {
    const pairs = group.units.filter((u) => u.size === 2).length;
    if (pairs === 0) return true;
    const mine = timers.filter((t) => chosen.get(t.timer.n) === g);
    return mine.reduce((n, t) => n + Math.floor(t.pads.length / 2), 0) >= pairs;
  });
}

/** Soldered wishes that cannot stay when timers have these protocols. */
function movesOf(
  board: BoardModel,
  groups: readonly Group[],
  chosen: ReadonlyMap<number, number>,
  blocked: ReadonlySet<number>,
): number {
  const kept = new Set<number>();
  let cost = 0;
  groups.forEach((group, g) => {
    for (const unit of group.units) {
      if (unit.at === undefined) continue;
      const pad = board.outputs.find((p) => p.output === unit.at);
      const stays = pad && chosen.get(pad.timer) === g && !blocked.has(unit.at) && !kept.has(unit.at);
      if (stays) kept.add(unit.at);
      else cost += MOVE;
    }
  });
  return cost;
}
