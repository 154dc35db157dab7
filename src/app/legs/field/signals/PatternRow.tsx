import { type Colour, type Moment, patterns } from '#core/signals/signals.ts';
import { TextButton } from '../../../ui/TextButton.tsx';
import { beats } from './beats.ts';

interface Props {
  readonly moment: Moment;
  readonly now: boolean;
  readonly tried: boolean;
  readonly sounds: boolean;
  readonly onTry: () => void;
  readonly onHear: () => void;
}

/** Colours of lamps as they are drawn on paper. */
const onPaper: Readonly<Record<Colour, string>> = {
  ...{ red: 'var(--red)', amber: 'var(--amber)', green: 'var(--forest)', blue: 'var(--lake)' },
  ...{ white: 'var(--sheet)', off: 'none' },
};

const WIDE = 190;

/** A moment with its rhythm drawn along three seconds: light above, sound below. */
export function PatternRow({ moment, now, tried, sounds, onTry, onHear }: Props) {
  const p = patterns[moment];
  return (
    <li
      className={`grid grid-cols-[minmax(0,1fr)_190px_92px] items-center gap-x-4 border-line border-t py-1.5 ${now ? 'bg-lake-wash' : ''}`}
    >
      <div className="pl-1">
        <b className="font-semibold">{p.name}</b>
        {now && <span className="ml-2 text-[13px] font-semibold text-ink">now</span>}
        <p className="text-[13px] text-soft">{p.means}</p>
      </div>
      <svg
        viewBox={`0 0 ${WIDE} 30`}
        className="w-full"
        role="img"
        aria-label={`${p.colour}; ${p.sound ? 'with sound' : 'silent'}`}
      >
        {beats(p.light, WIDE).map(([from, wide]) => (
          <rect
            key={from}
            x={from}
            y={2}
            width={wide}
            height={12}
            rx={1.5}
            fill={onPaper[p.colour]}
            stroke="var(--ink)"
            strokeWidth={0.6}
          />
        ))}
        <path d={`M0 24H${WIDE}`} stroke="var(--line)" />
        {p.sound &&
          sounds &&
          beats(p.sound.rhythm, WIDE).map(([from, wide]) => (
            <path key={from} d={`M${from} 24${wave(wide)}`} fill="none" stroke="var(--ink)" strokeWidth={1} />
          ))}
      </svg>
      <span className="flex flex-col items-start text-[13px]">
        <TextButton
          aria-pressed={tried}
          aria-label={`${tried ? 'Let go of' : 'See'} ${p.name}`}
          onClick={onTry}
        >
          {tried ? 'Let it go' : 'See it'}
        </TextButton>
        {p.sound && sounds && (
          <TextButton aria-label={`Hear ${p.name}`} onClick={onHear}>
            Hear it
          </TextButton>
        )}
      </span>
    </li>
  );
}

const wave = (wide: number) => {
  let d = '';
  for (let x = 0, up = true; x < wide; x += 2, up = !up)
    d += `l${Math.min(2, wide - x).toFixed(2)} ${up ? -5 : 5}`;
  return d;
};
