/** Home on a map: a roof. @param at in the map's units @param k how much finer it is drawn */
export const HomeMark = ({
  at: [x, y],
  k,
}: {
  readonly at: readonly [number, number];
  readonly k: number;
}) => (
  <path
    transform={`translate(${x} ${y}) scale(${k})`}
    d="M-1.600 0 0 -1.600 1.600 0M-1 -.4V1.400H1V-.4"
    fill="none"
    stroke="var(--forest)"
    strokeWidth={0.45}
  />
);
