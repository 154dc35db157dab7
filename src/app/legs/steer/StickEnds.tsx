import { useEffect, useRef, useState } from 'react';
import {
  deadbandFor,
  judgeRange,
  RangeWatch,
  REST_S,
  type StickRange,
} from '#core/calibration/stickRange.ts';
import { stateOf } from '#core/proofs/proofs.ts';
import { type StickName, stickNames } from '#core/proofs/seen.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { recent } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectProofWorld } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';

type Watches = Readonly<Record<StickName, RangeWatch>>;

const newWatches = (): Watches => ({
  roll: new RangeWatch(true),
  pitch: new RangeWatch(true),
  throttle: new RangeWatch(false),
  yaw: new RangeWatch(true),
});

/** How far each stick is, and what was found of it. */
interface Course {
  readonly stick: StickName;
  readonly stirred: boolean;
  readonly rested: number;
  readonly range: StickRange | null;
}

const courseOf = (watches: Watches): readonly Course[] =>
  stickNames.map((stick) => {
    const w = watches[stick];
    return { stick, stirred: w.stirred, rested: w.rested, range: w.range };
  });

/** How sticks should come in, by the settings that say so. */
const GOOD_ENDS: Values = Object.fromEntries(
  stickNames.flatMap((stick) => [
    [`rx.${stick}.low`, 1000],
    ...(stick === 'throttle' ? [] : [[`rx.${stick}.middle`, 1500]]),
    [`rx.${stick}.high`, 2000],
  ]),
);

/** Of these, what a board that has such settings is not set to. */
const notHad = (base: Values): Values =>
  Object.fromEntries(Object.entries(GOOD_ENDS).filter(([k, v]) => base[k] !== undefined && base[k] !== v));

/** Ends that the board has within this of what comes are the same, us. */
const NEAR_US = 20;

/** The ends and middles of sticks as they come in, where the board can be told them; a little inside, so that they are reached. */
function endsAsTheyAre(course: readonly Course[]): Values {
  const INSIDE_US = 4;
  return Object.fromEntries(
    course.flatMap(({ stick, range }) =>
      range
        ? [
            [`rx.${stick}.low`, Math.round(range.lowUs) + INSIDE_US],
            ...(range.middleUs === null ? [] : [[`rx.${stick}.middle`, Math.round(range.middleUs)]]),
            [`rx.${stick}.high`, Math.round(range.highUs) - INSIDE_US],
          ]
        : [],
    ),
  );
}

