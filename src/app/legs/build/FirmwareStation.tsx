import { useEffect } from 'react';
import { type Offer, offersFor, partVerdict, type Release } from '#core/formats/releases.ts';
import { formatBytes, formatDuration } from '#core/units/units.ts';
import {
  bringBack,
  chooseFile,
  chooseRelease,
  flash,
  leaveAsItIs,
  letGoOfImage,
  loadReleases,
  prepareReturn,
  recallWalk,
  startFirmware,
  whyNotFlash,
} from '../../flashing.ts';
import { when } from '../../history.ts';
import { type FlashRun, firmwareChanged } from '../../store/firmwareSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { FileWords } from '../../ui/FileInput.tsx';
import { Lead } from '../../ui/Lead.tsx';
import { CarryItems } from './CarryReport.tsx';
import { Heard } from './Heard.tsx';

/** From the release to the settings back on the board. */
export default function FirmwareStation() {
  const board = useApp((s) => s.board);
  const { fault, returning } = useApp((s) => s.firmware);
  useEffect(() => {
    void loadReleases();
  }, []);
  const { link } = board;
  const serial = board.identity?.serial;
  useEffect(() => {
    if (link === 'loader' || link === 'ready') void recallWalk();
  }, [link, serial]);
  // After a reload in the middle, or a firmware that was put on elsewhere: settings still wait.
  const run = useApp((s) => s.firmware.run.kind);
  useEffect(() => {
    if (link === 'ready' && returning && returning.serial === serial && run === 'idle') void prepareReturn();
  }, [link, returning, serial, run]);
  return (
    <>
      <Lead title="Firmware">
        Put another firmware on the board and have its settings back afterwards, carried over by what they
        mean. What is on the board is kept before anything is erased.
      </Lead>
      {fault && (
        <p role="alert" className="mt-3 max-w-[820px] rounded-[4px] bg-red-wash px-3 py-1.5 text-red">
          {fault}
        </p>
      )}
      <div className="mt-4 grid gap-8 xl:grid-cols-[288px_minmax(0,1fr)]">
        <Releases />
        <div className="min-w-0">
          <Walk />
          <BringBack />
          <HeardAfter />
          <Parts />
        </div>
      </div>
    </>
  );
}

/** The board on the cable, or the one that the craft was last seen on. */
function useTarget(): string {
  const identity = useApp((s) => s.board.identity);
  const description = useApp((s) => s.settings.description);
  return identity?.target ?? description?.target ?? '';
}

function Releases() {
  const { catalogue, cached, fetching, inHand, run } = useApp((s) => s.firmware);
  const running = useApp((s) => (s.board.link === 'ready' ? (s.board.identity?.version ?? '') : ''));
  const target = useTarget();
  const busy = !['idle', 'runs', 'failed', 'interrupted'].includes(run.kind);
  return (
    <section aria-label="Releases">
      <p className="label">
        For {target || 'your board'}
        {cached && ', as fetched before: the service does not answer'}
      </p>
      <ul className="mt-1">
        {catalogue &&
          offersFor(catalogue, target).map((offer) => (
            <ReleaseRow
              key={offer.release.version}
              offer={offer}
              target={target}
              running={running === offer.release.version}
              chosen={inHand?.name === nameOf(offer.release)}
              busy={busy || fetching !== null}
            />
          ))}
      </ul>
      <p className="mt-2">
        <FileWords
          label="Firmware image"
          accept=".hex,text/plain"
          disabled={busy}
          onFile={(f) => void chooseFile(f)}
        >
          an image from a file…
        </FileWords>
      </p>
      {fetching && (
        <p role="status" className="mt-1 text-lake">
          Fetching {fetching} and looking through it
        </p>
      )}
    </section>
  );
}

const nameOf = (r: Release) => `${r.product} ${r.version}`;

