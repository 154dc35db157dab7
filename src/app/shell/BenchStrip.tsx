import { useState } from 'react';
import { useApp } from '../store/store.ts';
import { Told } from '../ui/Told.tsx';
import { type BenchControls, bench } from '../workers/index.ts';

/** The craft taken to the strip and flown as its board has it. */
export function BenchStrip({ controls }: { readonly controls: BenchControls }) {
  const scenario = useApp((s) => s.rehearsal.scenario);
  const site = useApp((s) => s.site.current);
  const [flying, setFlying] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const inHand = controls.usb || controls.battery;
  const fly = async () => {
    if (!site) return;
    setFlying(true);
    setSaid(null);
    try {
      setSaid(await bench.flyOut({ ...scenario, home: site.home }, site));
    } catch (error) {
      setSaid(`The flight stopped by a fault of ours: ${(error as Error).message}`);
    } finally {
      setFlying(false);
    }
  };
  return (
    <div className="w-[300px] max-w-full text-[13px]">
      <p>
        Out to the strip, as the rehearsal is set, on a day not quite like the one thought of. What is on the
        board is flown, and the board writes it down.
      </p>
      <button
        type="button"
        disabled={inHand || flying || !site}
        className="mt-2 rounded-[4px] border border-on-wood px-3 py-1 font-semibold disabled:opacity-50"
        onClick={() => void fly()}
      >
        {flying ? 'It is in the air' : 'Fly it'}
      </button>
      {inHand && <p className="mt-1">Take cable and battery out first: it is armed at the strip.</p>}
      {said && (
        <p role="status" className="mt-2">
          <Told>{said}</Told>
        </p>
      )}
    </div>
  );
}
