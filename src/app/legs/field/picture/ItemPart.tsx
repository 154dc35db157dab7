import type { ReactNode } from 'react';
import type { OverlayConfig } from '#core/overlay/config.ts';
import { alarmIds, alarms, cellAt, columnOf, type ItemId, itemName, rowOf } from '#core/overlay/items.ts';
import { itemSize } from '#core/overlay/itemText.ts';
import type { VideoSystem } from '#core/overlay/videoSystems.ts';
import type { SettingKey } from '#core/settings/typed.ts';
import { NumberField } from '../../../ui/NumberField.tsx';
import { SettingField } from '../../../ui/SettingField.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';

interface Props {
  readonly item: ItemId;
  readonly cell: number;
  readonly system: VideoSystem;
  readonly config: OverlayConfig;
  readonly onPlace: (cell: number) => void;
}

const decimalsOf: Readonly<Partial<Record<ItemId, SettingKey>>> = {
  volts: 'overlay.decimals.volts',
  cell: 'overlay.decimals.volts',
  current: 'overlay.decimals.current',
  speed: 'overlay.decimals.speed',
  airspeed: 'overlay.decimals.speed',
  climb: 'overlay.decimals.climb',
};

const wordsOf: Readonly<Partial<Record<ItemId, SettingKey>>> = {
  words1: 'overlay.words.1',
  words2: 'overlay.words.2',
  words3: 'overlay.words.3',
};

/** The item that is chosen: where it stands, how it is told, when it blinks. */
export function ItemPart({ item, cell, system, config, onPlace }: Props) {
  const size = itemSize(item, config);
  const [row, column] = [rowOf(cell), columnOf(cell)];
  const lastColumn = system.columns - size.columns;
  const lastRow = system.rows - size.rows;
  const alarm = alarmIds.find((id) => alarms[id].item === item || alarms[id].also === item);
  const decimals = decimalsOf[item];
  const words = wordsOf[item];
  return (
    <section
      aria-label={itemName(item)}
      className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-1.5 rounded-[4px] border border-line bg-paper px-3 py-2"
    >
      <h2 className="font-semibold">{itemName(item)}</h2>
      <Part name="row">
        <NumberField
          label="Row"
          value={row + 1}
          symbol=""
          min={1}
          max={Math.max(row + 1, lastRow + 1)}
          step={1}
          onChange={(v) => onPlace(cellAt(v - 1, column))}
        />
      </Part>
      <Part name="column">
        <NumberField
          label="Column"
          value={column + 1}
          symbol=""
          min={1}
          max={Math.max(column + 1, lastColumn + 1)}
          step={1}
          onChange={(v) => onPlace(cellAt(row, v - 1))}
        />
      </Part>
      <span className="flex gap-3 text-[13px]" role="group" aria-label="Line it up">
        <TextButton onClick={() => onPlace(cellAt(row, system.edge.columns))}>left edge</TextButton>
        <TextButton onClick={() => onPlace(cellAt(row, Math.round(lastColumn / 2)))}>middle</TextButton>
        <TextButton onClick={() => onPlace(cellAt(row, lastColumn - system.edge.columns))}>
          right edge
        </TextButton>
      </span>
      {words && (
        <Part name="says">
          <SettingField name={words} />
        </Part>
      )}
      {decimals && (
        <Part name="decimals">
          <SettingField name={decimals} />
        </Part>
      )}
      {alarm && (
        <>
          <Part name={`blinks ${alarms[alarm].wrong}`}>
            <SettingField name={`overlay.alarm.${alarm}.at`} />
          </Part>
          {config.alarms[alarm].at > 0 && (
            <Part name="until back by">
              <SettingField name={`overlay.alarm.${alarm}.back`} />
            </Part>
          )}
        </>
      )}
      <TextButton tone="soft" className="ml-auto" onClick={() => onPlace(-1)}>
        Take it off
      </TextButton>
    </section>
  );
}

function Part({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <span className="inline-flex items-baseline gap-1.5">
      <span className="text-soft">{name}</span>
      {children}
    </span>
  );
}
