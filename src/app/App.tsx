import { lazy, Suspense, useEffect, useLayoutEffect, useState } from 'react';
import { Navigate, Route, Routes, useNavigate, useParams } from 'react-router';
import { whyNotAsked } from './board/lacking.ts';
import { desk } from './crafts/index.ts';
import { Lead } from './legs/Lead.tsx';
import { type LegId, lackingAt, legIds, legs, pathOf, stationIn } from './legs/legs.ts';
import { NextStation } from './legs/NextStation.tsx';
import type { Station } from './legs/station.ts';
import { StationHere } from './legs/stationHere.ts';
import { Notices } from './notify.tsx';
import { UpdateBanner } from './offline/UpdateBanner.tsx';
import { BenchDrawer } from './shell/BenchDrawer.tsx';
import { ChangeTray } from './shell/ChangeTray.tsx';
import { CraftPane } from './shell/CraftPane.tsx';
import { Header } from './shell/Header.tsx';
import { useRoom } from './shell/room.ts';
import { StationPicker } from './shell/StationPicker.tsx';
import { Stations } from './shell/Stations.tsx';
import { useShortcuts } from './shell/shortcuts.ts';
import { Trail } from './shell/Trail.tsx';
import { selectCatalogue } from './store/selectors.ts';
import { useApp, useAppDispatch } from './store/store.ts';
import { stationEntered, uiChanged } from './store/uiSlice.ts';
import { Boundary } from './ui/Boundary.tsx';
import { Notice } from './ui/Notice.tsx';
import { TextButton } from './ui/TextButton.tsx';

const Beginning = lazy(() => import('./beginning/Beginning.tsx'));
const FindingsPanel = lazy(() => import('./shell/FindingsPanel.tsx'));
const SettingEditor = lazy(() => import('./shell/SettingEditor.tsx'));
const SeenHere = lazy(() => import('./legs/SeenHere.tsx'));
const Help = lazy(() => import('./shell/Help.tsx'));
const loadPalette = () => import('./shell/Palette.tsx');
const Palette = lazy(loadPalette);
const views = new Map(legs.flatMap((l) => l.stations.map((s) => [s.id, lazy(s.view)])));

function Place() {
  const { leg: legText, station: stationText } = useParams();
  const dispatch = useAppDispatch();
  const last = useApp((s) => s.ui.stations[legText as LegId]);
  const navigate = useNavigate();
  const leg = legs.find((l) => l.id === legText);
  const station = leg?.stations.find((s) => s.id === stationText) ?? (leg && stationIn(leg.id, last));
  // An address without a station is made whole under the frame, which stays: no key is lost meanwhile.
  useLayoutEffect(() => {
    if (!leg || !station) return;
    if (station.id === stationText) dispatch(stationEntered({ leg: leg.id, station: station.id }));
    else navigate(pathOf(station.id), { replace: true });
  }, [leg, station, stationText, dispatch, navigate]);
  const empty = useApp((s) => s.crafts.status === 'none');
  if (!leg) return <Navigate to="/build" replace />;
  if (empty) return <Beginning />;
  return <Frame leg={leg.id} station={station ?? null} />;
}

