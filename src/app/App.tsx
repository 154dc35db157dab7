import { lazy, Suspense, useEffect } from 'react';
import { Navigate, Route, Routes, useNavigate, useParams } from 'react-router';
import { type LegId, legIds, legs, type StationId } from '#core/findings/stations.ts';
import { BoardStation } from './legs/build/BoardStation.tsx';
import { LaterLeg } from './legs/LaterLeg.tsx';
import { Notices } from './notify.tsx';
import { BenchDrawer } from './shell/BenchDrawer.tsx';
import { ChangeTray } from './shell/ChangeTray.tsx';
import { CraftPane } from './shell/CraftPane.tsx';
import { Header } from './shell/Header.tsx';
import { Stations } from './shell/Stations.tsx';
import { useShortcuts } from './shell/shortcuts.ts';
import { Trail } from './shell/Trail.tsx';
import { useApp, useAppDispatch } from './store/store.ts';
import { stationEntered, uiChanged } from './store/uiSlice.ts';

const FindingsPanel = lazy(() => import('./shell/FindingsPanel.tsx'));
const SettingEditor = lazy(() => import('./shell/SettingEditor.tsx'));
const Help = lazy(() => import('./shell/Help.tsx'));
const loadPalette = () => import('./shell/Palette.tsx');
const Palette = lazy(loadPalette);
const KeepStation = lazy(() => import('./legs/build/KeepStation.tsx'));
const FirmwareStation = lazy(() => import('./legs/build/FirmwareStation.tsx'));
const AirframeStation = lazy(() => import('./legs/build/AirframeStation.tsx'));
const WiringStation = lazy(() => import('./legs/build/WiringStation.tsx'));
const StartingValuesStation = lazy(() => import('./legs/build/StartingValuesStation.tsx'));
const WhichMovedStation = lazy(() => import('./legs/steer/WhichMovedStation.tsx'));
const SticksStation = lazy(() => import('./legs/steer/SticksStation.tsx'));
const SwitchesStation = lazy(() => import('./legs/steer/SwitchesStation.tsx'));
const OpposesStation = lazy(() => import('./legs/steer/OpposesStation.tsx'));
const LostLinkStation = lazy(() => import('./legs/return/LostLinkStation.tsx'));
const WayHomeStation = lazy(() => import('./legs/return/WayHomeStation.tsx'));
const OneFlightStation = lazy(() => import('./legs/rehearse/OneFlightStation.tsx'));
const TrustStation = lazy(() => import('./legs/rehearse/TrustStation.tsx'));
const ManyWindsStation = lazy(() => import('./legs/rehearse/ManyWindsStation.tsx'));

const stationViews: Readonly<Record<StationId, React.ComponentType>> = {
  board: BoardStation,
  keep: KeepStation,
  firmware: FirmwareStation,
  airframe: AirframeStation,
  wiring: WiringStation,
  'starting-values': StartingValuesStation,
  'which-moved': WhichMovedStation,
  sticks: SticksStation,
  switches: SwitchesStation,
  opposes: OpposesStation,
  'lost-link': LostLinkStation,
  'way-home': WayHomeStation,
  'one-flight': OneFlightStation,
  'many-winds': ManyWindsStation,
  trust: TrustStation,
};

function Place() {
  const { leg: legText, station: stationText } = useParams();
  const dispatch = useAppDispatch();
  const last = useApp((s) => s.ui.stations[legText as LegId]);
  const leg = legs.find((l) => l.id === legText);
  const station = leg?.stations.find((s) => s.id === stationText);
  useEffect(() => {
    if (leg && station) dispatch(stationEntered({ leg: leg.id, station: station.id }));
  }, [leg, station, dispatch]);
  if (!leg) return <Navigate to="/build" replace />;
  if (!station && leg.stations.length > 0)
    return <Navigate to={`/${leg.id}/${last ?? leg.stations[0]!.id}`} replace />;
  return <Frame leg={leg.id} station={station?.id ?? null} />;
}

function Frame({ leg, station }: { readonly leg: LegId; readonly station: StationId | null }) {
  const open = useApp((s) => s.craft.airframe !== null && s.settings.entries.length > 0);
  const paneOpen = useApp((s) => s.ui.paneOpen);
  const { paletteOpen, findingsOpen, editing, helpOpen } = useApp((s) => s.ui);
  const fault = useApp((s) => s.ui.storageFault);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  useShortcuts(leg, station, navigate);
  const View = station ? stationViews[station] : null;
  return (
    <div className="flex h-full flex-col">
      <Header />
      <Trail here={leg} />
      {fault && (
        <div role="alert" className="flex items-center gap-3 bg-amber-wash px-5 py-1.5 text-amber">
          <span>{fault}</span>
          <button
            type="button"
            className="ml-auto underline"
            onClick={() => dispatch(uiChanged({ storageFault: null }))}
          >
            Understood
          </button>
        </div>
      )}
      <div
        className="grid min-h-0 flex-1 border-line border-t"
        style={{ gridTemplateColumns: paneOpen ? '212px minmax(0,1fr) 292px' : '212px minmax(0,1fr) 34px' }}
      >
        <Stations leg={leg} here={station} />
        <main className="flex min-h-0 min-w-0 flex-col bg-sheet">
          <div
            className="min-h-0 flex-1 overflow-y-auto px-6 pt-[18px] pb-4"
            id="work"
            tabIndex={0}
            role="region"
            aria-label="Work area"
          >
            {!open ? (
              <p className="text-soft">Opening the craft…</p>
            ) : View ? (
              <Suspense fallback={<p className="text-soft">Opening…</p>}>
                <View />
              </Suspense>
            ) : (
              <LaterLeg leg={leg} />
            )}
          </div>
          <BenchDrawer />
        </main>
        <CraftPane />
      </div>
      <ChangeTray />
      <Suspense>
        {findingsOpen !== null && <FindingsPanel />}
        {editing !== null && <SettingEditor />}
        {helpOpen && <Help />}
        {paletteOpen && <Palette />}
      </Suspense>
    </div>
  );
}

export function App() {
  const theme = useApp((s) => s.ui.theme);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  // What is opened by a key should be there when the typing begins.
  useEffect(() => {
    const timer = setTimeout(() => void loadPalette(), 1500);
    return () => clearTimeout(timer);
  }, []);
  return (
    <>
      <Routes>
        <Route path="/" element={<Navigate to={`/${legIds[0]}`} replace />} />
        <Route path="/:leg/:station?" element={<Place />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
      <Notices />
    </>
  );
}
