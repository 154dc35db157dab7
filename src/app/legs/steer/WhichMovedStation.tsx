import { useEffect, useMemo, useState } from 'react';
import { type ActuatorId, actuatorNames, isMotor } from '#core/airframe/actuators.ts';
import { isRotorcraft, widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import { directionWords, goesNoWay } from '#core/mixer/roles.ts';
import { staleWords, stateOf } from '#core/proofs/proofs.ts';
import { editsFromAnswer, editsFromStill, type FirstMove } from '#core/proofs/surfaceAnswers.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { boardSession } from '../../board/session.ts';
import { CraftTop } from '../../drawing/CraftTop.tsx';
import { useStatus } from '../../live/hooks.ts';
import { recordProof } from '../../session.ts';
import { selectDescription, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Lead } from '../Lead.tsx';
import { HoldBar } from './HoldBar.tsx';

/** The board moves one output at a time; the person says what moved and which way. */
export default function WhichMovedStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const pads = useApp(selectDescription)?.pads ?? [];
  const values = useApp(selectValues);
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const ready = useApp((s) => s.board.link === 'ready');
  const status = useStatus();
  const dispatch = useAppDispatch();
  const [output, setOutput] = useState(1);
  const [picked, setPicked] = useState<ActuatorId | null>(null);
  const [moved, setMoved] = useState(false);
  /** Two outputs were said to move one part. */
  const [clash, setClash] = useState<Clash | null>(null);
  const rotors = isRotorcraft(airframe);
  const moving = status?.moving ?? 0;
  useEffect(() => {
    if (moving !== 0) setMoved(true);
  }, [moving]);

  const seenOn = useMemo(() => {
    const map = new Map<ActuatorId, number>();
    for (const p of proofs) if (p.seen.kind === 'moved') map.set(p.seen.actuator, p.seen.output);
    return map;
  }, [proofs]);
  const answered = new Map(
    proofs.flatMap((p) =>
      p.seen.kind === 'moved' || p.seen.kind === 'still' ? [[p.seen.output, p] as const] : [],
    ),
  );
  const settled = new Set(
    [...seenOn.keys()].filter((id) => stateOf(answered.get(seenOn.get(id)!), world) === 'proven'),
  );

  const choose = (n: number) => {
    boardSession.stopHold();
    setOutput(n);
    setPicked(null);
    setMoved(false);
  };
  const answer = (actuator: ActuatorId, first: FirstMove) => {
    const before = seenOn.get(actuator);
    setClash(before === undefined || before === output ? null : { actuator, before, now: output });
    dispatch(staged(editsFromAnswer(values, output, actuator, first, seenOn)));
    recordProof({ kind: 'moved', output, actuator, first });
    advance();
  };
  const still = () => {
    setClash(null);
    dispatch(staged(editsFromStill(output)));
    recordProof({ kind: 'still', output });
    advance();
  };
  const advance = () => {
    const next =
      pads.find((p) => p.output > output && !answered.has(p.output)) ??
      pads.find((p) => p.output !== output && !answered.has(p.output));
    choose(next?.output ?? output);
    // What was answered with is gone from the page; the next thing to do has the focus.
    requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-hold]')?.focus());
  };

  const { length, ahead } = topView(airframe);
  const k = Math.min(440 / widthOf(airframe), 340 / (length + ahead));
  return (
    <div className="flex h-full min-h-[540px] flex-col">
      <Lead />

      <div className="mt-3 grid min-h-0 flex-1 grid-cols-[196px_minmax(460px,1fr)] grid-rows-[minmax(0,1fr)] gap-4">
        <ol aria-label="Outputs" className="min-h-0 space-y-0.5 overflow-y-auto">
          {pads.map((p) => {
            const proof = answered.get(p.output);
            const state = stateOf(proof, world);
            const here = p.output === output;
            const what = settingsOf(values).choice(`out.${p.output}.drives`);
            return (
              <li key={p.output}>
                <button
                  type="button"
                  aria-current={here}
                  title={staleWords(proof, world)}
                  onClick={() => choose(p.output)}
                  className={`grid w-full grid-cols-[24px_1fr_auto] items-center gap-2 rounded-[4px] px-2 py-1 text-left leading-[17px] ${here ? 'bg-lake-wash' : 'hover:bg-sunk'}`}
                >
                  <span
                    className={`num rounded-[3px] border-[1.5px] text-center font-semibold text-[12px] leading-[21px] ${
                      moving === p.output
                        ? 'border-lake bg-lake text-sheet'
                        : here
                          ? 'border-lake text-lake'
                          : 'border-contour text-soft'
                    }`}
                  >
                    {p.output}
                  </span>
                  <span>
                    {moving === p.output
                      ? 'moving now'
                      : state === 'none'
                        ? 'not asked yet'
                        : what === 'nothing'
                          ? 'nothing'
                          : actuatorNames[what]}
                    <small
                      className={`block text-[12px] leading-[14px] ${state === 'stale' ? 'text-red' : here ? 'text-soft' : 'text-faint'}`}
                    >
                      {state === 'stale'
                        ? 'changed since seen'
                        : `pad ${p.pad}${state === 'none' && what !== 'nothing' ? `, set: ${actuatorNames[what]}` : ''}`}
                    </small>
                  </span>
                  {state === 'proven' && <span className="font-semibold text-forest">✓</span>}
                </button>
              </li>
            );
          })}
        </ol>
        <div className="relative min-h-0">
          <svg
            viewBox={`-260 ${-ahead * k - 16} 520 ${(length + ahead) * k + 30}`}
            className="h-full w-full"
            aria-label="The craft from above: click what moved"
          >
            <CraftTop
              airframe={airframe}
              scale={k}
              picked={picked}
              settled={settled}
              onPick={ready ? setPicked : undefined}
            />
            <Labels k={k} outputOf={(id) => seenOn.get(id) ?? null} />
          </svg>
          {(airframe.fittings ?? []).length > 0 && (
            <ul aria-label="What it carries" className="absolute top-0 right-0 flex flex-col items-end gap-1">
              {airframe.fittings?.map((id) => (
                <li key={id}>
                  <button
                    type="button"
                    aria-pressed={picked === id}
                    disabled={!ready}
                    onClick={() => setPicked(id)}
                    className={`rounded-[4px] border px-2 py-0.5 text-[13px] ${picked === id ? 'border-lake bg-lake-wash' : 'border-contour hover:bg-sunk'}`}
                  >
                    {actuatorNames[id]}
                    {seenOn.has(id) && <span className="num text-soft">, out {seenOn.get(id)}</span>}
                  </button>
                </li>
              ))}
            </ul>
          )}
          {picked && (
            <fieldset className="absolute right-0 bottom-0 rounded-[4px] border border-lake bg-sheet px-3 py-2.5 shadow-sm">
              <legend className="px-1 font-label font-semibold text-[13px]">
                {actuatorNames[picked]}
                {goesNoWay(picked)
                  ? ''
                  : !isMotor(picked)
                    ? ', first went'
                    : rotors
                      ? ', seen from above, turned'
                      : ''}
              </legend>
              <div className="flex gap-2">
                {isMotor(picked) && rotors ? (
                  (['anticlockwise', 'clockwise'] as const).map((way) => (
                    <Button key={way} kind="live" disabled={!moved} onClick={() => answer(picked, way)}>
                      {way === 'clockwise' ? '↻ ' : '↺ '}
                      {way}
                    </Button>
                  ))
                ) : isMotor(picked) || goesNoWay(picked) ? (
                  <Button kind="live" disabled={!moved} onClick={() => answer(picked, 'turned')}>
                    {isMotor(picked) ? 'it turned' : 'it answered'}
                  </Button>
                ) : (
                  [...directionWords(picked)].reverse().map((word) => (
                    <Button
                      key={word}
                      kind="live"
                      disabled={!moved}
                      onClick={() => answer(picked, word as FirstMove)}
                    >
                      {{ up: '▲ ', down: '▼ ', left: '◀ ', right: '▶ ' }[word]}
                      {word}
                    </Button>
                  ))
                )}
              </div>
              {!moved && <p className="mt-1 text-[12px] text-soft">Hold output {output} first.</p>}
            </fieldset>
          )}
        </div>
      </div>
      {clash && (
        <Notice
          tone="amber"
          action={
            <Button
              onClick={() => {
                choose(clash.before);
                setClash(null);
              }}
            >
              Ask output {clash.before} again
            </Button>
          }
        >
          You said before that output {clash.before} moves the {actuatorNames[clash.actuator]}, and now that
          output {clash.now} does. Unless it has two servos, one of the two answers is wrong.
        </Notice>
      )}
      <HoldBar output={output} label={`Hold to move output ${output}`}>
        <Button disabled={!moved} onClick={still}>
          Nothing moved
        </Button>
      </HoldBar>
    </div>
  );
}

