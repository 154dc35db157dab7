/** How many outputs, timers and receiver channels Pfad has on the largest board. */
export const OUTPUT_COUNT = 12;
export const TIMER_COUNT = 5;
export const PORT_COUNT = 7;
export const CHANNEL_COUNT = 16;
export const CONTROL_SETS = 3;
