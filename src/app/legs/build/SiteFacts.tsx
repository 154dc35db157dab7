import { useState } from 'react';
import { groundAbout, groundHeight } from '#core/flight/terrain.ts';
import { DEG } from '#core/math/scalar.ts';
import { magneticField } from '#core/navigation/magneticField.ts';
import { groundInReach, HOME_REACH_M } from '#core/navigation/returnPlan.ts';
import { fieldSettings } from '#core/settings/fieldSettings.ts';
import { fieldYear, groundOf, type Site, type SiteFields } from '#core/site/site.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { TextButton } from '../../ui/TextButton.tsx';

interface Props {
  readonly site: Site;
  /** It can be changed. */
  readonly own: boolean;
  readonly onChange: (to: Partial<SiteFields>) => void;
}

/** Name, home, air and field of a site. */
export function SiteFacts({ site, own, onChange }: Props) {
  const units = useApp((s) => s.ui.units);
  const { home } = site;
  const ground = groundOf(site);
  const { homeEastM, homeNorthM } = groundAbout(site.bare, home);
  const here = site.bare.known ? groundHeight(site.bare, homeEastM, homeNorthM) : null;
  const metres = (v: number) => formatQuantity(v, 'm', units, 0);
  return (
    <dl className="grid grid-cols-[96px_minmax(0,1fr)] items-baseline gap-x-3 gap-y-1.5 [&_dt]:text-soft">
      <dt>Name</dt>
      <dd className="min-w-0">
        {own ? (
          <NameField name={site.name} onChange={(name) => onChange({ name })} />
        ) : (
          <b className="break-words">{site.name}</b>
        )}
      </dd>
      <dt>Home</dt>
      <dd>
        {own ? (
          <>
            <NumberField
              label="Latitude"
              symbol="° N"
              min={-90}
              max={90}
              step={0.00001}
              value={home.lat}
              onChange={(lat) => onChange({ home: { ...home, lat } })}
            />
            <br />
            <NumberField
              label="Longitude"
              symbol="° E"
              min={-180}
              max={180}
              step={0.00001}
              value={home.lon}
              onChange={(lon) => onChange({ home: { ...home, lon } })}
            />
          </>
        ) : (
          <span className="num">
            {home.lat.toFixed(5)}° {home.lon.toFixed(5)}°
          </span>
        )}
        {own && <TakeFix site={site} onChange={onChange} />}
      </dd>
      <dt>Above the sea</dt>
      <dd>
        {own ? (
          <QuantityField
            label="Height of home"
            unit="m"
            min={-50}
            max={5000}
            step={1}
            value={home.heightM}
            onChange={(heightM) => onChange({ home: { ...home, heightM } })}
          />
        ) : (
          <span className="num">{metres(home.heightM)}</span>
        )}
        {here !== null && Math.abs(here - home.heightM) > 1 && (
          <span className={Math.abs(here - home.heightM) > 10 ? 'text-amber' : 'text-faint'}>
            {' '}
            the ground there has {metres(here)}
          </span>
        )}
      </dd>
      {ground && (
        <>
          <dt>Highest</dt>
          <dd>
            <span className="num">{metres(groundInReach(ground).top.heightM)}</span>{' '}
            <span className="text-faint">within {metres(HOME_REACH_M)}</span>
          </dd>
        </>
      )}
      <dt>Air at home</dt>
      <dd>
        <Air site={site} own={own} onChange={onChange} />
      </dd>
      <dt>Earth’s field</dt>
      <dd>
        <EarthField site={site} own={own} onChange={onChange} />
      </dd>
    </dl>
  );
}

function NameField({ name, onChange }: { readonly name: string; readonly onChange: (name: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  const done = () => {
    const wanted = text?.trim();
    setText(null);
    if (wanted && wanted !== name) onChange(wanted);
  };
  return (
    <input
      aria-label="Name of the site"
      maxLength={60}
      value={text ?? name}
      className="w-full rounded-[3px] border-contour border-b border-dotted bg-transparent px-0.5 font-semibold hover:bg-lake-wash focus:bg-lake-wash"
      onChange={(e) => setText(e.target.value)}
      onBlur={done}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        else if (e.key === 'Escape') setText(null);
      }}
    />
  );
}

