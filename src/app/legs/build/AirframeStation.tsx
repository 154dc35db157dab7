import { useEffect, useMemo, useState } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { performanceOf } from '#core/airframe/performance.ts';
import { formatQuantity } from '#core/units/units.ts';
import { CraftTop } from '../../drawing/CraftTop.tsx';
import { airframeChanged, renamed } from '../../store/craftSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Lead } from '../../ui/Lead.tsx';
import { Quantity, QuantityField } from '../../ui/Quantity.tsx';

/** The craft drawn from its dimensions, and the numbers that follow. */
export function AirframeStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const units = useApp((s) => s.ui.units);
  const dispatch = useAppDispatch();
  const [name, setName] = useState(airframe.name);
  useEffect(() => setName(airframe.name), [airframe.name]);
  const p = useMemo(() => performanceOf(airframe), [airframe]);
  const put = (change: Partial<Airframe>) => dispatch(airframeChanged({ ...airframe, ...change }));
  const k = Math.min(470 / airframe.wing.spanM, 330 / airframe.lengthM);
  const half = (airframe.wing.spanM / 2) * k;
  const bottom = airframe.lengthM * k;
  const inRange = airframe.cgAftM >= p.cgForwardM && airframe.cgAftM <= p.cgAftLimitM;
  const band = half + 34;
  return (
    <>
      <Lead title="The craft">
        {airframe.name} from above, drawn to scale. Change span, mass or balance and everything that follows
        from them changes with it.
      </Lead>
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)_190px] gap-4">
        <svg
          viewBox={`${-half - 30} -44 ${2 * half + 112} ${bottom + 66}`}
          className="max-h-[390px] w-full"
          role="img"
          aria-label={`${airframe.name} from above, to scale`}
        >
          <defs>
            <pattern id="grid" width={0.1 * k} height={0.1 * k} patternUnits="userSpaceOnUse">
              <path
                d={`M${0.1 * k} 0H0V${0.1 * k}`}
                fill="none"
                stroke="var(--line)"
                strokeWidth={0.6}
                opacity={0.7}
              />
            </pattern>
          </defs>
          <rect x={-half - 20} y={-20} width={2 * half + 40} height={bottom + 36} fill="url(#grid)" />
          <text x={half + 20} y={bottom + 12} textAnchor="end" fontSize={12} fill="var(--soft)">
            100 mm grid
          </text>
          <path
            d={`M${-half} -30H${half}M${-half} -36v12M${half} -36v12`}
            stroke="var(--contour)"
            strokeWidth={1.2}
          />
          <CraftTop airframe={airframe} scale={k} />
          <g aria-hidden="true">
            <path
              d={`M${half * 0.28} ${p.cgForwardM * k}H${band}M${half * 0.28} ${p.cgAftLimitM * k}H${band}`}
              stroke="var(--forest)"
              strokeDasharray="3 3"
            />
            <rect
              x={band - 5}
              y={p.cgForwardM * k}
              width={10}
              height={Math.max(2, (p.cgAftLimitM - p.cgForwardM) * k)}
              fill="var(--forest-wash)"
              stroke="var(--forest)"
            />
            <path
              d={`M0 ${airframe.cgAftM * k}H${band}`}
              stroke={inRange ? 'var(--forest)' : 'var(--red)'}
              strokeWidth={1.2}
            />
            <circle
              r={8}
              cy={airframe.cgAftM * k}
              fill="var(--sheet)"
              stroke={inRange ? 'var(--forest)' : 'var(--red)'}
              strokeWidth={2}
            />
            <path
              d={`M0 ${airframe.cgAftM * k}m-8 0a8 8 0 0 1 8 -8v16a8 8 0 0 1 -8 -8`}
              fill={inRange ? 'var(--forest)' : 'var(--red)'}
              transform={`rotate(45 0 ${airframe.cgAftM * k})`}
            />
            <path
              d={`M-6 ${p.neutralPointAftM * k}h12M0 ${p.neutralPointAftM * k - 6}v12`}
              stroke="var(--pitch)"
              strokeWidth={2}
            />
            <text x={-10} y={p.neutralPointAftM * k + 13} textAnchor="end" fontSize={12} fill="var(--pitch)">
              neutral point
            </text>
            <text x={band + 6} y={p.cgForwardM * k - 8} textAnchor="middle" fontSize={13} fill="var(--soft)">
              balance here
            </text>
          </g>
        </svg>
        <div className="space-y-3 self-center">
          <label className="block text-soft">
            Name
            <input
              value={name}
              maxLength={80}
              onChange={(e) => setName(e.target.value)}
              onBlur={() => {
                const wanted = name.trim();
                if (wanted === '') setName(airframe.name);
                else if (wanted !== airframe.name) dispatch(renamed(wanted));
              }}
              onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
              className="block w-full rounded-[3px] border-contour border-b border-dotted bg-transparent font-medium text-[16px] text-ink hover:bg-lake-wash focus:bg-lake-wash"
            />
          </label>
          <div>
            <p className="text-soft">Span</p>
            <QuantityField
              label="Span"
              size="large"
              unit="m"
              value={airframe.wing.spanM}
              min={0.3}
              max={6}
              step={0.01}
              onChange={(spanM) => put({ wing: { ...airframe.wing, spanM } })}
            />
          </div>
          <div>
            <p className="text-soft">Mass ready to fly</p>
            <QuantityField
              label="Mass"
              size="large"
              unit="kg"
              value={airframe.massKg}
              min={0.1}
              max={25}
              step={0.01}
              onChange={(massKg) => put({ massKg })}
            />
          </div>
          <div>
            <p className="text-soft">Centre of gravity, aft of the nose</p>
            <QuantityField
              label="Centre of gravity"
              size="large"
              unit="mm"
              value={airframe.cgAftM * 1000}
              min={50}
              max={airframe.lengthM * 1000}
              step={1}
              onChange={(mm) => put({ cgAftM: mm / 1000 })}
            />
          </div>
          <p className={inRange ? 'text-forest' : 'text-red'}>
            {inRange
              ? `Balanced, static margin ${(100 * p.staticMargin).toFixed(0)} %`
              : p.staticMargin < 0.05
                ? `Tail-heavy, static margin ${(100 * p.staticMargin).toFixed(0)} %`
                : `Nose-heavy, static margin ${(100 * p.staticMargin).toFixed(0)} %`}
          </p>
        </div>
      </div>
      <div className="mt-2 grid grid-cols-3 gap-x-6 gap-y-3 border-line border-t pt-3 min-[1180px]:grid-cols-6">
        <Quantity
          name="Wing area"
          value={p.wingAreaM2}
          unit="m2"
          digits={3}
          note={`aspect ratio ${p.aspectRatio.toFixed(1)}`}
        />
        <Quantity name="Wing loading" value={p.wingLoading} unit="kg/m2" digits={2} />
        <Quantity name="Stalls at" value={p.stallMps} unit="m/s" digits={1} note="wings level" />
        <Quantity
          name="Glides best at"
          value={p.bestGlideMps}
          unit="m/s"
          digits={1}
          note={`${p.bestGlideRatio.toFixed(0)} to 1`}
        />
        <Quantity
          name="Neutral point"
          value={p.neutralPointAftM * 1000}
          unit="mm"
          digits={0}
          note="aft of the nose"
        />
        <Quantity
          name="Balance from"
          value={p.cgForwardM * 1000}
          unit="mm"
          digits={0}
          note={`to ${formatQuantity(p.cgAftLimitM * 1000, 'mm', units, 0)}`}
        />
      </div>
    </>
  );
}
