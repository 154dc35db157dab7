import { type ReactNode, useEffect, useRef, useState } from 'react';
import type { BenchTarget } from '#core/wire/messages.ts';
import { boardSession } from '../../board/session.ts';
import { useSampled, useStatus } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { confirmPropellersOff } from '../../session.ts';
import { useApp } from '../../store/store.ts';
import { Check } from '../../ui/Check.tsx';
import { HoldButton } from '../../ui/HoldButton.tsx';

const STOPPED_AFTER_MS = 600;

interface Props {
  readonly output: number;
  /** Where a servo is brought; left out, it swings. */
  readonly to?: BenchTarget;
  readonly label: string;
  /** What can be answered, at the end of the bar. */
  readonly children?: ReactNode;
}

/** Leave to move outputs and to talk to what turns: a person says that the propellers are off, and the board agrees. */
export function LeaveToMove({ onAllowed }: { readonly onAllowed?: (allowed: boolean) => void }) {
  const leave = useLeave();
  const tell = useRef(onAllowed);
  tell.current = onAllowed;
  useEffect(() => tell.current?.(leave.allowed), [leave.allowed]);
  return (
    <>
      <LeaveCheck {...leave} />
      {(leave.fault ?? leave.lapsed) && (
        <span className="text-[13px] text-soft">{leave.fault ?? leave.lapsed}</span>
      )}
    </>
  );
}

function useLeave() {
  const status = useStatus();
  const [fault, setFault] = useState<string | null>(null);
  const allowed = status?.benchAllowed ?? false;
  // The tick shows what was asked until the board has answered; nothing moves before it has.
  const [asked, setAsked] = useState<boolean | null>(null);
  useEffect(() => {
    if (asked === allowed) setAsked(null);
  }, [asked, allowed]);
  const lapsed = useLapse(allowed);
  const ask = (off: boolean) => {
    setAsked(off);
    void confirmPropellersOff(off).then((why) => {
      setFault(why);
      if (why !== null) setAsked(null);
    });
  };
  return { allowed, shown: asked ?? allowed, armed: status?.armed ?? false, fault, lapsed, ask };
}

function LeaveCheck({ shown, armed, ask }: ReturnType<typeof useLeave>) {
  const ready = useApp((s) => s.board.link === 'ready');
  return (
    <Check disabled={!ready || armed} checked={shown} onChange={(e) => ask(e.target.checked)}>
      The propellers are off
    </Check>
  );
}

/** Leave to move outputs, and the control that moves one for as long as it is held. */
export function HoldBar({ output, to, label, children }: Props) {
  const ready = useApp((s) => s.board.link === 'ready');
  const status = useStatus();
  const leave = useLeave();
  const { allowed, armed, fault, lapsed } = leave;
  const [held, setHeld] = useState(false);
  const moving = status?.moving ?? 0;
  // The board stops by itself when it is not told often enough, and takes up no hold that has ended.
  const [stopped, setStopped] = useState(false);
  useEffect(() => setStopped(false), [output]);
  useEffect(() => {
    if (!held || moving !== 0) return;
    const timer = setTimeout(() => setStopped(true), STOPPED_AFTER_MS);
    return () => clearTimeout(timer);
  }, [held, moving]);
  return (
    <div className="mt-3 flex shrink-0 flex-wrap items-center gap-3 rounded-[4px] border border-line bg-paper px-3.5 py-2.5">
      <LeaveCheck {...leave} />
      <HoldButton
        disabled={!ready || !allowed}
        onHold={() => {
          setStopped(false);
          setHeld(true);
          boardSession.startHold(output, to);
        }}
        onRelease={() => {
          setHeld(false);
          boardSession.stopHold();
        }}
      >
        {label} <span className="num ml-2 text-[12px]">Space</span>
      </HoldButton>
      <span className="min-w-40 flex-1 text-[13px] text-soft">
        {fault ??
          (armed
            ? 'The craft is armed. Disarm first: nothing is moved by hand while it is.'
            : stopped && moving === 0
              ? 'The board moves nothing now. Let go and hold again.'
              : allowed
                ? 'Stops when you let go, or when the cable goes quiet.'
                : (lapsed ?? 'Nothing moves until you confirm that the propellers are off.'))}
      </span>
      {children}
    </div>
  );
}

/** Why the leave that was given is gone, as long as it is; null while it stands, or where none was given. */
function useLapse(allowed: boolean): string | null {
  const benchPropellers = useApp((s) => s.ui.benchPropellers);
  const link = useApp((s) => s.board.link);
  const status = useStatus();
  const battery = useSampled(() => (live('power')?.supplyV ?? 0) > 5, 300);
  const now = { propellers: benchPropellers, link, armed: status?.armed ?? false, battery };
  const before = useRef({ allowed, ...now });
  const [why, setWhy] = useState<string | null>(null);
  useEffect(() => {
    const was = before.current;
    if (was.allowed && !allowed) {
      const cause =
        now.link !== 'ready'
          ? 'The cable was out'
          : now.propellers && !was.propellers
            ? 'The propellers were put on'
            : now.armed
              ? 'The craft was armed'
              : now.battery !== was.battery
                ? `The battery was ${now.battery ? 'put in' : 'taken out'}`
                : null;
      setWhy(
        cause === null
          ? null
          : `${cause} since you said that the propellers are off. Look at them, and say it again.`,
      );
    } else if (allowed) setWhy(null);
    if (allowed || was.allowed) before.current = { allowed, ...now };
  });
  // With another leg, what was confirmed there is not taken along.
  useEffect(() => () => void confirmPropellersOff(false), []);
  return allowed ? null : why;
}