/** Home is where the board says that it is. */
function TakeFix({ site, onChange }: Omit<Props, 'own'>) {
  const fix = useSampled(() => {
    const n = live('navigation');
    return n?.hasFix ? `${n.latitude.toFixed(6)} ${n.longitude.toFixed(6)} ${n.satellites}` : null;
  }, 300);
  const [lat, lon, satellites] = fix?.split(' ').map(Number) ?? [];
  return (
    <p className="mt-1">
      <Button
        disabled={fix === null}
        onClick={() => onChange({ home: { ...site.home, lat: lat!, lon: lon! } })}
      >
        Take the board’s fix
      </Button>
      <small className="mt-0.5 block text-faint">
        {fix === null
          ? 'A board on the cable, with a fix under the sky, can tell.'
          : `${satellites} satellites`}
      </small>
    </p>
  );
}

function Air({ site, own, onChange }: Props) {
  const { air } = site;
  if (!air)
    return (
      <>
        standard day{' '}
        {own && (
          <TextButton tone="soft" onClick={() => onChange({ air: { pressureHpa: 1013, temperatureC: 15 } })}>
            as measured…
          </TextButton>
        )}
      </>
    );
  if (!own)
    return (
      <span className="num">
        {air.temperatureC} °C, {air.pressureHpa} hPa
      </span>
    );
  return (
    <>
      <QuantityField
        label="Temperature at home"
        unit="degc"
        min={-40}
        max={50}
        step={1}
        value={air.temperatureC}
        onChange={(temperatureC) => onChange({ air: { ...air, temperatureC } })}
      />{' '}
      <QuantityField
        label="Pressure at home"
        unit="hpa"
        min={500}
        max={1085}
        step={1}
        value={air.pressureHpa}
        onChange={(pressureHpa) => onChange({ air: { ...air, pressureHpa } })}
      />{' '}
      <TextButton tone="soft" onClick={() => onChange({ air: undefined })}>
        standard
      </TextButton>
    </>
  );
}

/** The earth's field here and now, and whether the compass settings are those of this place. */
function EarthField({ site, own, onChange }: Props) {
  const values = useApp(selectValues);
  const dispatch = useAppDispatch();
  const f = magneticField(site.home.lat, site.home.lon, 0, site.year);
  const wanted = fieldSettings(site);
  const set = (k: string) => values[k] as number | undefined;
  const off = Object.entries(wanted).some(
    ([k, v]) => Math.abs((set(k) ?? v) - v) > (k.endsWith('declination') ? 0.5 : 1),
  );
  const east = f.declination / DEG;
  return (
    <>
      <span className="num">{Math.abs(east).toFixed(1)}°</span> {east < 0 ? 'west' : 'east'} of north,{' '}
      <span className="num">{(f.strengthNt / 1000).toFixed(1)} µT</span>, in{' '}
      {own ? (
        <NumberField
          label="Year of the field"
          symbol=""
          min={2025}
          max={2030}
          step={0.1}
          value={site.year}
          onChange={(year) => onChange({ year })}
        />
      ) : (
        <span className="num">{site.year.toFixed(1)}</span>
      )}
      {own && site.year !== fieldYear(Date.now()) && (
        <>
          {' '}
          <TextButton tone="soft" onClick={() => onChange({ year: fieldYear(Date.now()) })}>
            now
          </TextButton>
        </>
      )}
      {off && (
        <p className="mt-1">
          <Button onClick={() => dispatch(staged(wanted))}>Set the compass to it</Button>
          <small className="mt-0.5 block text-amber">
            It is set to {set('compass.declination')?.toFixed(1)}°, {set('compass.strength')?.toFixed(1)} µT.
          </small>
        </p>
      )}
    </>
  );
}
