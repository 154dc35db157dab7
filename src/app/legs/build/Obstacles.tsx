import { useState } from 'react';
import type { Obstacle } from '#core/flight/terrain.ts';
import { DEG, wrapBearingDeg } from '#core/math/scalar.ts';
import { eastOf, latitudeAt, longitudeAt, northOf } from '#core/navigation/earth.ts';
import { MOST_OBSTACLES, type Site } from '#core/site/site.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { TextButton } from '../../ui/TextButton.tsx';

interface Props {
  readonly site: Site;
  readonly own: boolean;
  readonly onChange: (obstacles: Obstacle[]) => void;
}

/** What stands on the ground: seen from home, as a hill is. */
export function Obstacles({ site, own, onChange }: Props) {
  const units = useApp((s) => s.ui.units);
  const [adding, setAdding] = useState(false);
  const { home, obstacles } = site;
  const m = (v: number) => formatQuantity(v, 'm', units, 0);
  return (
    <section className="mt-4">
      <h2 className="label">What stands there</h2>
      {obstacles.length === 0 && !adding && <p className="mt-1 text-faint">Nothing that was told.</p>}
      {obstacles.length > 0 && (
        <ul className="mt-1 max-h-[150px] overflow-y-auto">
          {obstacles.map((o, i) => {
            const east = eastOf(home.lat, home.lon, o.lon);
            const north = northOf(home.lat, o.lat);
            const bearing = Math.round(wrapBearingDeg(Math.atan2(east, north) / DEG));
            return (
              <li key={i} className="flex items-baseline gap-2 py-0.5">
                <span className="min-w-0 flex-1">
                  <b className="break-words font-medium">{o.name}</b>{' '}
                  <span className="num text-[13px] text-soft">
                    {m(Math.hypot(east, north))} on {bearing}°, top {m(o.topM)}
                  </span>
                </span>
                {own && (
                  <TextButton
                    aria-label={`${o.name} is gone`}
                    tone="soft"
                    onClick={() => onChange(obstacles.filter((_, k) => k !== i))}
                  >
                    gone
                  </TextButton>
                )}
              </li>
            );
          })}
        </ul>
      )}
      {!site.bare.known && obstacles.length > 0 && (
        <p className="mt-1 text-amber">Without ground nothing can be seen to stand on it.</p>
      )}
      {adding ? (
        <Adding
          site={site}
          onDone={(o) => {
            setAdding(false);
            if (o) onChange([...obstacles, o]);
          }}
        />
      ) : (
        own &&
        obstacles.length < MOST_OBSTACLES && (
          <Button kind="flat" className="-ml-3" onClick={() => setAdding(true)}>
            Tell of another…
          </Button>
        )
      )}
    </section>
  );
}

/** A mast or a wood, from where home is. */
function Adding({ site, onDone }: { readonly site: Site; readonly onDone: (o: Obstacle | null) => void }) {
  const { home } = site;
  const [name, setName] = useState('');
  const [at, setAt] = useState({
    distanceM: 300,
    bearingDeg: 0,
    topM: Math.round(home.heightM) + 30,
    radiusM: 20,
  });
  const put = (change: Partial<typeof at>) => setAt({ ...at, ...change });
  const row = 'flex items-baseline justify-between gap-2';
  return (
    <form
      className="mt-1 space-y-1 rounded-[4px] border border-line bg-paper px-3 py-2"
      onSubmit={(e) => {
        e.preventDefault();
        const b = at.bearingDeg * DEG;
        onDone({
          name: name.trim() || 'Mast',
          lat: Number(latitudeAt(home.lat, at.distanceM * Math.cos(b)).toFixed(6)),
          lon: Number(longitudeAt(home.lat, home.lon, at.distanceM * Math.sin(b)).toFixed(6)),
          topM: at.topM,
          radiusM: at.radiusM,
        });
      }}
    >
      <label className={row}>
        What
        <input
          aria-label="What stands there"
          maxLength={60}
          value={name}
          placeholder="Mast"
          className="w-[150px] rounded-[3px] border-contour border-b border-dotted bg-transparent px-0.5"
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <p className={row}>
        From home
        <QuantityField
          label="Distance from home"
          unit="m"
          min={0}
          max={15_000}
          step={10}
          value={at.distanceM}
          onChange={(distanceM) => put({ distanceM })}
        />
      </p>
      <p className={row}>
        On bearing
        <QuantityField
          label="Bearing from home"
          unit="deg"
          min={0}
          max={360}
          step={1}
          value={at.bearingDeg}
          onChange={(bearingDeg) => put({ bearingDeg })}
        />
      </p>
      <p className={row}>
        Top above the sea
        <QuantityField
          label="Top above the sea"
          unit="m"
          min={-50}
          max={6000}
          step={1}
          value={at.topM}
          onChange={(topM) => put({ topM })}
        />
      </p>
      <p className={row}>
        Within
        <QuantityField
          label="Within"
          unit="m"
          min={0}
          max={3000}
          step={5}
          value={at.radiusM}
          onChange={(radiusM) => put({ radiusM })}
        />
      </p>
      <p className="flex gap-2 pt-1">
        <Button kind="go" type="submit">
          It stands there
        </Button>
        <Button kind="flat" onClick={() => onDone(null)}>
          Not now
        </Button>
      </p>
    </form>
  );
}