/** Ends, middle and noise of every stick, from full circles and a rest; what is wrong is mended at the radio. */
export function StickEnds() {
  const ready = useApp((s) => s.board.link === 'ready');
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'stick-ends'));
  const world = useApp(selectProofWorld);
  const dispatch = useAppDispatch();
  const [course, setCourse] = useState<readonly Course[] | null>(null);
  const watches = useRef<Watches | null>(null);
  const running = watches.current !== null;
  const set = settingsOf(base);

  useEffect(() => {
    if (!ready) {
      // Half a measurement is none.
      watches.current = null;
      setCourse((c) => (c?.every((x) => x.range) ? c : null));
      return;
    }
    let heardS = Number.NEGATIVE_INFINITY;
    const channelOf = (stick: StickName) => settingsOf(base).number(`rx.${stick}.channel`);
    const timer = setInterval(() => {
      const w = watches.current;
      if (!w) {
        heardS = Number.NEGATIVE_INFINITY;
        return;
      }
      for (const { atS, value } of recent('receiver', 2)) {
        if (atS <= heardS) continue;
        heardS = atS;
        for (const stick of stickNames) {
          const us = value.channels[channelOf(stick) - 1];
          if (us !== undefined) w[stick].step(us, atS);
        }
      }
      const now = courseOf(w);
      if (now.every((c) => c.range)) watches.current = null;
      setCourse(now);
    }, 100);
    return () => clearInterval(timer);
  }, [ready, base]);

  const begin = () => {
    watches.current = newWatches();
    setCourse(courseOf(watches.current));
  };
  const stop = () => {
    watches.current = null;
    setCourse(null);
  };
  const ranges = course?.flatMap((c) => c.range ?? []) ?? [];
  const done = ranges.length === stickNames.length;
  const judged = course?.map((c) => (done && c.range ? judgeRange(c.stick, c.range) : null)) ?? [];
  // Only ends: what trembles is not mended by taking it so, and a trim belongs off.
  const ownEnds =
    base['rx.roll.low'] !== undefined &&
    judged.every((j) => j && ['good', 'short', 'long', 'lopsided'].includes(j.verdict));
  const asMeant = done && judged.every((j) => j?.verdict === 'good');
  const own = done ? endsAsTheyAre(course ?? []) : {};
  /** The board takes every stick as it comes, though the transmitter gives it otherwise than it should. */
  const taken =
    done &&
    ownEnds &&
    Object.entries(own).every(([k, v]) => Math.abs(Number(base[k]) - Number(v)) <= NEAR_US);
  const good = asMeant || taken;
  const needed = deadbandFor(ranges);
  const changes = {
    ...(set.number('rx.deadband') < needed ? { 'rx.deadband': needed } : {}),
    ...(asMeant ? notHad(base) : {}),
  };
  const wanting = Object.keys(changes).length > 0;
  const waits = Object.keys(changes).some((k) => k in edits);
  const proven =
    proof?.seen.kind === 'stick-ends' && world && stateOf(proof, world) === 'proven' ? proof.seen : null;
  return (
    <section className="mt-3 max-w-[760px] border-line border-t pt-3" aria-label="Ends, middle and noise">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">Ends, middle and noise</h2>
        <p className="min-w-[220px] flex-1 text-soft" role="status">
          {running
            ? `Stir both sticks along their edges, all the way round, twice. Then let go for ${REST_S} seconds.`
            : done
              ? good
                ? wanting
                  ? waits
                    ? 'In the tray. Write it, then keep what was seen.'
                    : 'They come in as they should; the board is not set to that yet.'
                  : `${taken && !asMeant ? 'The board takes them as they come' : 'They come in as they should'}, and ${set.number('rx.deadband')} µs of deadband hide their noise.`
                : 'Mend it at the transmitter, and measure once more.'
              : proven
                ? `Seen: ends and middles as the board is set, ${proven.noiseUs.toFixed(1)} µs of noise under ${proven.deadbandUs} µs of deadband.`
                : 'What a stick gives at its ends, in its middle and at rest, once each is on its channel.'}
        </p>
        {running ? (
          <Button onClick={stop}>Stop measuring</Button>
        ) : (
          <>
            <Button kind={done || proven ? 'plain' : 'go'} disabled={!ready} onClick={begin}>
              {done || proven ? 'Measure again' : 'Measure them'}
            </Button>
            {good && wanting && (
              <Button kind="go" disabled={waits} onClick={() => dispatch(staged(changes))}>
                Put into the tray
              </Button>
            )}
            {done && !good && ownEnds && (
              <Button
                title="Where the transmitter cannot be mended: the board then takes each stick as it comes"
                onClick={() => dispatch(staged(own))}
              >
                Take them as they are
              </Button>
            )}
            {good && !wanting && (
              <Button
                kind="go"
                onClick={() => {
                  recordProof({
                    kind: 'stick-ends',
                    noiseUs: Math.max(...ranges.map((r) => r.noiseUs ?? 0)),
                    deadbandUs: set.number('rx.deadband'),
                  });
                  stop();
                }}
              >
                Keep it as seen
              </Button>
            )}
          </>
        )}
      </div>
      {course && (
        <table className="mt-2 w-full text-left">
          <thead className="text-[13px] text-soft">
            <tr>
              <th className="font-normal">Stick</th>
              <th className="text-right font-normal">low, µs</th>
              <th className="text-right font-normal">middle, µs</th>
              <th className="text-right font-normal">high, µs</th>
              <th className="text-right font-normal">noise, µs</th>
              <th className="w-1/2 pl-4 font-normal" />
            </tr>
          </thead>
          <tbody>
            {course.map(({ stick, stirred, rested, range }, i) => (
              <tr key={stick} className="border-line border-t align-baseline">
                <th scope="row" className="py-1 font-medium">
                  {stick}
                </th>
                <td className="num text-right">{range ? range.lowUs.toFixed(0) : '–'}</td>
                <td className="num text-right">{range?.middleUs?.toFixed(0) ?? '–'}</td>
                <td className="num text-right">{range ? range.highUs.toFixed(0) : '–'}</td>
                <td className="num text-right">{range?.noiseUs?.toFixed(1) ?? '–'}</td>
                <td
                  className={`pl-4 ${judged[i] ? (judged[i].verdict === 'good' ? 'text-forest' : 'text-amber') : 'text-lake'}`}
                >
                  {judged[i]?.sentence ??
                    (range
                      ? 'stirred'
                      : stirred
                        ? rested > 0.1
                          ? `rests, ${(REST_S * (1 - rested)).toFixed(0)} s more`
                          : 'now let it go'
                        : 'not stirred yet')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
