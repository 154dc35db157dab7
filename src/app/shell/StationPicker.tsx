import { useNavigate } from 'react-router';
import type { StationId } from '#core/findings/rule.ts';
import { type LegId, legs, pathOf, stationProgress } from '../legs/legs.ts';
import { progressWords } from '../legs/station.ts';
import { selectProgress } from '../store/selectors.ts';
import { useApp } from '../store/store.ts';
import { Select } from '../ui/Select.tsx';

/** Trail and stations as one list, where there is no room to draw them. */
export function StationPicker({ leg, here }: { readonly leg: LegId; readonly here: StationId | null }) {
  const navigate = useNavigate();
  const progress = useApp(selectProgress);
  return (
    <Select
      aria-label="Leg and station"
      className="min-w-0 flex-1"
      value={here ?? leg}
      onChange={(e) => navigate(pathOf(e.target.value as StationId))}
    >
      {legs.map((l) => (
        <optgroup key={l.id} label={l.name}>
          {l.stations.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
              {progress ? ` (${progressWords[stationProgress(s, progress)]})` : ''}
            </option>
          ))}
        </optgroup>
      ))}
    </Select>
  );
}
