import * as z from 'zod';

const mm = z.number().min(-10).max(300);
const name = z.string().min(1).max(40);
const many = 40;

const outputPadSchema = z.object({
  output: z.number().int().min(1).max(32),
  pad: z.string().max(12),
  timer: z.number().int().min(1).max(16),
  xMm: mm,
  yMm: mm,
});
export type OutputPad = Readonly<z.infer<typeof outputPadSchema>>;

const timerSchema = z.object({
  n: z.number().int().min(1).max(16),
  /** Can send digital frames to motor controllers, and colours to an LED strip. */
  frames: z.boolean(),
  /** Can time edges that come in: for a pulse train, or for a port made in software. */
  capture: z.boolean(),
});
export type Timer = Readonly<z.infer<typeof timerSchema>>;

const portSchema = z.object({
  name: z.string().max(20),
  xMm: mm,
  yMm: mm,
  mostBaud: z.number().positive().max(2e7),
  /** Can turn its levels round, as some receivers need. */
  inverts: z.boolean(),
  halfDuplex: z.boolean(),
  /** Outputs on the same pins: either the port or they. */
  sharesOutputs: z.array(z.number().int()).max(8).readonly().optional(),
});
export type Port = Readonly<z.infer<typeof portSchema>>;

const busSchema = z.object({
  name,
  kind: z.enum(['i2c', 'spi', 'can']),
  xMm: mm,
  yMm: mm,
  /** Port on the same pins: either the bus or it. */
  sharesPort: z.string().max(20).optional(),
  /** Timer that the bus needs for itself. */
  takesTimer: z.number().int().optional(),
  /** What hangs on it outside the board has power only with the battery in. */
  batteryFed: z.literal(true).optional(),
  /** Soldered on the board. */
  onBoard: z
    .array(z.object({ device: name, address: z.number().int().min(0).max(1023) }).readonly())
    .max(16)
    .readonly(),
});
export type Bus = Readonly<z.infer<typeof busSchema>>;

/** A supply on the board. */
const railSchema = z.object({
  name,
  feeds: z.enum(['board', 'servos']),
  volts: z.number().min(0).max(60),
  /** What its regulator gives with the battery in, A. */
  mostA: z.number().min(0).max(200),
  /** What there is with USB only, A; 0 for nothing. */
  usbA: z.number().min(0).max(10),
});
export type Rail = Readonly<z.infer<typeof railSchema>>;

/** A pad that is only one thing. */
const spotSchema = z.object({
  name,
  what: z.string().max(80),
  /** Voltage and current, in words. */
  power: z.string().max(80),
  xMm: mm,
  yMm: mm,
});
export type Spot = Readonly<z.infer<typeof spotSchema>>;

/** What a board is made of, as far as wiring it goes. Lengths in mm from its upper left corner. */
export const boardModelSchema = z.object({
  /** Name of firmware builds for it: "massif-h7-b". */
  target: z.string().min(1).max(40),
  name: z.string().min(1).max(60),
  revision: z.string().max(20),
  /** Flash for firmware. */
  flashBytes: z.number().int().positive().max(64_000_000),
  widthMm: z.number().min(5).max(200),
  heightMm: z.number().min(5).max(200),
  /** How the first gyro chip and the second are turned on the board, seen from above; left out where they are as its arrow. */
  chipYawsDeg: z.tuple([z.number(), z.number()]).readonly().optional(),
  outputs: z.array(outputPadSchema).max(32).readonly(),
  timers: z.array(timerSchema).max(16).readonly(),
  ports: z.array(portSchema).max(16).readonly(),
  buses: z.array(busSchema).max(16).readonly(),
  rails: z.array(railSchema).max(8).readonly(),
  spots: z.array(spotSchema).max(many).readonly(),
  /** Highest voltage at the battery pads, V. */
  batteryMostV: z.number().min(3).max(120),
  /** What the board draws by itself, A. */
  ownA: z.number().min(0).max(10),
  /** Where flights are logged: a chip on the board, or a card that has to be put in. */
  logsTo: z.enum(['chip', 'card']),
  /** Soldered parts that run a firmware of their own. */
  parts: z
    .array(z.enum(['overlay chip', 'second processor']))
    .max(4)
    .readonly(),
});
export type BoardModel = Readonly<z.infer<typeof boardModelSchema>>;

/** Fastest port made in software, baud. */
export const SOFTWARE_MOST_BAUD = 19200;

/** Gyro chips on a board: one, or two of different makes. */
export const gyrosOn = (board: Pick<BoardModel, 'buses'>): 1 | 2 =>
  board.buses.flatMap((b) => b.onBoard).filter((d) => /gyro/.test(d.device)).length === 2 ? 2 : 1;
