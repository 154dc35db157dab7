import { lazy, Suspense, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { BrandMark } from '../shell/BrandMark.tsx';
import { useApp } from '../store/store.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { BeginForm } from './BeginForm.tsx';
import { walkDemo } from './begin.ts';
import { CraftList } from './CraftList.tsx';
import { OpenFile } from './OpenFile.tsx';

const EverythingPart = lazy(() => import('../offline/EverythingPart.tsx'));

/** Where this is in the address bar, besides everywhere else before a craft is open. */
const ALL_CRAFT = '/craft';

/** Another one each time that somebody goes somewhere (React Router). */
const visitKey = (): unknown => history.state?.key;

const faultText = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** What this is, how to begin, and the craft that are kept here, side by side. */
export default function Beginning() {
  const { status, listed } = useApp((s) => s.crafts);
  const storageFault = useApp((s) => s.ui.storageFault);
  const name = useApp((s) => s.craft.file?.name);
  const navigate = useNavigate();
  const [own, setOwn] = useState(false);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  /** Opens something, and goes to it. */
  const go = async (what: () => Promise<unknown>) => {
    const visit = visitKey();
    setBusy(true);
    setFault(null);
    try {
      await what();
      // Who was on the way to a station, or has gone to one meanwhile, even if he came back since, is not led away.
      if (location.pathname === ALL_CRAFT && visitKey() === visit) navigate('/build');
    } catch (error) {
      setFault(`${faultText(error)} Nothing was changed.`);
    }
    setBusy(false);
  };
  const none = listed.crafts.length === 0;
  return (
    <div className="flex h-full flex-col overflow-y-auto bg-paper">
      <header className="flex h-12 shrink-0 items-center gap-3 border-line border-b px-6">
        <BrandMark />
        {status === 'open' && name && (
          <Link to="/" className="ml-auto text-soft underline decoration-dotted underline-offset-2">
            Back to {name}
          </Link>
        )}
      </header>
      {storageFault && (
        <Notice tone="amber" className="mx-6 mt-3">
          {storageFault}
        </Notice>
      )}
      <main className="mx-auto w-full max-w-[1060px] px-6 pt-8 pb-10">
        <h1 className="max-w-[720px] text-[26px] leading-8">
          {none ? 'From a bare board to a craft that comes home' : 'Your craft'}
        </h1>
        <p className="mt-2 max-w-[720px] text-[16px] text-soft leading-6">
          Wanderweg walks with you through setting up the flight controller of an aeroplane, a wing or a craft
          on rotors: wired, moved and seen on the bench, one station after the other. It checks the whole
          configuration all the time and keeps proof of what was really seen. Before the field does, it flies
          your configuration in simulation, and says in words whether it comes home.
        </p>
        {fault && <Notice className="mt-3 max-w-[720px]">{fault}</Notice>}
        <div className="mt-6 grid gap-4 min-[860px]:grid-cols-2">
          <Way
            title="Walk the demo"
            text="Turnstone 1600, a twin on a simulated bench. It was configured with a few honest mistakes, some of which would end it: finding them is the walk."
            main={none}
          >
            <Button kind={none ? 'go' : 'plain'} disabled={busy} onClick={() => void go(walkDemo)}>
              Walk the demo
            </Button>
          </Way>
          <Way
            title="Begin with my craft"
            text="Its kind, size, mass, motor and battery are enough to begin, with a board in hand or without one: everything can be prepared and flown here first, and a board that you plug in later is read as it is."
            main={!none}
          >
            <div className="flex items-center gap-3">
              <Button
                kind={none ? 'plain' : 'go'}
                disabled={busy}
                onClick={() => setOwn(!own)}
                aria-expanded={own}
              >
                Begin with my craft
              </Button>
              <OpenFile onOpen={go} onFault={setFault} busy={busy} />
            </div>
          </Way>
        </div>
        {own && <BeginForm busy={busy} onBegin={go} />}
        <CraftList busy={busy} onOpen={go} />
        <Suspense>
          <EverythingPart />
        </Suspense>
      </main>
    </div>
  );
}

function Way({
  title,
  text,
  main,
  children,
}: {
  readonly title: string;
  readonly text: string;
  readonly main: boolean;
  readonly children: React.ReactNode;
}) {
  return (
    <section
      className={`flex flex-col rounded-[4px] border bg-sheet px-5 pt-4 pb-4 ${main ? 'border-contour' : 'border-line'}`}
    >
      <h2 className="font-semibold text-[17px]">{title}</h2>
      <p className="mt-1 mb-3 flex-1 text-soft">{text}</p>
      <div>{children}</div>
    </section>
  );
}
