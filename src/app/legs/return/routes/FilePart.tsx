import { useState } from 'react';
import { type FlightPlan, isEmptyPlan, USUAL_POINT } from '#core/plan/plan.ts';
import type { HeightMeaning, ReadRoute, RouteFormat } from '#core/plan/routeFiles.ts';
import type { Site } from '#core/site/site.ts';
import { saveText, slug } from '../../../files.ts';
import { useApp } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { FileWords } from '../../../ui/FileInput.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { Select } from '../../../ui/Select.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';

/** Reading of files comes with the first of them. */
const files = () => import('#core/plan/routeFiles.ts');

const kinds: Readonly<Record<RouteFormat, readonly [label: string, type: string]>> = {
  geojson: ['GeoJSON, all of it', 'application/geo+json'],
  gpx: ['GPX, the route', 'application/gpx+xml'],
  kml: ['KML, for drawing', 'application/vnd.google-earth.kml+xml'],
};

const meaningWords: Readonly<Record<HeightMeaning, string>> = {
  sea: 'above the sea',
  home: 'above home',
  none: 'not to be used',
};

interface Opened {
  readonly name: string;
  readonly route: ReadRoute;
  readonly meaning: HeightMeaning;
  readonly why: string;
}

/** Routes and fences from files, looked at before they are taken; and into files. */
export function FilePart({
  plan,
  site,
  onChange,
}: {
  readonly plan: FlightPlan;
  readonly site: Site;
  readonly onChange: (plan: FlightPlan) => void;
}) {
  const craft = useApp((s) => s.craft.file!.name);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const open = async (file: File) => {
    setFault(null);
    setOpened(null);
    const { readRoute, tooFar, guessHeights, MAX_ROUTE_BYTES } = await files();
    if (file.size > MAX_ROUTE_BYTES) {
      setFault(
        `${file.name} has ${(file.size / 1e6).toFixed(0)} MB; a route has a few kB. Nothing was taken.`,
      );
      return;
    }
    const read = readRoute(await file.text());
    if (!read.ok) {
      setFault(`${file.name}: ${read.why}`);
      return;
    }
    const { route } = read;
    const places = route.plan
      ? [
          ...route.plan.points,
          ...route.plan.fences.flatMap((f) => ('corners' in f.area ? f.area.corners : [f.area])),
        ]
      : [...route.points, ...route.areas.flatMap((a) => a.corners)];
    const far = tooFar(places, site.home);
    if (far) {
      setFault(`${file.name}: ${far} Nothing was taken.`);
      return;
    }
    setOpened({ name: file.name, route, ...guessHeights(route, site) });
  };
  const save = async (format: RouteFormat) => {
    const { planToGeoJson, planToGpx, planToKml } = await files();
    const text =
      format === 'geojson'
        ? planToGeoJson(plan)
        : format === 'gpx'
          ? planToGpx(craft, plan, site)
          : planToKml(craft, plan, site);
    saveText(`${slug(craft)}-route.${format}`, kinds[format][1], text);
  };
  const take = async () => {
    if (!opened) return;
    const { planOfFile } = await files();
    onChange(planOfFile(opened.route, opened.meaning, site.home, plan.points[0] ?? USUAL_POINT));
    setOpened(null);
  };
  const counts = opened && [
    opened.route.plan?.points.length ?? opened.route.points.length,
    opened.route.plan?.fences.length ?? opened.route.areas.length,
  ];
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <FileWords
          label="Open a route"
          accept=".gpx,.kml,.geojson,.json,application/geo+json,application/gpx+xml"
          onFile={(f) => void open(f)}
        >
          Open a route
        </FileWords>
        {!isEmptyPlan(plan) && (
          <>
            <span className="text-soft">save as</span>
            {(Object.keys(kinds) as RouteFormat[]).map((k) => (
              <TextButton key={k} onClick={() => void save(k)}>
                {kinds[k][0]}
              </TextButton>
            ))}
          </>
        )}
      </p>
      {fault && <Notice>{fault}</Notice>}
      {opened && (
        <Notice
          tone="plain"
          action={
            <span className="flex gap-2">
              <Button kind="go" onClick={() => void take()}>
                {isEmptyPlan(plan) ? 'Take it' : 'Take it instead'}
              </Button>
              <Button onClick={() => setOpened(null)}>Leave it</Button>
            </span>
          }
        >
          <b className="font-semibold">{opened.name}</b> holds {counts![0]}{' '}
          {counts![0] === 1 ? 'point' : 'points'}
          {counts![1]! > 0 &&
            ` and ${counts![1]} ${counts![1] === 1 ? 'area' : 'areas'}, taken as fences to keep in`}
          .
          {!opened.route.plan && opened.route.points.some((p) => p.elevM !== null) && (
            <>
              {' '}
              Its heights are{' '}
              <Select
                look="small"
                aria-label="Heights of the file are"
                value={opened.meaning}
                onChange={(e) => setOpened({ ...opened, meaning: e.target.value as HeightMeaning })}
              >
                {(Object.keys(meaningWords) as HeightMeaning[]).map((k) => (
                  <option key={k} value={k}>
                    {meaningWords[k]}
                  </option>
                ))}
              </Select>
              .
            </>
          )}
          {opened.why && !opened.route.plan && <span className="text-amber"> {opened.why}</span>}
          {opened.meaning === 'none' && !opened.route.plan && (
            <> All points get the height of the first one here, or the usual one.</>
          )}
        </Notice>
      )}
    </>
  );
}
