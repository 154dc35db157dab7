import type { RehearsalResult } from '#core/formats/rehearsalResult.ts';
import { pitchOf, rollOf, yawOf } from '#core/math/quaternion.ts';
import { ChipPicture } from '#core/overlay/chipBytes.ts';
import { type PackedViews, ViewTape } from '#core/overlay/view.ts';
import { Rehearsal, type RehearsalInput } from './rehearsal.ts';

/** How often the pilot's picture is kept, s. */
const SEEN_EVERY_S = 0.2;
/** What the pilot saw on a flight. */
export interface OverlaySeen {
  readonly result: RehearsalResult;
  /** What the board knew, every `SEEN_EVERY_S`; by its own clock. */
  readonly tape: PackedViews;
  /** Where the craft truly was at the same moments, `POSE_NUMBERS` each. */
  readonly poses: Float64Array;
  /** Pictures that reached the chip, and those that did not agree with their sum. */
  readonly pictures: number;
  readonly faults: number;
}

/**
 * Flies a rehearsal with a chip that takes what the board writes over the picture.
 * @param onPicture told of every moment that is kept, with the chip as it is then
 */
export function flyOverlay(
  input: RehearsalInput,
  onPicture: (chip: ChipPicture, flight: Rehearsal) => void = () => {},
): OverlaySeen {
  const flight = new Rehearsal(input);
  const { plant, pfad } = flight.craft;
  const chip = new ChipPicture();
  const tape = new ViewTape();
  const poses: number[] = [];
  pfad.overlay.onBytes = (bytes) => chip.receive(bytes);
  const keep = () => {
    tape.add(pfad.overlay.view);
    const { position: p, attitude: q } = plant;
    poses.push(flight.seconds, p[0]!, p[1]!, plant.height, rollOf(q), pitchOf(q), yawOf(q));
    onPicture(chip, flight);
  };
  while (!flight.advance(SEEN_EVERY_S * 1000)) keep();
  keep();
  return {
    result: flight.result!,
    tape: tape.packed(),
    poses: Float64Array.from(poses),
    pictures: chip.pictures,
    faults: chip.faults,
  };
}
