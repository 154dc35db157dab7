import { isRotorcraft } from '../../airframe/airframe.ts';
import { ringingOf } from '../../answers/ringing.ts';
import { dialKey, dialled, dialsOf, keysMoved, nameOfTarget } from '../../control/dials.ts';
import { modeNames, switchedModes } from '../../modes/modes.ts';
import { settingOf } from '../../settings/typed.ts';
import { type FindingInput, finding, need, num, type Rule } from '../rule.ts';

/** Dials that move settings in flight: what else hangs on their channel, and where they lead. */

const sticks = ['roll', 'pitch', 'throttle', 'yaw'] as const;

/** What else a channel does, with whether moving it by mistake ends a flight. */
function othersOn(
  channel: number,
  { values }: FindingInput,
): readonly { readonly what: string; readonly grave: boolean }[] {
  const is = (key: Parameters<typeof num>[1]) => num(values, key) === channel;
  return [
    ...sticks
      .filter((s) => is(`rx.${s}.channel`))
      .map((s) => ({ what: `carries the ${s} stick`, grave: true })),
    ...(is('arm.channel') ? [{ what: 'arms', grave: true }] : []),
    ...switchedModes
      .filter((m) => is(`mode.${m}.channel`))
      .map((m) => ({ what: `asks for ${modeNames[m]}`, grave: true })),
    ...(is('flap.channel') ? [{ what: 'moves the flaps', grave: false }] : []),
    ...(is('set.channel') ? [{ what: 'chooses the control set', grave: false }] : []),
    ...(is('rx.quality.channel') ? [{ what: 'carries the link’s quality', grave: false }] : []),
  ];
}

const CHANNELS = 16;

function freeChannel(input: FindingInput): number | null {
  const taken = new Set([...dialsOf(input.values).map((d) => d.channel), num(input.values, 'tune.channel')]);
  for (let c = 5; c <= CHANNELS; c++) if (!taken.has(c) && othersOn(c, input).length === 0) return c;
  return null;
}

const shared: Rule = (input) => {
  need(input.values, 'dial.1.channel');
  const dials = dialsOf(input.values);
  return dials.flatMap((d) => {
    const twin = dials.find((x) => x.dial < d.dial && x.channel === d.channel);
    const others = [
      ...othersOn(d.channel, input),
      ...(twin ? [{ what: `turns dial ${twin.dial}`, grave: false }] : []),
    ];
    if (others.length === 0) return [];
    const free = freeChannel(input);
    return [
      finding(
        `dial-shared.${d.dial}`,
        others.some((o) => o.grave) ? 'blocks' : 'caution',
        'by-dial',
        `Dial ${d.dial} is on a channel that does something else`,
        `Channel ${d.channel} ${others.map((o) => o.what).join(', and ')}: one hand would do both.`,
        [dialKey(d.dial, 'channel')],
        free === null
          ? undefined
          : { label: `Dial ${d.dial} on channel ${free}`, edits: { [dialKey(d.dial, 'channel')]: free } },
      ),
    ];
  });
};

const twice: Rule = ({ values }) => {
  need(values, 'dial.1.channel');
  const dials = dialsOf(values);
  return dials.flatMap((d) => {
    const first = dials.find(
      (x) => x.dial < d.dial && keysMoved(x, 1).some((k) => keysMoved(d, 1).includes(k)),
    );
    if (!first) return [];
    return [
      finding(
        `dial-twice.${d.dial}`,
        'caution',
        'by-dial',
        `Dials ${first.dial} and ${d.dial} move the same setting`,
        `Both move ${nameOfTarget(d.moves)}: what is turned last counts, and nobody can tell by the dials what is flown.`,
        [dialKey(d.dial, 'moves')],
        { label: `Dial ${d.dial} moves nothing`, edits: { [dialKey(d.dial, 'moves')]: 'nothing' } },
      ),
    ];
  });
};

