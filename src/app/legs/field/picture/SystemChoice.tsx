import { RadioGroup } from 'radix-ui';
import { type VideoId, videoIds, videoSystems } from '#core/overlay/videoSystems.ts';

interface Props {
  readonly value: VideoId | null;
  readonly onChange: (id: VideoId) => void;
}

/** Which grid the picture has, each drawn as it is. Arrow keys go from one to the next. */
export function SystemChoice({ value, onChange }: Props) {
  return (
    <RadioGroup.Root
      aria-label="Video system"
      value={value}
      className="flex flex-wrap gap-2"
      onValueChange={(id) => onChange(id as VideoId)}
    >
      {videoIds.map((id) => {
        const { name, columns, rows, aspect } = videoSystems[id];
        const [main, kind] = name.split(', ');
        return (
          <RadioGroup.Item
            key={id}
            value={id}
            className="flex min-h-11 items-center gap-2 rounded-[4px] border px-2 py-1 text-left data-[state=checked]:border-forest data-[state=checked]:bg-forest-wash data-[state=unchecked]:border-line data-[state=unchecked]:bg-sheet data-[state=unchecked]:hover:border-contour"
          >
            <GridMark columns={columns} rows={rows} aspect={aspect} />
            <span className="leading-4">
              <b className="block font-semibold">{main}</b>
              <span className="text-[12.5px] text-soft">
                {kind}, <span className="num">{columns}</span> by <span className="num">{rows}</span>
              </span>
            </span>
          </RadioGroup.Item>
        );
      })}
    </RadioGroup.Root>
  );
}

function GridMark({
  columns,
  rows,
  aspect,
}: {
  readonly columns: number;
  readonly rows: number;
  readonly aspect: number;
}) {
  const height = 24;
  const width = height * aspect;
  const lines = [
    ...Array.from({ length: columns - 1 }, (_, i) => `M${((i + 1) * width) / columns} 0V${height}`),
    ...Array.from({ length: rows - 1 }, (_, i) => `M0 ${((i + 1) * height) / rows}H${width}`),
  ].join('');
  return (
    <svg
      width={width + 2}
      height={height + 2}
      viewBox={`-1 -1 ${width + 2} ${height + 2}`}
      aria-hidden
      className="shrink-0"
    >
      <path d={lines} stroke="var(--contour)" strokeWidth={0.35} fill="none" />
      <rect width={width} height={height} rx={1.5} fill="none" stroke="currentColor" />
    </svg>
  );
}
