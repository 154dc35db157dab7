import type { Place } from '#core/navigation/earth.ts';
import { TextField } from '../../../ui/TextField.tsx';

/** Degrees of a place as a person types them: latitude and longitude with a comma or a blank between; null for none. */
function placeOfText(text: string): Place | null {
  const m =
    /^\s*([NS])?\s*(-?\d+(?:\.\d+)?)\s*°?\s*([NS])?[\s,;]+([EW])?\s*(-?\d+(?:\.\d+)?)\s*°?\s*([EW])?\s*$/i.exec(
      text,
    );
  if (!m) return null;
  const south = (m[1] ?? m[3])?.toUpperCase() === 'S';
  const west = (m[4] ?? m[6])?.toUpperCase() === 'W';
  const lat = Number(m[2]) * (south ? -1 : 1);
  const lon = Number(m[5]) * (west ? -1 : 1);
  return Math.abs(lat) <= 90 && Math.abs(lon) <= 180 ? { lat, lon } : null;
}

const placeText = ({ lat, lon }: Place) => `${lat.toFixed(5)}, ${lon.toFixed(5)}`;

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