function Frame({ leg, station }: { readonly leg: LegId; readonly station: Station | null }) {
  const open = useApp(
    (s) => s.craft.airframe !== null && s.site.current !== null && s.settings.entries.length > 0,
  );
  const { small, low, narrow } = useRoom();
  const paneOpen = useApp((s) => (narrow ? s.ui.paneNarrow : s.ui.paneOpen));
  const reading = useApp((s) => s.crafts.reading);
  const craft = useApp((s) => s.crafts.id);
  const { paletteOpen, findingsOpen, editing, helpOpen, benchOpen } = useApp((s) => s.ui);
  const { storageFault: fault, workerFault, refusedEntry } = useApp((s) => s.ui);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  useShortcuts(station?.id ?? null, navigate);
  const View = station && views.get(station.id);
  return (
    <div className="flex h-full flex-col">
      <a
        href="#work"
        className="absolute -top-20 left-4 z-50 rounded-[4px] bg-forest px-3 py-1.5 text-on-forest focus:top-2"
      >
        Go to the work area
      </a>
      <Header small={small}>{small && <StationPicker leg={leg} here={station?.id ?? null} />}</Header>
      {!small && (
        <Boundary what="the trail">
          <Trail here={leg} />
        </Boundary>
      )}
      <Reading />
      <UpdateBanner />
      <Banner text={fault} onRead={() => dispatch(uiChanged({ storageFault: null }))} />
      <Banner text={workerFault} onRead={() => dispatch(uiChanged({ workerFault: null }))} />
      <Banner text={refusedEntry} onRead={() => dispatch(uiChanged({ refusedEntry: null }))} />
      <div
        className="grid min-h-0 flex-1 border-line border-t"
        style={{
          gridTemplateColumns: small
            ? 'minmax(0,1fr)'
            : paneOpen
              ? '212px minmax(0,1fr) 292px'
              : '212px minmax(0,1fr) 34px',
        }}
      >
        {!small && (
          <Boundary what="the list of stations">
            <Stations leg={leg} here={station?.id ?? null} />
          </Boundary>
        )}
        <main className="relative flex min-h-0 min-w-0 flex-col bg-sheet">
          {/* Another station begins at its top, and so does another craft: what was flown or opened of one says nothing of another. */}
          <div
            key={`${station?.id ?? leg} of ${craft}`}
            className={`min-h-0 flex-1 overflow-auto ${small ? 'px-[16px] pt-3' : 'px-6 pt-[18px]'} ${low && benchOpen && !reading ? 'pb-[270px]' : small ? 'pb-12' : 'pb-4'}`}
            id="work"
            tabIndex={0}
            role="region"
            aria-label="Work area"
          >
            {!open ? (
              <p className="text-soft">Opening the craft…</p>
            ) : View ? (
              <Boundary what={station!.name} of={station}>
                <Suspense fallback={<p className="text-soft">Opening…</p>}>
                  <StationHere value={station}>
                    <Needed station={station!}>
                      <View />
                      <SeenHere />
                      <NextStation />
                    </Needed>
                  </StationHere>
                </Suspense>
              </Boundary>
            ) : null}
          </div>
          {!reading && (
            <Boundary what="the bench">
              <BenchDrawer />
            </Boundary>
          )}
        </main>
        {!small && (
          <Boundary what="the craft's pane">
            <CraftPane />
          </Boundary>
        )}
      </div>
      <Boundary what="the tray">
        <ChangeTray />
      </Boundary>
      <Boundary what="the sheet that was opened" of={`${findingsOpen} ${editing} ${helpOpen} ${paletteOpen}`}>
        <Suspense>
          {findingsOpen !== null && <FindingsPanel />}
          {editing !== null && <SettingEditor />}
          {helpOpen && <Help station={station} />}
          {paletteOpen && <Palette />}
        </Suspense>
      </Boundary>
    </div>
  );
}

/** A sentence over the work, until it was read. */
function Banner({ text, onRead }: { readonly text: string | null; readonly onRead: () => void }) {
  if (text === null) return null;
  return (
    <div role="alert" className="flex items-center gap-3 bg-amber-wash px-5 py-1.5 text-amber">
      <span>{text}</span>
      <TextButton className="ml-auto" onClick={onRead}>
        Understood
      </TextButton>
    </div>
  );
}

/** Another tab works on this craft: said for as long as it is so. */
function Reading() {
  const reading = useApp((s) => s.crafts.reading);
  const [busy, setBusy] = useState(false);
  if (!reading) return null;
  return (
    <div role="alert" className="flex items-center gap-3 bg-amber-wash px-5 py-1.5 text-amber">
      <span>
        Another tab works on this craft. Here it is shown as it is kept there, and nothing can be changed.
      </span>
      <TextButton
        className="ml-auto"
        disabled={busy}
        onClick={async () => {
          setBusy(true);
          await desk.takeOver();
          setBusy(false);
        }}
      >
        Work on it here
      </TextButton>
    </div>
  );
}

/** A station whose settings the board does not have says so, and shows nothing that would be made up. */
function Needed({ station, children }: { readonly station: Station; readonly children: React.ReactNode }) {
  const catalogue = useApp(selectCatalogue);
  const identity = useApp((s) => (s.board.link === 'ready' ? s.board.identity : null));
  const lacks = useApp((s) => s.board.lacks);
  const lacking = lackingAt(station, (key) => catalogue.entry(key) !== undefined && !lacks.includes(key));
  const navigate = useNavigate();
  const cannot = identity && whyNotAsked(identity.can, station.asks ?? []);
  const older = lacking.some((key) => lacks.includes(key)) || (cannot !== null && lacks.length > 0);
  if (lacking.length === 0 && !cannot) return children;
  return (
    <>
      <Lead begins={false} />
      <Notice tone="plain" className="mt-3 max-w-[660px]">
        {older ? (
          <>
            The firmware of this board, {identity?.firmware} {identity?.version}, is older than what is done
            here. <TextButton onClick={() => navigate('/build/firmware')}>Put a newer one on it</TextButton>{' '}
            and its settings are carried over.
          </>
        ) : lacking.length > 0 ? (
          <>
            This board has no setting <span className="code text-[13px]">{lacking.join(', ')}</span>, so there
            is nothing to be done here. What it has is found by name with Find anything.
          </>
        ) : (
          cannot
        )}
      </Notice>
    </>
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
      <Suspense fallback={<p className="p-6 text-soft">Opening…</p>}>
        <Boundary what="the application">
          <Routes>
            <Route path="/" element={<Navigate to={`/${legIds[0]}`} replace />} />
            <Route path="/craft" element={<Beginning />} />
            <Route path="/:leg/:station?" element={<Place />} />
            <Route path="*" element={<Navigate to="/" replace />} />
          </Routes>
        </Boundary>
      </Suspense>
      <Notices />
    </>
  );
}