function ReleaseRow({
  offer: { release: r, image },
  target,
  running,
  chosen,
  busy,
}: {
  readonly offer: Offer;
  readonly target: string;
  readonly running: boolean;
  readonly chosen: boolean;
  readonly busy: boolean;
}) {
  return (
    <li className={`border-line border-b py-2 ${chosen ? 'bg-paper' : ''}`}>
      <div className="flex items-baseline gap-2">
        <span className={`font-semibold text-[17px] ${image ? '' : 'text-soft'}`}>{nameOf(r)}</span>
        <span className={r.channel === 'candidate' ? 'text-amber' : 'text-soft'}>{r.channel}</span>
        {running && <span className="text-forest">on the board</span>}
        <span className="flex-1" />
        {image &&
          (chosen ? (
            <button type="button" className="text-soft underline" disabled={busy} onClick={letGoOfImage}>
              let go
            </button>
          ) : (
            <Button
              className="py-0!"
              disabled={busy}
              aria-label={`Take ${nameOf(r)}`}
              onClick={() => void chooseRelease(r, image)}
            >
              Take
            </Button>
          ))}
      </div>
      <p className="text-[12.5px] text-soft">
        <span className="num">{r.date}</span>
        {image && (
          <>
            , <span className="num">{formatBytes(image.size)}</span>, SHA-256{' '}
            <span className="num" title={image.sha256}>
              {image.sha256.slice(0, 12)}…
            </span>
          </>
        )}
      </p>
      {r.notes.map((n) => (
        <p key={n} className="text-[13px]">
          {n}
        </p>
      ))}
      {!image && (
        <p className="text-[13px] text-amber">There is no build of it for {target}; it cannot be taken.</p>
      )}
      {r.limits.map((l) => (
        <p key={l} className="text-[13px] text-amber">
          {l}
        </p>
      ))}
    </li>
  );
}

/** What has been done of the walk, what is being done, what comes. */
const steps = ['keep', 'enter', 'write', 'verify', 'start', 'listen'] as const;
type Step = (typeof steps)[number];
const stepWords: Readonly<Record<Step, string>> = {
  keep: 'Keep what is on it',
  enter: 'Into the loader',
  write: 'Erase and write',
  verify: 'Read back and compare',
  start: 'Start it',
  listen: 'Hear who answers',
};

function stepOf(run: FlashRun, inLoader: boolean): number {
  switch (run.kind) {
    case 'backing-up':
      return 0;
    case 'entering':
      return 1;
    case 'flashing':
      return run.doing === 'verifying' ? 3 : 2;
    case 'starting':
      return 4;
    case 'listening':
      return 5;
    case 'runs':
      return 6;
    case 'interrupted':
    case 'failed':
    case 'idle':
      return inLoader ? 2 : 0;
  }
}

function Walk() {
  const board = useApp((s) => s.board);
  const { inHand, run, wipe } = useApp((s) => s.firmware);
  const kept = useApp((s) => s.history.snapshots.find((x) => x.serial === s.board.identity?.serial));
  const dispatch = useAppDispatch();
  const inLoader = board.link === 'loader';
  const at = stepOf(run, inLoader);
  const why = whyNotFlash();
  const waits = run.kind === 'idle' || run.kind === 'failed' || run.kind === 'runs';
  const half = inLoader && board.loader?.plan && !board.loader.verified ? board.loader : null;
  const goesOn = half !== null && half.plan?.crc === inHand?.info.crc;
  return (
    <section aria-label="The walk to another firmware">
      {inLoader && (
        <p className="max-w-[640px] rounded-[4px] border border-line bg-paper px-3 py-2">
          <b className="font-semibold">{board.identity?.board} is in its loader.</b>{' '}
          {half
            ? `Pfad ${half.plan!.version} is on it by ${Math.round((100 * half.written) / half.plan!.size)} %: ${goesOn ? 'writing goes on there.' : 'take that release again to go on, or another to begin anew.'}`
            : board.loader?.verified
              ? `A whole Pfad ${board.loader.plan!.version} is on it.`
              : 'There is no firmware on it yet.'}{' '}
          {kept
            ? `Its settings were kept ${when(kept.lastAt)}.`
            : board.loader?.verified
              ? 'Its settings were never kept here.'
              : 'It has no settings to give.'}
          {board.loader?.verified && waits && (
            <button
              type="button"
              className="ml-2 text-forest underline decoration-dotted"
              onClick={() => void startFirmware()}
            >
              Start the firmware that is on it
            </button>
          )}
        </p>
      )}
      <ol className="mt-3 flex flex-wrap gap-y-1" aria-label="Steps">
        {steps.map((s, i) => (
          <li
            key={s}
            aria-current={i === at && !waits ? 'step' : undefined}
            className={`flex items-center text-[13px] ${i < at ? 'text-forest' : i === at && !waits ? 'font-semibold text-lake' : 'text-soft'}`}
          >
            <i
              className={`mr-1.5 inline-block size-2 rotate-45 border ${i < at ? 'border-forest bg-forest' : i === at && !waits ? 'border-lake bg-lake' : 'border-contour'}`}
            />
            {stepWords[s]}
            {i < steps.length - 1 && <span className="mx-2 inline-block h-px w-5 bg-line" />}
          </li>
        ))}
      </ol>
      <Doing run={run} />
      {waits && inHand && run.kind !== 'runs' && (
        <div className="mt-3 flex max-w-[680px] flex-wrap items-center gap-x-5 gap-y-2">
          <fieldset className="flex gap-4" aria-label="Settings on the board">
            {[false, true].map((w) => (
              <label key={String(w)} className="flex items-center gap-1.5">
                <input
                  type="radio"
                  name="wipe"
                  className="accent-forest"
                  checked={wipe === w}
                  disabled={goesOn}
                  onChange={() => dispatch(firmwareChanged({ wipe: w }))}
                />
                {w ? 'erase the settings too' : 'leave the settings on it'}
              </label>
            ))}
          </fieldset>
          <Button kind="go" disabled={why !== null} title={why ?? undefined} onClick={() => void flash()}>
            {goesOn ? 'Go on writing' : `Put ${inHand.name} on the board`}
          </Button>
          {why && <p className="w-full text-amber">{why}</p>}
        </div>
      )}
      {waits && !inHand && run.kind !== 'runs' && (
        <p className="mt-3 text-soft">Take a release, or an image from a file, to begin.</p>
      )}
    </section>
  );
}

