/** What a board tells the transmitter over the link's way back, in frames of CRSF (its open description: types, units and order of bytes). */

export const toldIds = ['place', 'battery', 'mode', 'climb', 'air', 'attitude'] as const;
export type ToldId = (typeof toldIds)[number];

export interface ToldSensor {
  readonly id: ToldId;
  /** What it is, for a person. */
  readonly name: string;
  /** The question it answers at the transmitter. */
  readonly answers: string;
  /** Type of its frame, and bytes of what it carries at most. */
  readonly type: number;
  readonly payload: number;
  /** Times a second that serve, where nobody says otherwise. */
  readonly usualHz: number;
}

/** Address, length, type and sum around what a frame carries. */
export const FRAME_AROUND = 4;
/** Letters of a mode's name that are told, and the nought after them. */
export const MODE_LETTERS = 11;

export const toldSensors: readonly ToldSensor[] = [
  {
    ...{ id: 'place', name: 'Place', answers: 'Where is it, how high, how fast, by how many satellites?' },
    ...{ type: 0x02, payload: 15, usualHz: 1 },
  },
  {
    ...{ id: 'battery', name: 'Battery', answers: 'How much is left, and what is drawn?' },
    ...{ type: 0x08, payload: 8, usualHz: 1 },
  },
  {
    ...{ id: 'mode', name: 'Mode', answers: 'What does the board do now?' },
    ...{ type: 0x21, payload: MODE_LETTERS + 1, usualHz: 0.5 },
  },
  {
    ...{ id: 'climb', name: 'Climb', answers: 'Does it rise or sink?' },
    ...{ type: 0x07, payload: 2, usualHz: 2 },
  },
  {
    ...{ id: 'air', name: 'Airspeed', answers: 'How far is it from the stall?' },
    ...{ type: 0x0a, payload: 2, usualHz: 1 },
  },
  {
    ...{ id: 'attitude', name: 'Attitude', answers: 'How does it lie?' },
    ...{ type: 0x1e, payload: 6, usualHz: 0 },
  },
];

const byId = new Map(toldSensors.map((s) => [s.id, s]));
export const sensorOf = (id: ToldId): ToldSensor => byId.get(id)!;
/** Bytes of a whole frame at most. */
export const frameBytes = (s: ToldSensor): number => s.payload + FRAME_AROUND;
export const rateKey = <I extends ToldId>(id: I) => `tell.${id}.rate` as const;
export const ROOM_KEY = 'tell.room';
