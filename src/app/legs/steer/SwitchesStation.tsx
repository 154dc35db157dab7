import { useEffect, useMemo, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { type ModeId, modeName, ofKind, switchedModes } from '#core/modes/modes.ts';
import {
  dangersOf,
  placeNames,
  placesFor,
  touchedAt,
  touchedWhen,
  type Touched as When,
} from '#core/modes/neighbours.ts';
import {
  type Asked,
  askedIn,
  bandsOf,
  decider,
  enumerate,
  inParts,
  inputsOf,
  inTheAir,
  issuesOf,
  maskAt,
  modesIn,
  type SwitchInput,
} from '#core/modes/switchMap.ts';
import { askAt, askNoMore, FlickWatch, mixedAt, type Transmitter } from '#core/modes/transmitter.ts';
import { settingOf } from '#core/settings/typed.ts';
import { TransmitterInHand } from '../../drawing/TransmitterInHand.tsx';
import { useSampled, useStatus } from '../../live/hooks.ts';
import { live, recent } from '../../live/telemetry.ts';
import { switchSeen, transmitterForgotten } from '../../store/craftSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Select } from '../../ui/Select.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Told } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';
import { MOST_COLUMNS, SwitchCloth, type Thread } from './SwitchCloth.tsx';
import { flagsHeight, type Picked, SwitchDrawn, type SwitchShown } from './SwitchDrawn.tsx';

const whys: Readonly<Record<Asked, string>> = {
  arm: 'motors answer the throttle',
  rate: 'sticks ask for turn rates',
  horizon: 'levels itself near the middle, turns freely at the ends',
  level: 'hands off it flies level',
  height: 'keeps its height by itself',
  'as-armed': 'forward stays where the nose pointed at arming',
  'from-home': 'forward is away from home, back comes nearer',
  course: 'keeps height and course over ground',
  hover: 'stays in the air where it is',
  position: 'stays where it is; sticks move it',
  loiter: 'circles here',
  route: 'flies its points in order',
  launch: 'waits for the throw, then climbs by itself',
  return: 'comes back; wins over the others',
};

const WIDTH = 728;
const HEIGHT = 268;
/** As far from a position as this a pulse is still there, us. */
const AT_US = 60;

const nameOf = (asks: Asked) => (asks === 'arm' ? 'Armed' : modeName(asks));

/** Watches the switches for as long as the station is shown, and keeps what is flicked. */
function useFlicks(known: readonly SwitchInput[]) {
  const dispatch = useAppDispatch();
  const values = useApp((s) => s.settings.base);
  const sticks = useMemo(
    () =>
      new Set([
        ...(['roll', 'pitch', 'throttle', 'yaw'] as const).flatMap(
          (k) => settingOf(values, `rx.${k}.channel`) ?? [],
        ),
        // How well the receiver hears is turned by nobody's hand.
        settingOf(values, 'rx.quality.channel') ?? 0,
      ]),
    [values],
  );
  useEffect(() => {
    const watch = new FlickWatch(known, sticks);
    let heardS = Number.NEGATIVE_INFINITY;
    const timer = setInterval(() => {
      for (const { atS, value } of recent('receiver', 1)) {
        if (atS <= heardS) continue;
        heardS = atS;
        const seen = watch.step(value.channels, atS);
        if (seen) dispatch(switchSeen({ ...seen, positions: [...seen.positions] }));
      }
      // Another board, or one that was started anew, counts from nought.
      if (recent('receiver', 1).length === 0) heardS = Number.NEGATIVE_INFINITY;
    }, 100);
    return () => clearInterval(timer);
  }, [dispatch, sticks, known]);
}

