/** What a board is made of, as far as wiring it goes. Lengths in mm from its upper left corner. */
export interface BoardModel {
  /** Name of firmware builds for it: "massif-h7-b". */
  readonly target: string;
  readonly name: string;
  readonly revision: string;
  /** Flash for firmware. */
  readonly flashBytes: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly outputs: readonly OutputPad[];
  readonly timers: readonly Timer[];
  readonly ports: readonly Port[];
  readonly buses: readonly Bus[];
  readonly rails: readonly Rail[];
  readonly spots: readonly Spot[];
  /** Highest voltage at the battery pads, V. */
  readonly batteryMostV: number;
  /** What the board draws by itself, A. */
  readonly ownA: number;
  /** Where flights are logged: a chip on the board, or a card that has to be put in. */
  readonly logsTo: 'chip' | 'card';
  /** Soldered parts that run a firmware of their own. */
  readonly parts: readonly ('overlay chip' | 'second processor')[];
}

/** A supply on the board. */
export interface Rail {
  readonly name: string;
  readonly feeds: 'board' | 'servos';
  readonly volts: number;
  /** What its regulator gives with the battery in, A. */
  readonly mostA: number;
  /** What there is with USB only, A; 0 for nothing. */
  readonly usbA: number;
}

/** A pad that is only one thing. */
export interface Spot {
  readonly name: string;
  readonly what: string;
  /** Voltage and current, in words. */
  readonly power: string;
  readonly xMm: number;
  readonly yMm: number;
}

export interface OutputPad {
  readonly output: number;
  readonly pad: string;
  readonly timer: number;
  readonly xMm: number;
  readonly yMm: number;
}

export interface Timer {
  readonly n: number;
  /** Can send digital frames to motor controllers, and colours to an LED strip. */
  readonly frames: boolean;
  /** Can time edges that come in: for a pulse train, or for a port made in software. */
  readonly capture: boolean;
}

export interface Port {
  readonly name: string;
  readonly xMm: number;
  readonly yMm: number;
  readonly mostBaud: number;
  /** Can turn its levels round, as some receivers need. */
  readonly inverts: boolean;
  readonly halfDuplex: boolean;
  /** Outputs on the same pins: either the port or they. */
  readonly sharesOutputs?: readonly number[];
}

export interface Bus {
  readonly name: string;
  readonly kind: 'i2c' | 'spi' | 'can';
  readonly xMm: number;
  readonly yMm: number;
  /** Port on the same pins: either the bus or it. */
  readonly sharesPort?: string;
  /** Timer that the bus needs for itself. */
  readonly takesTimer?: number;
  /** What hangs on it outside the board has power only with the battery in. */
  readonly batteryFed?: true;
  /** Soldered on the board. */
  readonly onBoard: readonly { readonly device: string; readonly address: number }[];
}

/** Fastest port made in software, baud. */
export const SOFTWARE_MOST_BAUD = 19200;
