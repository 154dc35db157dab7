import { type Axis, axes } from '#core/mixer/authority.ts';
import { Button } from '../../ui/Button.tsx';
import { FileWords } from '../../ui/FileInput.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { Lead } from '../Lead.tsx';
import type { Doing } from '../useWorked.ts';

interface Props {
  readonly doing: Doing<unknown>;
  readonly axis: Axis;
  readonly onAxis: (axis: Axis) => void;
  /** Nothing on the craft turns it so: there is nothing to fly. */
  readonly nothing?: boolean;
  readonly onFly: () => void;
  readonly file: { readonly label: string; readonly words: string; readonly accept: string };
  readonly onFile: (file: File) => void;
}

const names: Readonly<Record<Axis, string>> = { roll: 'Roll', pitch: 'Pitch', yaw: 'Yaw' };

/** How a station of flights and logs begins: fly it, or open what was flown; and about which axis. */
export function Begins({ doing, axis, onAxis, nothing = false, onFly, file, onFile }: Props) {
  const off = nothing || doing.kind === 'flying' || doing.kind === 'reading';
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
        </div>
        <div className="flex flex-col items-end gap-2">
          <Button kind="go" disabled={off} onClick={onFly}>
            {doing.kind === 'flying' ? 'Flying …' : 'Fly it'}
          </Button>
          <FileWords label={file.label} accept={file.accept} disabled={off} onFile={onFile}>
            {doing.kind === 'reading' ? 'Reading …' : file.words}
          </FileWords>
        </div>
      </div>
      <RadioCards
        label="Axis"
        className="mt-3 flex flex-wrap gap-2"
        value={axis}
        cards={axes.map((a) => ({ id: a, name: names[a] }))}
        onChange={onAxis}
      />
    </>
  );
}
