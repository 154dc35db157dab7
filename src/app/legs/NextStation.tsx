import { useNavigate } from 'react-router';
import { TextButton } from '../ui/TextButton.tsx';
import { stationAfter } from './legs.ts';
import { useStationHere } from './stationHere.ts';

/** What comes after this station, at its end. */
export function NextStation() {
  const here = useStationHere();
  const navigate = useNavigate();
  const next = stationAfter(here.id, 1);
  if (!next) return null;
  return (
    <p className="mt-6 border-line border-t pt-2 text-[14px]">
      <span className="text-soft">Next: </span>
      <TextButton className="font-medium" onClick={() => navigate(next.path)}>
        {next.station.name}
      </TextButton>
      {next.otherLeg && <span className="text-soft">, the first of {next.otherLeg}</span>}{' '}
      <kbd className="ml-1">J</kbd>
    </p>
  );
}
