import { Bar, CartesianGrid, LabelList, BarChart as Plot, ResponsiveContainer, XAxis, YAxis } from 'recharts';

interface Props {
  /** What is drawn, for those who do not see it. */
  readonly label: string;
  /** A bar each: its name below, its height, and the words on it. */
  readonly bars: readonly { readonly name: string; readonly value: number; readonly words: string }[];
  readonly most: number;
  readonly heightPx: number;
  /** A colour of the style sheet. */
  readonly token: string;
}

/** A few bars beside each other. */
export function BarChart({ label, bars, most, heightPx, token }: Props) {
  return (
    <div role="img" aria-label={label} style={{ height: heightPx }}>
      <ResponsiveContainer width="100%" height="100%">
        <Plot data={[...bars]} margin={{ top: 16, right: 4, bottom: 0, left: 4 }} accessibilityLayer={false}>
          <CartesianGrid vertical={false} stroke="var(--line)" />
          <XAxis dataKey="name" tickLine={false} stroke="var(--soft)" fontSize={12} interval={0} />
          <YAxis hide domain={[0, most]} />
          <Bar dataKey="value" fill={`var(${token})`} isAnimationActive={false} radius={2} minPointSize={1}>
            <LabelList dataKey="words" position="top" fill="var(--ink)" fontSize={12} />
          </Bar>
        </Plot>
      </ResponsiveContainer>
    </div>
  );
}