interface Clash {
  readonly actuator: ActuatorId;
  readonly before: number;
  readonly now: number;
}

/** Parts in the middle whose names are led out to the left, so that two do not meet. */
const onTheLeft: ReadonlySet<ActuatorId> = new Set(['rudder', 'motor', 'rear-motor', 'front-motor']);

/** Names of what has been answered, led out beside the drawing. */
function Labels({
  k,
  outputOf,
}: {
  readonly k: number;
  readonly outputOf: (id: ActuatorId) => number | null;
}) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const view = useMemo(() => topView(airframe), [airframe]);
  const parts = [
    ...view.motors.map((m) => ({ id: m.id, at: m.centre })),
    ...view.surfaces.map((s) => ({ id: s.id, at: s.centre })),
  ];
  return (
    <g fontSize={13} fill="var(--soft)" aria-hidden="true">
      {parts.map(({ id, at }) => {
        const motor = isMotor(id);
        const x = at[0] * k;
        const y = at[1] * k;
        const side = Math.abs(at[0]) < 0.05 ? (onTheLeft.has(id) ? -1 : 1) : Math.sign(at[0]);
        const far = Math.abs(at[0]) < 0.05 ? 96 : 0;
        // A lower rotor stands under the upper one of the same arm.
        const ty = motor ? y - (id.includes('lower') ? 38 : 22) : y + (far ? 16 : 30);
        const out = outputOf(id);
        return (
          <g key={id}>
            <path
              d={
                far
                  ? `M${x + side * 30} ${y + 4}L${x + side * far} ${ty - 4}`
                  : `M${x} ${motor ? y - 6 : y + 8}V${motor ? ty + 3 : ty - 12}`
              }
              stroke="var(--contour)"
              fill="none"
            />
            <text
              x={x + side * far}
              y={ty}
              textAnchor={far || motor ? (side > 0 ? 'start' : 'end') : 'middle'}
              dx={far ? side * 4 : motor ? -side * 24 : 0}
              dy={far ? 0 : 0}
            >
              {actuatorNames[id]}
              {out !== null && <tspan className="num">, out {out}</tspan>}
            </text>
          </g>
        );
      })}
    </g>
  );
}
