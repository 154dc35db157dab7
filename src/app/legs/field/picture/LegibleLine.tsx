import { type RefObject, useEffect, useState } from 'react';
import type { OverlayConfig } from '#core/overlay/config.ts';
import { columnOf, type ItemId, itemIds, itemName, rowOf } from '#core/overlay/items.ts';
import { itemSize } from '#core/overlay/itemText.ts';
import {
  EASY_ARCMIN,
  LEAST_ARCMIN,
  LEAST_CONTRAST,
  letterArcmin,
  SCREEN_ACROSS_M,
} from '#core/overlay/legible.ts';
import type { Placing } from '#core/overlay/place.ts';
import type { VideoSystem } from '#core/overlay/videoSystems.ts';
import { formatNumber, formatQuantity } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';
import type { Moment, PicturePainter } from './PicturePainter.ts';

/** The picture is looked at for a while before it is judged: what moves is not, ms. */
const RESTS_MS = 250;

/** How well the letters can be read: by their size in a hand-held screen, and by what lies behind them now. */
export function LegibleLine({
  painter,
  system,
  config,
  placing,
  moment,
}: {
  readonly painter: RefObject<PicturePainter | null>;
  readonly system: VideoSystem;
  readonly config: OverlayConfig;
  readonly placing: Placing;
  readonly moment: Moment;
}) {
  const [worst, setWorst] = useState<{ readonly item: ItemId; readonly contrast: number } | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => {
      const behind = painter.current?.contrasts(system.columns, system.rows);
      if (!behind) return;
      let found: { item: ItemId; contrast: number } | null = null;
      for (const item of itemIds) {
        if (placing[item] < 0) continue;
        const { columns, rows } = itemSize(item, config);
        for (let j = 0; j < rows; j++)
          for (let i = 0; i < columns; i++) {
            const at = (rowOf(placing[item]) + j) * system.columns + columnOf(placing[item]) + i;
            const contrast = behind[at];
            if (contrast !== undefined && (!found || contrast < found.contrast)) found = { item, contrast };
          }
      }
      setWorst(found);
    }, RESTS_MS);
    return () => clearTimeout(timer);
  }, [painter, system, config, placing, moment.atS]);
  const units = useApp((s) => s.ui.units);
  const arcmin = letterArcmin(system);
  return (
    <p className="basis-full text-[13px] text-soft">
      On a screen of {formatQuantity(1000 * SCREEN_ACROSS_M, 'mm', units, units === 'metric' ? 0 : 1)} at
      arm’s length a letter stands <span className="num">{formatNumber(arcmin, 0)}</span> minutes of arc high:{' '}
      {arcmin >= EASY_ARCMIN
        ? 'read with ease'
        : arcmin >= LEAST_ARCMIN
          ? 'read, but not with ease'
          : `too small, below ${LEAST_ARCMIN}; hold it nearer, or use goggles`}
      .
      {worst &&
        (worst.contrast < LEAST_CONTRAST
          ? ` Over this picture ${itemName(worst.item)} has a contrast of ${formatNumber(worst.contrast, 1)} : 1 with what is behind it: its dark edge alone carries it.`
          : ` Over this picture every letter has a contrast of ${formatNumber(worst.contrast, 1)} : 1 or better.`)}
    </p>
  );
}
