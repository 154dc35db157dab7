import { useRef } from 'react';
import { changedSince } from '#core/proofs/proofs.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatNumber } from '#core/units/units.ts';
import { DragHandle } from '../../drawing/DragHandle.tsx';
import { selectCatalogue, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Named } from '../../ui/Named.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { Branching } from './lost/Branching.tsx';
import { LostDrillPart } from './lost/LostDrillPart.tsx';

const SPAN_S = 16;
const LEFT = 60;
const WIDTH = 600;
const x = (s: number) => LEFT + (Math.min(s, SPAN_S) / SPAN_S) * WIDTH;

const what: Readonly<Record<string, { name: string; after: string }>> = {
  return: { name: 'Return home', after: 'climbs as set and flies home' },
  glide: { name: 'Glide down', after: 'motors off, circling down where it is' },
  cut: { name: 'Stop the motors', after: 'drops where it is' },
  nothing: { name: 'Do nothing', after: 'keeps its last commands and flies on' },
};

/** What happens, and when, from the first silent moment to the way home and back to the sticks. */
export default function LostLinkStation() {
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const dispatch = useAppDispatch();
  const svg = useRef<SVGSVGElement>(null);
  const world = useApp(selectProofWorld)!;
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'lost-drill'));
  const drill =
    proof?.seen.kind === 'lost-drill' && changedSince(proof, world).length === 0 ? proof.seen : null;
  const notice = settingsOf(values).number('lost.notice');
  const guard = settingsOf(values).number('lost.guard');
  const action = settingsOf(values).choice('lost.action');
  const chosen = what[action] ?? what.nothing!;
  const acting = notice + guard;
  const put = (key: string) => (v: number) => {
    const e = catalogue.entry(key)!;
    const step = e.step ?? 0.1;
    const value = Math.min(e.max!, Math.max(e.min!, Math.round(v / step) * step));
    dispatch(staged({ [key]: Number(value.toFixed(3)) }));
  };
  const toSeconds = (px: number) => ((px - LEFT) / WIDTH) * SPAN_S;
  return (
    <>
      <Lead />
      <svg
        ref={svg}
        viewBox="0 0 720 214"
        className="mt-4 w-full min-w-[640px] max-w-[760px]"
        aria-label="Times after the link falls silent"
      >
        <rect x={LEFT} y={70} width={x(notice) - LEFT} height={34} fill="var(--forest-wash)" />
        <rect x={x(notice)} y={70} width={x(acting) - x(notice)} height={34} fill="var(--amber-wash)" />
        <rect
          x={x(acting)}
          y={70}
          width={LEFT + WIDTH - x(acting)}
          height={34}
          fill={action === 'return' ? 'var(--lake-wash)' : 'var(--red-wash)'}
        />
        <path d={`M${LEFT} 104H${LEFT + WIDTH}`} stroke="var(--ink)" strokeWidth={1.4} />
        {[0, 2, 4, 6, 8, 10, 12, 14, 16].map((s) => (
          <g key={s}>
            <path d={`M${x(s)} 104v5`} stroke="var(--contour)" />
            <text x={x(s)} y={122} textAnchor="middle" fontSize={13} className="num" fill="var(--soft)">
              {s} s
            </text>
          </g>
        ))}
        <path d={`M${LEFT} 44v64`} stroke="var(--red)" strokeWidth={1.6} strokeDasharray="3 3" />
        <text x={LEFT} y={36} textAnchor="middle" fontSize={13}>
          link falls silent
        </text>
        <text x={(x(notice) + x(acting)) / 2} y={62} textAnchor="middle" fontSize={13} fill="var(--amber)">
          {guard >= 1 ? 'flies level, waits' : ''}
        </text>
        <text x={x(acting) + 12} y={91} fontSize={14} fontWeight={600}>
          {chosen.name}: {chosen.after}
        </text>
        <DragHandle
          svg={svg}
          label="Loss noticed after"
          value={notice}
          x={x(notice)}
          y={104}
          axis="x"
          onDrag={(px) => put('lost.notice')(toSeconds(px))}
          onStep={(n) => put('lost.notice')(notice + n * 0.1)}
        />
        <DragHandle
          svg={svg}
          label="Guard for"
          value={guard}
          x={x(acting)}
          y={104}
          axis="x"
          onDrag={(px) => put('lost.guard')(toSeconds(px) - notice)}
          onStep={(n) => put('lost.guard')(guard + n * 0.5)}
        />
        {drill && (
          <g aria-label="As the drill measured it">
            {[drill.noticedS, drill.actsS].map((t) => (
              <path
                key={t}
                d={`M${x(t)} 72l6 7-6 7-6-7Z`}
                fill={drill.asDrawn ? 'var(--forest)' : 'var(--red)'}
                stroke="var(--sheet)"
              />
            ))}
          </g>
        )}
        <path d={`M${x(notice)} 116V150`} stroke="var(--contour)" />
        <path d={`M${x(acting)} 116V${178}`} stroke="var(--contour)" />
        <text x={x(notice) + 6} y={152} fontSize={13} fill="var(--soft)">
          noticed after {formatNumber(notice)} s
        </text>
        <text x={x(acting) + 6} y={180} fontSize={13} fill="var(--soft)">
          acts after {formatNumber(acting)} s in all
        </text>
      </svg>
      <RadioCards
        label="When the link is lost"
        className="mt-2 grid max-w-[760px] grid-cols-4 gap-2"
        value={action}
        cards={Object.entries(what).map(([id, w]) => ({ id, name: w.name, after: w.after }))}
        onChange={(id) => dispatch(staged({ 'lost.action': id }))}
      />
      <dl className="mt-5 grid max-w-[760px] grid-cols-4 gap-x-6 gap-y-4 border-line border-t pt-3 [&_dt]:text-soft">
        {(
          [
            ['lost.notice', 'Noticed after'],
            ['lost.guard', 'Guards for'],
            ['lost.steady', 'Link steady again for'],
            ['lost.stick', 'Then a stick moved by'],
            ['lost.near', 'Only circles within'],
            ['lost.glideBank', 'Bank of a glide'],
            ['arm.satellites', 'Satellites to arm'],
            ['return.satellites', 'Satellites to return'],
          ] as const
        ).map(([key, name]) => (
          <Named key={key} name={name}>
            <SettingField name={key} size="large" />
          </Named>
        ))}
      </dl>
      <LostDrillPart />
      <Branching />
    </>
  );
}
