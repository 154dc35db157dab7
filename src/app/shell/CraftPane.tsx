import { PanelRightClose, PanelRightOpen } from 'lucide-react';
import { lazy, Suspense, useRef } from 'react';
import { widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import { commandedBy } from '#core/mixer/commanded.ts';
import { modeName } from '#core/modes/modes.ts';
import { CraftRear, paintRear } from '../drawing/CraftRear.tsx';
import { CraftTop, paintTop } from '../drawing/CraftTop.tsx';
import { useFrame, useSampled, useStatus } from '../live/hooks.ts';
import { live } from '../live/telemetry.ts';
import { store, useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { Facts } from '../ui/Facts.tsx';
import { useRoom } from './room.ts';

const Blockers = lazy(() => import('./Blockers.tsx'));

const DEG = 180 / Math.PI;

/** The craft as the board commands it, live on every leg, and the board's state in words. */
export function CraftPane() {
  const airframe = useApp((s) => s.craft.airframe);
  const { narrow } = useRoom();
  const open = useApp((s) => (narrow ? s.ui.paneNarrow : s.ui.paneOpen));
  const dispatch = useAppDispatch();
  const top = useRef<SVGGElement>(null);
  const rear = useRef<SVGGElement>(null);
  const bank = useRef<SVGGElement>(null);
  useFrame(() => {
    if (!open) return;
    const outputs = live('outputs');
    const commanded = outputs && commandedBy(store.getState().settings.base, outputs.pulses);
    paintTop(top.current, commanded);
    paintRear(rear.current, commanded);
    const attitude = live('attitude');
    bank.current?.setAttribute('transform', `rotate(${((attitude?.roll ?? 0) * DEG).toFixed(1)})`);
  });
  const toggle = (
    <button
      type="button"
      aria-label={open ? 'Fold the craft pane away' : 'Unfold the craft pane'}
      className="text-soft hover:text-ink"
      onClick={() => dispatch(uiChanged(narrow ? { paneNarrow: !open } : { paneOpen: !open }))}
    >
      {open ? (
        <PanelRightClose size={16} strokeWidth={1.6} />
      ) : (
        <PanelRightOpen size={16} strokeWidth={1.6} />
      )}
    </button>
  );
  if (!open || !airframe) return <aside className="border-line border-l px-2 pt-3.5">{toggle}</aside>;
  const { length, ahead } = topView(airframe);
  const k = Math.min(250 / widthOf(airframe), 190 / (length + ahead));
  return (
    <aside
      aria-label="What the board commands"
      className="overflow-y-auto border-line border-l px-[18px] pt-3.5 pb-4"
    >
      <div className="flex items-center justify-between">
        <h2 className="label">What the board commands</h2>
        {toggle}
      </div>
      <svg
        viewBox={`-128 ${-ahead * k - 8} 256 ${(length + ahead) * k + 22}`}
        className="mt-2 w-full"
        aria-hidden="true"
      >
        <CraftTop airframe={airframe} scale={k} root={top} />
      </svg>
      <div className="relative border-line border-t">
        <span className="absolute bottom-1 left-0 font-label text-[12px] text-soft">from behind</span>
        <Attitude />
        <svg viewBox="-128 -64 256 124" className="w-full" aria-hidden="true">
          <g ref={bank}>
            <CraftRear airframe={airframe} scale={0.82 * k} root={rear} />
          </g>
        </svg>
      </div>
      <Words />
    </aside>
  );
}

function Attitude() {
  const a = useSampled(() => live('attitude'), 100);
  if (!a) return null;
  return (
    <span className="num absolute top-1 right-0 text-right text-[12px] leading-4">
      <span className="block text-roll">R {Math.round(a.roll * DEG) + 0}°</span>
      <span className="block text-pitch">P {Math.round(a.pitch * DEG) + 0}°</span>
    </span>
  );
}

function Words() {
  const status = useStatus();
  const link = useApp((s) => s.board.link);
  const { receiver, power, nav, estimates } = useSampled(
    () => ({
      receiver: live('receiver'),
      power: live('power'),
      nav: live('navigation'),
      estimates: live('estimates'),
    }),
    250,
  );
  if (link !== 'ready' || !status) {
    return (
      <p className="mt-3 border-line border-t pt-3 text-soft">
        {link === 'reading'
          ? 'The board is being read.'
          : link === 'loader'
            ? 'Nothing is live: the board is in its loader.'
            : link === 'ready'
              ? 'The board tells nothing of its state.'
              : 'Nothing is live: no board is plugged in. On the bench drawer (B) plug USB in.'}
      </p>
    );
  }
  const quality = receiver?.quality ?? null;
  const age = receiver?.frameAge ?? null;
  const fix = nav?.hasFix ?? false;
  return (
    <Facts className="mt-2 gap-x-3 gap-y-[3px] border-line border-t pt-2.5 [&>dd]:text-right">
      <dt>Mode</dt>
      <dd>
        {modeName(status.mode)}
        {status.refusal && <span className="block text-[12px] text-amber leading-4">{status.refusal}</span>}
      </dd>
      <dt>Armed</dt>
      <dd>
        {status.armed ? (
          <b className="text-amber">yes</b>
        ) : (
          <Suspense>
            <Blockers blockers={status.blockers} />
          </Suspense>
        )}
      </dd>
      <dt>Link</dt>
      <dd className={quality ? 'num text-lake' : ''}>
        {status.lost !== 'fine'
          ? status.lost
          : quality === null
            ? 'not live'
            : quality > 0
              ? `${Math.round(quality * 100)} %`
              : `silent${age !== null && age < 999 ? ` for ${age.toFixed(0)} s` : ''}`}
      </dd>
      <dt>Fix</dt>
      <dd className={fix ? 'text-lake' : ''}>
        {nav === null ? (
          'not live'
        ) : fix ? (
          <span className="num">{nav.satellites} satellites</span>
        ) : (
          `none, ${nav.satellites} satellites`
        )}
      </dd>
      {estimates && (
        <>
          <dt>Position</dt>
          <dd className={estimates.position.health === 'good' ? 'text-lake' : ''}>
            {estimates.position.health === 'lost'
              ? 'not known'
              : `${estimates.position.health === 'degraded' ? 'by reckoning, ' : ''}±${estimates.position.accuracy.toFixed(0)} m`}
          </dd>
        </>
      )}
      <dt>Battery</dt>
      <dd className={power && power.supplyV > 1 ? 'num text-lake' : ''}>
        {power === null ? 'not live' : power.supplyV > 1 ? `${power.supplyV.toFixed(2)} V` : 'not in'}
      </dd>
      <dt>Servo power</dt>
      <dd className={power && power.servoRailV > 4 ? 'num text-lake' : ''}>
        {power === null ? 'not live' : power.servoRailV > 4 ? `${power.servoRailV.toFixed(1)} V` : 'none'}
      </dd>
    </Facts>
  );
}