/** What is happening now, with numbers. */
function Doing({ run }: { readonly run: FlashRun }) {
  switch (run.kind) {
    case 'idle':
      return null;
    case 'flashing': {
      const share = run.done / run.of;
      const left = run.rate ? (run.of - run.done) / run.rate : null;
      const words = { erasing: 'Erasing', writing: 'Writing', verifying: 'Reading back and comparing' }[
        run.doing
      ];
      return (
        <div className="mt-3 max-w-[640px]" role="status">
          <MemoryBand doing={run.doing} share={share} />
          <p className="mt-1 text-lake">
            {words}: <span className="num">{formatBytes(run.done)}</span> of{' '}
            <span className="num">{formatBytes(run.of)}</span>
            {run.rate !== null && (
              <>
                , <span className="num">{formatBytes(run.rate)}</span> a second,{' '}
                <span className="num">{formatDuration(left!)}</span> left
              </>
            )}
          </p>
          <p className="text-[13px] text-soft">
            The cable or this page may go at any time: the loader keeps what is written and goes on from
            there.
          </p>
        </div>
      );
    }
    case 'interrupted':
      return (
        <p role="alert" className="mt-3 max-w-[640px] rounded-[4px] bg-amber-wash px-3 py-2 text-amber">
          {run.why} What is written stays on the board. Put the cable back: writing goes on by itself.
        </p>
      );
    case 'failed':
      return (
        <p role="alert" className="mt-3 max-w-[640px] rounded-[4px] bg-red-wash px-3 py-2 text-red">
          {run.why}
        </p>
      );
    case 'runs':
      return (
        <p role="status" className="mt-3 font-semibold text-forest">
          The new firmware runs, read back as it was sent.
        </p>
      );
    default: {
      const words = {
        'backing-up': 'Keeping what is on the board',
        entering: 'Waiting for the board, which goes into its loader',
        starting: 'Waiting for the board, which starts its new firmware',
        listening: 'Hearing who answers on its buses and ports',
      }[run.kind];
      return (
        <p role="status" className="mt-3 text-lake">
          {words}
        </p>
      );
    }
  }
}

const CELLS = 64;

/** The board's memory from its first byte to its last: erased cells are hollow, written ones full. */
function MemoryBand({ doing, share }: { readonly doing: string; readonly share: number }) {
  const full = Math.round(share * CELLS);
  return (
    <svg viewBox={`0 0 ${CELLS * 10} 16`} className="w-full" aria-hidden="true">
      {Array.from({ length: CELLS }, (_, i) => {
        // Erasing begins at the end of the memory.
        const on = doing === 'erasing' ? i < CELLS - full : i < full;
        return (
          <rect
            key={i}
            x={i * 10 + 1}
            y={1}
            width={7.5}
            height={14}
            rx={1.5}
            fill={on ? (doing === 'erasing' ? 'var(--contour)' : 'var(--lake)') : 'var(--sheet)'}
            stroke={on && doing !== 'erasing' ? 'var(--lake)' : 'var(--contour)'}
          />
        );
      })}
    </svg>
  );
}

