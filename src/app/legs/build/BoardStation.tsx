import { useNavigate } from 'react-router';
import { type ActuatorId, actuatorNames } from '#core/airframe/actuators.ts';
import type { BoardDescription } from '#core/board/description.ts';
import { portsOf, portUses } from '#core/board/portUses.ts';
import type { Snapshot } from '#core/formats/history.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import { formatDuration } from '#core/units/units.ts';
import { when } from '../../history/words.ts';
import { benchControl } from '../../session.ts';
import { BENCH_CABLE } from '../../store/boardSlice.ts';
import { compared } from '../../store/historySlice.ts';
import { selectDescription, selectValues } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { uiChanged } from '../../store/uiSlice.ts';
import { Bar } from '../../ui/Bar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Facts } from '../../ui/Facts.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { Heard } from './Heard.tsx';
import { OfItsOwn } from './OfItsOwn.tsx';
import { OtherCables } from './OtherCables.tsx';

/** Who is on the other end of the cable, and what it holds. */
export default function BoardStation() {
  const board = useApp((s) => s.board);
  const settings = useApp((s) => s.settings);
  const description = useApp(selectDescription);
  const values = useApp(selectValues);
  const file = useApp((s) => s.craft.file);
  const dispatch = useAppDispatch();
  const { identity, link } = board;
  const navigate = useNavigate();
  return (
    <>
      <Lead />
      {link === 'unplugged' && (
        <Notice
          tone="plain"
          className="mt-4 max-w-[660px]"
          action={
            <Button
              kind="go"
              onClick={() => {
                dispatch(uiChanged({ benchOpen: true }));
                void benchControl({ usb: true });
              }}
            >
              Plug the simulated board in
            </Button>
          }
        >
          {board.waiting ? (
            <span className="mb-1 block text-lake" role="status">
              Waiting for {board.waiting}.
            </span>
          ) : (
            board.fault && <span className="mb-1 block text-red">{board.fault}</span>
          )}
          No board is on the cable. The settings shown on the other legs are those{' '}
          {settings.baseFrom === 'board'
            ? 'last read from it'
            : `in the file of ${file?.name ?? 'the craft'}`}
          .
        </Notice>
      )}
      {link === 'unplugged' && <OtherCables />}
      {link === 'reading' && (
        <div className="mt-4 max-w-[660px]" role="status">
          <p className="text-lake">
            Reading what the board is and holds, {Math.round(100 * board.progress)} %
          </p>
          <Bar share={board.progress} className="mt-2" />
        </div>
      )}
      {link === 'loader' && identity && (
        <Notice
          tone="plain"
          className="mt-4 max-w-[660px]"
          action={
            <Button kind="go" onClick={() => navigate('/build/firmware')}>
              To its firmware
            </Button>
          }
        >
          {identity.board} revision {identity.revision}, serial {identity.serial}, is in its loader:{' '}
          {board.loader?.verified
            ? `Pfad ${board.loader.plan!.version} is on it and waits to be started.`
            : board.loader?.plan
              ? `Pfad ${board.loader.plan.version} is on it only in part.`
              : 'there is no firmware on it yet.'}{' '}
          It has no settings to tell until a firmware runs.
        </Notice>
      )}
      {identity && link !== 'loader' && (
        <section className="mt-5 grid max-w-[700px] grid-cols-[auto_1fr] gap-x-10" aria-label="The board">
          <div>
            <p className="label">
              {link === 'ready' ? `On the cable now, over ${board.through}` : 'Last seen'}
            </p>
            <p className="font-semibold text-[20px] leading-7">
              {identity.board} <span className="font-normal text-soft">revision {identity.revision}</span>
            </p>
            <p>
              {identity.firmware} <span className="num">{identity.version}</span>, serial{' '}
              <span className="code">{identity.serial}</span>
            </p>
            {identity.note && <p className="mt-1 text-amber">{identity.note}</p>}
            <OtherVersion />
            <MetBeforeLine />
            {link === 'ready' && board.through !== BENCH_CABLE && (
              <Button
                kind="flat"
                className="-ml-3"
                onClick={() => void import('../../board/cables.ts').then((c) => c.letBoardGo())}
              >
                Let the board go
              </Button>
            )}
          </div>
          <Facts>
            <dt>Settings read</dt>
            <dd className="num">{identity.settings}</dd>
            <dt>Unlike the craft file</dt>
            <dd className="num">{board.differing}</dd>
            <dt>Was running for</dt>
            <dd>
              {formatDuration(identity.uptimeS)} when met; started by {identity.restartCause}
            </dd>
          </Facts>
        </section>
      )}
      {link === 'ready' && board.selfTest && (
        <section className="mt-4" aria-label="Who answers on it">
          <p className="label">
            {board.selfTest.settled ? 'Who answers on its buses and ports' : 'Still listening'}
          </p>
          <Heard items={board.selfTest.items} />
        </section>
      )}
      {link === 'ready' && <OfItsOwn />}
      {description && description.pads.length + description.ports.length > 0 && link !== 'loader' && (
        <BoardDrawing
          description={description}
          values={values}
          drives={(n) => String(settingOf(values, `out.${n}.drives`) ?? '')}
        />
      )}
      <BoardsMet />
    </>
  );
}