/** What each switch asks for, and what wins: the transmitter as it lies in the hands, and the cloth of all combinations. */
export default function SwitchesStation() {
  const values = useApp(selectValues);
  const status = useStatus();
  const channels = useSampled(() => live('receiver')?.channels ?? null, 60);
  const airframe = useApp((s) => s.craft.airframe)!;
  const transmitter = useApp((s) => s.craft.file?.transmitter);
  const dispatch = useAppDispatch();
  const [picked, setPicked] = useState<Picked | null>(null);
  const rotors = isRotorcraft(airframe);
  const known: readonly Known[] = transmitter?.switches ?? NONE;
  useFlicks(known);

  const bands = useMemo(() => bandsOf(values), [values]);
  const inputs = useMemo((): readonly SwitchInput[] => {
    const asked = inputsOf(bands, known);
    const others = known
      .filter((k) => !asked.some((a) => a.channel === k.channel))
      .map((k) => inParts(bands, k));
    return [...asked, ...others].sort((a, b) => a.channel - b.channel);
  }, [bands, known]);
  const decide = useMemo(() => decider(inTheAir(values, rotors)), [values, rotors]);
  const issues = useMemo(
    () => issuesOf(enumerate(bands, inputsOf(bands, known)), values, rotors),
    [bands, known, values, rotors],
  );
  const standsAt = ({ channel, positions, dial }: SwitchInput) => {
    const us = channels?.[channel - 1];
    if (us === undefined) return -1;
    // A dial is in that part of its way whose middle is nearest.
    const off = positions.map((p) => Math.abs(p - us));
    return dial ? off.indexOf(Math.min(...off)) : off.findIndex((d) => d <= AT_US);
  };
  const said = inputs.map((i) => known.find((k) => k.channel === i.channel) ?? {});
  const places = placesFor(said);
  const shown: readonly SwitchShown[] = inputs.map((input, i) => ({
    place: places[i]!,
    channel: input.channel,
    positions: input.positions,
    asks: input.positions.map((us) => askedIn(maskAt(bands, input.channel, us)).map(nameOf)),
    now: standsAt(input),
    guessed: input.guessed ?? false,
    dial: input.dial ?? false,
  }));
  const threads: readonly Thread[] = inputs
    .map((input) => ({
      input,
      masks: input.positions.map((us) => modesIn(maskAt(bands, input.channel, us))),
      now: standsAt(input),
    }))
    .filter((t) => t.masks.some((m) => m !== 0));
  const here = inputs.find((i) => i.channel === picked?.channel);
  const height = Math.max(HEIGHT, flagsHeight(shown) + 24);
  return (
    <>
      <Lead>
        Flick every switch through its positions once: it appears here. Then give each position what it shall
        do; the cloth below shows what wins. With nothing asked for the craft is in{' '}
        {rotors ? 'Rate' : 'Manual'}.
      </Lead>
      <svg
        viewBox={`${-WIDTH / 2} -150 ${WIDTH} ${height}`}
        className="mt-2 w-full min-w-[640px]"
        role="group"
        aria-label="The transmitter in the hands, with its switches"
      >
        <TransmitterInHand left={null} right={null} />
        <SwitchDrawn switches={shown} picked={picked} onPick={setPicked} width={WIDTH} />
      </svg>
      {shown.length === 0 && (
        <p className="text-soft" role="status">
          No switch asks for anything yet. Flick one, with the board on the cable and the transmitter on.
        </p>
      )}
      {here && picked && picked.position < here.positions.length && (
        <Position
          input={here}
          known={known.find((k) => k.channel === here.channel) ?? null}
          position={picked.position}
          rotors={rotors}
        />
      )}
      <div className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <p role="status">
          {status ? (
            <>
              The board is in <b className="font-semibold text-lake">{modeName(status.mode)}</b>
              {status.armed ? ', armed.' : ', not armed.'}
            </>
          ) : null}
        </p>
        {known.length > 0 && (
          <Button kind="flat" onClick={() => dispatch(transmitterForgotten())}>
            Another transmitter: forget its positions
          </Button>
        )}
      </div>
      {threads.length > 0 && <Cloth threads={threads} decide={decide} />}
      {transmitter && <Touched transmitter={transmitter} />}
      {issues.length > 0 && (
        <ul className="mt-2 max-w-[700px] border-line border-t pt-2" aria-label="What surprises">
          {issues.map((i) => (
            <li
              key={`${i.kind} ${i.asks} ${i.channel} ${i.sentence}`}
              className={`mt-1 ${i.kind === 'disarms' ? 'text-red' : 'text-amber'}`}
            >
              <Told>{i.sentence}</Told>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

type Known = Transmitter['switches'][number];
const NONE: readonly Known[] = [];

const whenWords: Readonly<Record<When, string>> = {
  ground: 'on the ground',
  launch: 'at the launch',
  flight: 'in flight',
};

/** Which hand goes where when, and what is dangerous about that. */
function Touched({ transmitter }: { readonly transmitter: Transmitter }) {
  const values = useApp(selectValues);
  const dangers = dangersOf(values, transmitter);
  const parts = touchedWhen.flatMap((when) => {
    const channels = touchedAt(transmitter, when);
    return channels.length === 0 ? [] : [`${whenWords[when]} channel ${channels.join(', ')}`];
  });
  if (parts.length === 0 && dangers.length === 0) return null;
  return (
    <section className="mt-2 max-w-[700px] border-line border-t pt-2" aria-label="Hands on the switches">
      {parts.length > 0 && <p className="text-soft">Hands go {parts.join('; ')}.</p>}
      <ul>
        {dangers.map((d) => (
          <li key={d.sentence} className="mt-1 text-amber">
            {d.sentence}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What two switches that are mixed on one channel may have, by the positions that it has. */
const mixesOf = (positions: number): readonly (readonly [number, number])[] =>
  positions === 4
    ? [[2, 2]]
    : positions === 6
      ? [
          [2, 3],
          [3, 2],
        ]
      : [];

/** Where a switch lies, when it is touched, and whether it springs back: said by the person, kept with the craft. */
function WhereItLies({ known }: { readonly known: Known }) {
  const dispatch = useAppDispatch();
  const say = (change: Partial<Known>) => dispatch(switchSeen({ ...known, ...change }));
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-1 border-line border-t pt-2 text-[13px]">
      <label className="flex items-center gap-2">
        It lies
        <Select
          look="small"
          value={known.place ?? ''}
          onChange={(e) => say({ place: e.target.value === '' ? undefined : Number(e.target.value) })}
        >
          <option value="">not said</option>
          {placeNames.map((name, k) => (
            <option key={name} value={k}>
              {name}
            </option>
          ))}
        </Select>
      </label>
      <label className="flex items-center gap-2">
        and is touched
        <Select
          look="small"
          value={known.touched ?? ''}
          onChange={(e) => say({ touched: e.target.value === '' ? undefined : (e.target.value as When) })}
        >
          <option value="">not said</option>
          {touchedWhen.map((when) => (
            <option key={when} value={when}>
              {whenWords[when]}
            </option>
          ))}
        </Select>
      </label>
      {mixesOf(known.positions.length).length > 0 && !known.dial && (
        <label className="flex items-center gap-2">
          It is
          <Select
            look="small"
            value={known.mixed?.join(' ') ?? ''}
            onChange={(e) => {
              const [a, b] = e.target.value.split(' ').map(Number);
              say({ mixed: a && b ? [a, b] : undefined });
            }}
          >
            <option value="">one switch</option>
            {mixesOf(known.positions.length).map(([a, b]) => (
              <option key={`${a} ${b}`} value={`${a} ${b}`}>
                two mixed, of {a} and {b}
              </option>
            ))}
          </Select>
        </label>
      )}
      <Check checked={known.springs ?? false} onChange={(e) => say({ springs: e.target.checked })}>
        it springs back
      </Check>
    </div>
  );
}

/** The switch with the mode that comes first goes across, the others along, as many as can be told apart. */
function Cloth({
  threads,
  decide,
}: {
  readonly threads: readonly Thread[];
  readonly decide: (mask: number) => ModeId;
}) {
  const [across, ...rest] = [...threads].sort((a, b) => Math.max(...b.masks) - Math.max(...a.masks));
  const along: Thread[] = [];
  let columns = 1;
  const fixed: Thread[] = [];
  for (const t of rest) {
    if (columns * t.masks.length <= MOST_COLUMNS) {
      along.push(t);
      columns *= t.masks.length;
    } else fixed.push(t);
  }
  // What finds no room is taken as it stands.
  const still = fixed.reduce((mask, t) => mask | t.masks[Math.max(0, t.now)]!, 0);
  return (
    <section className="mt-2" aria-label="What wins">
      <h2 className="font-semibold">What wins</h2>
      <p className="text-soft">
        Across channel {across!.input.channel}
        {along.length > 0 ? `, along channel ${along.map((t) => t.input.channel).join(' and ')}` : ''}; what
        lies above wins.
        {fixed.length > 0 ? ` Channel ${fixed.map((t) => t.input.channel).join(' and ')} as it stands.` : ''}
      </p>
      <SwitchCloth across={across!} along={along} decide={(mask) => decide(mask | still)} />
    </section>
  );
}

/** What one position of a switch asks for, and what more it could. */
function Position({
  input,
  known,
  position,
  rotors,
}: {
  readonly input: SwitchInput;
  readonly known: Known | null;
  readonly position: number;
  readonly rotors: boolean;
}) {
  const values = useApp(selectValues);
  const status = useStatus();
  const dispatch = useAppDispatch();
  const us = input.positions[position]!;
  const asked = askedIn(maskAt(bandsOf(values), input.channel, us));
  // A board of another version may not have them all.
  const could = (['arm', ...switchedModes.filter((m) => ofKind(m, rotors))] as const).filter(
    (a) =>
      !asked.includes(a) &&
      settingOf(values, a === 'arm' ? 'arm.channel' : `mode.${a}.channel`) !== undefined,
  );
  const [more, setMore] = useState('');
  const chosen = could.find((a) => a === more);
  return (
    <section
      aria-label={`What position ${position + 1} of channel ${input.channel} asks for`}
      className="mt-2 max-w-[700px] rounded-[4px] border border-line bg-paper px-3.5 py-2.5"
    >
      <h2 className="font-semibold">
        Channel {input.channel},{' '}
        {input.dial
          ? `dial, part ${position + 1} of ${input.positions.length}`
          : `position ${position + 1} of ${input.positions.length}`}
        {known?.mixed && (
          <span className="font-normal text-soft">
            {' '}
            (one switch at {mixedAt(known.mixed, position)[0] + 1}, the other at{' '}
            {mixedAt(known.mixed, position)[1] + 1})
          </span>
        )}
      </h2>
      {asked.length === 0 && <p className="text-soft">Asks for nothing more.</p>}
      {asked.map((a) => {
        const cannot = status?.unavailable.find((u) => u.mode === a)?.why;
        return (
          <div key={a} className="mt-1 flex flex-wrap items-baseline gap-x-3">
            <p className="min-w-[220px] flex-1">
              <b className="font-semibold">{nameOf(a)}</b> <span className="text-soft">{whys[a]}.</span>
              {cannot && (
                <span className="text-amber">
                  {' '}
                  Not to be had now. <Told>{cannot}</Told>
                </span>
              )}
            </p>
            <Button kind="flat" onClick={() => dispatch(staged(askNoMore(values, a, input, position)))}>
              Not here
            </Button>
          </div>
        );
      })}
      <div className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <span className="flex items-baseline gap-2">
          <Select
            aria-label="More that it could ask for"
            value={more}
            className="max-w-none text-[13px]"
            onChange={(e) => setMore(e.target.value)}
          >
            <option value="">another…</option>
            {could.map((a) => (
              <option key={a} value={a}>
                {nameOf(a)}
              </option>
            ))}
          </Select>
          <Button
            disabled={!chosen}
            onClick={() => {
              if (chosen) dispatch(staged(askAt(values, chosen, input, position)));
              setMore('');
            }}
          >
            Ask for it here
          </Button>
        </span>
        {asked.length > 0 && (
          <details className="flex-1 text-soft">
            <summary className="cursor-pointer">in pulses</summary>
            <p>
              {input.dial ? `About ${us} µs.` : `It rests at ${us} µs`}
              {!input.dial &&
                known?.noiseUs !== undefined &&
                `, with ${known.noiseUs.toFixed(1)} µs of noise`}
              {!input.dial && '.'}
            </p>
            {asked.map((a) => {
              const key = a === 'arm' ? ('arm' as const) : (`mode.${a}` as const);
              return (
                <p key={a} className="flex flex-wrap items-baseline gap-x-4">
                  {nameOf(a)}
                  <span>
                    channel <SettingField name={`${key}.channel`} />
                  </span>
                  <span>
                    from <SettingField name={`${key}.from`} />
                  </span>
                  <span>
                    to <SettingField name={`${key}.to`} />
                  </span>
                </p>
              );
            })}
          </details>
        )}
      </div>
      {known && <WhereItLies known={known} />}
    </section>
  );
}