/** Settings that wait to go back, each with what becomes of it. */
function BringBack() {
  const { report, back, returning } = useApp((s) => s.firmware);
  const { identity, link } = useApp((s) => s.board);
  const snapshot = useApp((s) => s.history.snapshots.find((x) => x.id === s.firmware.returning?.snapshot));
  if (back.kind === 'done')
    return (
      <p role="status" className="mt-5 font-semibold text-forest">
        {back.count === 0
          ? 'The board holds its settings as before; there is nothing to bring back.'
          : `${back.count} settings are back on the board, each read back as it was sent.`}
      </p>
    );
  if (!returning || link !== 'ready' || identity?.serial !== returning.serial) return null;
  const open = report?.items.filter((i) => i.kind === 'decide').length ?? 0;
  return (
    <section aria-label="Settings back" className="mt-5 max-w-[760px]">
      <h2 className="font-semibold text-[15px]">
        Settings of Pfad {snapshot?.version}, kept {snapshot && when(snapshot.lastAt)}
      </h2>
      {back.kind === 'failed' && (
        <p role="alert" className="mt-1 rounded-[4px] bg-red-wash px-3 py-1.5 text-red">
          {back.why}
        </p>
      )}
      {report && (
        <>
          <p className="text-soft">
            This is what becomes of each under {report.to}. Nothing is written until you take it.
            {open > 0 && ` ${open} ask for your decision; the first choice stands until you take another.`}
          </p>
          <div
            className="mt-2 max-h-[340px] overflow-y-auto rounded-[4px] border border-line px-3 py-2"
            tabIndex={0}
            role="region"
            aria-label="What becomes of each setting"
          >
            <CarryItems
              report={report}
              onChoose={(id, option) => {
                const chosen = Object.fromEntries(
                  report.items.flatMap((i) => (i.decision ? [[i.decision.id, i.decision.chosen]] : [])),
                );
                void prepareReturn({ ...chosen, [id]: option });
              }}
            />
          </div>
          <div className="mt-2 flex gap-3">
            <Button kind="go" disabled={back.kind === 'writing'} onClick={() => void bringBack()}>
              {back.kind === 'writing' ? 'Writing…' : 'Write them to the board'}
            </Button>
            <Button kind="flat" disabled={back.kind === 'writing'} onClick={() => void leaveAsItIs()}>
              Leave the board on its defaults
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

/** Who answers once the new firmware runs. */
function HeardAfter() {
  const run = useApp((s) => s.firmware.run.kind);
  const selfTest = useApp((s) => s.board.selfTest);
  if (run !== 'runs' || !selfTest) return null;
  return (
    <section className="mt-5" aria-label="Who answers now">
      <p className="label">Who answers on its buses and ports</p>
      <Heard items={selfTest.items} />
    </section>
  );
}

const verdictWords = {
  fits: ['fits', 'text-forest'],
  'too-old': ['too old', 'text-red'],
  untested: ['newer than tested', 'text-amber'],
  unknown: ['not known', 'text-soft'],
} as const;

/** Parts of the craft that run a firmware of their own, and whether it goes with the board's. */
function Parts() {
  const { selfTest, identity } = useApp((s) => s.board);
  const { catalogue, inHand } = useApp((s) => s.firmware);
  const parts = selfTest?.items.filter((i) => i.product && i.version) ?? [];
  if (parts.length === 0) return null;
  const version = inHand?.info.version ?? identity?.version;
  const release = catalogue?.releases.find((r) => r.version === version);
  return (
    <section aria-label="Parts with firmware of their own" className="mt-6 max-w-[640px]">
      <h2 className="font-semibold text-[15px]">Parts with firmware of their own, under Pfad {version}</h2>
      <ul className="mt-1 text-[13px]">
        {parts.map((p) => {
          const { verdict, why } = partVerdict(release, p.product!, p.version!);
          const [word, color] = verdictWords[verdict];
          return (
            <li key={p.what} className="grid grid-cols-[1fr_auto] gap-x-3 border-line border-b py-1">
              <span>
                {p.what}, {p.product} <span className="num">{p.version}</span>
              </span>
              <span className={color}>{word}</span>
              {why && <span className="col-span-2 text-soft leading-[18px]">{why}</span>}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
