import type { Place } from '#core/navigation/earth.ts';
import { placeOfText, placeText } from '#core/navigation/placeText.ts';
import { TextField } from '../../../ui/TextField.tsx';

/** A place in degrees, edited where it stands. */
export function PlaceField({
  label,
  place,
  onChange,
}: {
  readonly label: string;
  readonly place: Place;
  readonly onChange: (place: Place) => void;
}) {
  return (
    <TextField
      label={label}
      value={placeText(place)}
      most={28}
      fits={(text) => placeOfText(text) !== null}
      otherwise="Latitude and longitude in degrees, such as 61.90500, -12.43000 or N 61.905 W 12.43."
      onChange={(text) => {
        const found = placeOfText(text);
        if (found) onChange(found);
      }}
    />
  );
}
