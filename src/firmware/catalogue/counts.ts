/** How many outputs, timers and receiver channels this board's firmware has. */
export const OUTPUT_COUNT = 9;
export const TIMER_COUNT = 5;
export const CHANNEL_COUNT = 16;
export const ROUTE_POINTS = 12;
export const CONTROL_SETS = 3;