const idle: Rule = ({ values, airframe }) => {
  need(values, 'dial.1.channel');
  const rotors = isRotorcraft(airframe);
  return dialsOf(values)
    .filter((d) => keysMoved(d, 1).every((k) => k.startsWith(rotors ? 'nav.' : 'hover.')))
    .map((d) =>
      finding(
        `dial-idle.${d.dial}`,
        'caution',
        'by-dial',
        `Dial ${d.dial} moves what this craft does not fly by`,
        `${nameOfTarget(d.moves)} is for ${rotors ? 'wings' : 'rotors'}.`,
        [dialKey(d.dial, 'moves')],
        { label: `Dial ${d.dial} moves nothing`, edits: { [dialKey(d.dial, 'moves')]: 'nothing' } },
      ),
    );
};

/** Spans that are tried in place of one that is too wide. */
const SPANS = [3, 2.5, 2, 1.75, 1.5, 1.25, 1.1, 1.05];

const rings: Rule = (input) => {
  const { values, airframe, description, catalogue } = input;
  need(values, 'dial.1.channel');
  const pads = description?.pads ?? [];
  const flown = Number(settingOf(values, 'set.active') ?? 1);
  const ringing = (set: typeof values) => ringingOf(airframe, set, pads).filter((r) => r.state === 'rings');
  return dialsOf(values).flatMap((d) => {
    if (!keysMoved(d, 1).some((k) => k.startsWith('rate.'))) return [];
    const written = new Set(ringing(values).map((r) => r.axis));
    const at = (times: number) => {
      const turned = Array.from({ length: d.dial }, (_, i) => (i === d.dial - 1 ? times : 1));
      return { ...values, ...dialled(values, turned, flown, (key) => catalogue.entry(key)) };
    };
    const [found] = ringing(at(d.span)).filter((r) => !written.has(r.axis));
    if (!found) return [];
    const span = SPANS.find((s) => s < d.span && ringing(at(s)).every((r) => written.has(r.axis)));
    return [
      finding(
        `dial-rings.${d.dial}`,
        'blocks',
        'by-dial',
        `Dial ${d.dial} leads to gains that ring`,
        `At its upper end ${found.axis} swings by itself ${found.hz.toFixed(1)} times a second, by the craft’s own model.`,
        [dialKey(d.dial, 'span')],
        span === undefined
          ? undefined
          : { label: `No farther than ${span} times`, edits: { [dialKey(d.dial, 'span')]: span } },
      ),
    ];
  });
};

const tuneShared: Rule = (input) => {
  const channel = num(input.values, 'tune.channel');
  if (channel === 0) return [];
  const dial = dialsOf(input.values).find((d) => d.channel === channel);
  const others = [
    ...othersOn(channel, input),
    ...(dial ? [{ what: `turns dial ${dial.dial}`, grave: false }] : []),
  ];
  if (others.length === 0) return [];
  const free = freeChannel(input);
  return [
    finding(
      'tune-shared',
      others.some((o) => o.grave) ? 'blocks' : 'caution',
      'let-it-find',
      'The switch that finds gains does something else',
      `Channel ${channel} ${others.map((o) => o.what).join(', and ')}: the craft would be turned to and fro by it as well.`,
      ['tune.channel'],
      free === null
        ? undefined
        : { label: `Find gains with channel ${free}`, edits: { 'tune.channel': free } },
    ),
  ];
};

/** A dial that is turned after gains were found multiplies what is written, and what was found is gone. */
const tuneDialled: Rule = ({ values }) => {
  if (num(values, 'tune.channel') === 0 || settingOf(values, 'tune.flies') !== true) return [];
  const axes = settingOf(values, 'tune.axes');
  const found = (key: string) =>
    (['roll', 'pitch'] as const).some((a) => (axes === 'both' || axes === a) && key.startsWith(`rate.${a}.`));
  return dialsOf(values)
    .filter((d) => keysMoved(d, 1).some(found))
    .map((d) =>
      finding(
        `tune-dialled.${d.dial}`,
        'caution',
        'let-it-find',
        `Dial ${d.dial} and finding gains move the same gains`,
        `Once gains are found they are flown; when dial ${d.dial} is turned after that, what is written is flown again, times what it gives.`,
        ['tune.flies', dialKey(d.dial, 'moves')],
        { label: 'Tell what was found, and fly as it is written', edits: { 'tune.flies': false } },
      ),
    );
};

export const dialRules: readonly Rule[] = [shared, twice, idle, rings, tuneShared, tuneDialled];