/** Every board that was ever met, newest first. */
function BoardsMet() {
  const snapshots = useApp((s) => s.history.snapshots);
  const here = useApp((s) =>
    s.board.link === 'ready' || s.board.link === 'loader' ? s.board.identity?.serial : null,
  );
  const newest = new Map<string, Snapshot>();
  for (const s of snapshots) {
    const known = newest.get(s.serial);
    if (!known || s.lastAt > known.lastAt) newest.set(s.serial, s);
  }
  const others = [...newest.values()]
    .filter((s) => s.serial !== here)
    .sort((a, b) => b.lastAt.localeCompare(a.lastAt));
  if (others.length === 0) return null;
  return (
    <section className="mt-6 max-w-[640px]" aria-label="Boards met before">
      <p className="label">{here ? 'Other boards met before' : 'Boards met before'}</p>
      <ul className="mt-1 text-[13px]">
        {others.map((s) => (
          <li key={s.serial} className="flex gap-3 border-line border-b py-1">
            <span className="min-w-0 flex-1 truncate">
              {s.board} <span className="text-soft">revision {s.revision}</span>, {s.craft}
            </span>
            <span className="code">{s.serial}</span>
            <span>
              {s.firmware} <span className="num">{s.version}</span>
            </span>
            <span className="text-soft">{when(s.lastAt)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A board of another version is told so, since what is shown is not what it calls its settings. */
function OtherVersion() {
  const { native, identity } = useApp((s) => s.board);
  const shown = useApp((s) => s.settings.version);
  if (!native || !identity) return null;
  return (
    <p className="mt-1 max-w-[300px] text-amber">
      Its settings are shown as {shown} has them; what you write is put into the names and scales of{' '}
      {identity.version}.
    </p>
  );
}

/** Whether this very board was here before, and what somebody changed on it since. */
function MetBeforeLine() {
  const { before, link } = useApp((s) => s.board);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  if (link !== 'ready') return null;
  if (!before)
    return <p className="mt-1 max-w-[300px] text-soft">Met for the first time; what it holds was kept.</p>;
  const since = before.version ? `It ran ${before.version} then. ` : '';
  return (
    <p className="mt-1 max-w-[300px] text-soft">
      Last seen {when(before.lastAt)}. {since}
      {before.changed === 0 && !before.version ? (
        'Nothing on it has changed since.'
      ) : (
        <TextButton
          tone="amber"
          onClick={() => {
            dispatch(compared({ a: before.id, b: 'board' }));
            navigate('/build/keep');
          }}
        >
          {before.version
            ? 'What else changed on it'
            : `${before.changed === 1 ? '1 setting was' : `${before.changed} settings were`} changed on it since.`}
        </TextButton>
      )}
    </p>
  );
}

/** Drives nothing, or nobody knows what. */
const isFree = (drives: string) => drives === 'nothing' || drives === '';

/** The board as it describes itself: pads by timer along one edge, ports and buses along the other. */
function BoardDrawing({
  description,
  values,
  drives,
}: {
  readonly description: BoardDescription;
  readonly values: Values;
  readonly drives: (output: number) => string;
}) {
  const left = 70;
  const width = 560;
  const gap = width / description.pads.length;
  const timers = [...new Set(description.pads.map((p) => p.timer))];
  return (
    <svg
      viewBox="0 0 700 240"
      className="mt-6 w-full max-w-[700px]"
      role="img"
      aria-label={`${description.board}: outputs, timers, ports and buses`}
    >
      <rect
        x={left - 22}
        y={86}
        width={width + 44}
        height={122}
        rx={7}
        fill="var(--sunk)"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      {/* The arrow that says which way the board looks. */}
      <path d={`M${left - 8} 152h14l-7 -12z`} fill="none" stroke="var(--contour)" strokeWidth={1.4} />
      <text x={left + width / 2} y={164} textAnchor="middle" fontSize={17} fontWeight={600}>
        {description.board}
      </text>
      {timers.map((t) => {
        const pads = description.pads.filter((p) => p.timer === t);
        const from = description.pads.indexOf(pads[0]!);
        return (
          <g key={t}>
            <path
              d={`M${left + from * gap + 8} 122h${pads.length * gap - 16}`}
              stroke="var(--contour)"
              strokeWidth={2}
            />
            <text
              x={left + (from + pads.length / 2) * gap}
              y={138}
              textAnchor="middle"
              fontSize={13}
              fill="var(--soft)"
            >
              timer {t}
            </text>
          </g>
        );
      })}
      {description.pads.map((p, i) => {
        const x = left + (i + 0.5) * gap;
        const what = drives(p.output);
        return (
          <g key={p.pad}>
            <rect
              x={x - 13}
              y={92}
              width={26}
              height={20}
              rx={3}
              fill="var(--sheet)"
              stroke={isFree(what) ? 'var(--contour)' : 'var(--forest)'}
              strokeWidth={1.5}
            />
            <text x={x} y={106.5} textAnchor="middle" fontSize={13} className="num">
              {p.pad}
            </text>
            <path d={`M${x} 92V${i % 2 ? 64 : 40}`} stroke="var(--contour)" />
            <text
              x={x}
              y={i % 2 ? 58 : 34}
              textAnchor="middle"
              fontSize={13}
              fill={isFree(what) ? 'var(--faint)' : 'var(--ink)'}
            >
              {actuatorNames[what as ActuatorId] ?? (what === 'nothing' ? 'free' : what)}
            </text>
          </g>
        );
      })}
      {portsOf(description, values).map((port, i) => {
        const x = left + ((i + 0.5) * width) / description.ports.length;
        return (
          <g key={port.name}>
            <rect
              x={x - 24}
              y={182}
              width={48}
              height={20}
              rx={3}
              fill="var(--sheet)"
              stroke={port.use === 'free' ? 'var(--contour)' : 'var(--forest)'}
              strokeWidth={1.5}
            />
            <text x={x} y={196.5} textAnchor="middle" fontSize={13}>
              {port.name}
            </text>
            <text
              x={x}
              y={224}
              textAnchor="middle"
              fontSize={13}
              fill={port.use === 'free' ? 'var(--faint)' : 'var(--ink)'}
            >
              {portUses[port.use]}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
