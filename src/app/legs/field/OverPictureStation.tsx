import { useMemo, useRef, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { overlayMended, overlayProblems } from '#core/overlay/check.ts';
import { overlayConfigOf } from '#core/overlay/config.ts';
import { newAlarms } from '#core/overlay/draw.ts';
import {
  columnOf,
  type ItemId,
  itemIds,
  itemName,
  type LayoutId,
  layoutIds,
  NOT_SHOWN,
  placeKey,
  questionOf,
  rowOf,
} from '#core/overlay/items.ts';
import { carried, freeCell, type Placing, usualPlacing, wishedAt } from '#core/overlay/place.ts';
import { sampleView } from '#core/overlay/sample.ts';
import { type VideoId, videoSystems } from '#core/overlay/videoSystems.ts';
import { viewAt } from '#core/overlay/view.ts';
import type { Edits } from '#core/settings/draft.ts';
import type { UnitSystem } from '#core/units/units.ts';
import { useSampled } from '../../live/hooks.ts';
import { live as liveNow } from '../../live/telemetry.ts';
import { usePlayed } from '../../live/usePlayed.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { DrawingTabs } from '../../ui/DrawingTabs.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { ClockBar } from './picture/ClockBar.tsx';
import { alarmsOver, endOf, poseAt, viewIndexAt } from './picture/flownPicture.ts';
import { ItemLists } from './picture/ItemLists.tsx';
import { ItemPart } from './picture/ItemPart.tsx';
import { LayoutFile } from './picture/LayoutFile.tsx';
import { LegibleLine } from './picture/LegibleLine.tsx';
import type { Moment, PicturePainter } from './picture/PicturePainter.ts';
import { PicturePlane } from './picture/PicturePlane.tsx';
import { ProblemList } from './picture/ProblemList.tsx';
import { SystemChoice } from './picture/SystemChoice.tsx';
import { useFlownPicture } from './picture/useFlownPicture.ts';
import { VideoPart } from './picture/VideoPart.tsx';

const placed = (layout: LayoutId, placing: Placing): Edits =>
  Object.fromEntries(itemIds.map((id) => [placeKey(layout, id), placing[id]]));
const isEmpty = (placing: Placing) => itemIds.every((id) => placing[id] < 0);
const names = layoutIds.map((id) => id.toUpperCase()) as readonly Uppercase<LayoutId>[];

const unitWords: Readonly<Record<UnitSystem, string>> = {
  metric: 'm and m/s',
  imperial: 'ft and mph',
  aviation: 'ft and kt',
};
/** As often as a board tells its picture, ms. */
const LIVE_MS = 200;
/** Above the strip, looking along it: where the picture is from before anything was flown. */
const STILL_ABOVE_M = 120;

/** What the pilot reads over the picture, laid out on its grid and rehearsed. */
export default function OverPictureStation() {
  const dispatch = useAppDispatch();
  const values = useApp(selectValues);
  const site = useApp((s) => s.site.current)!;
  const craft = useApp((s) => s.craft.file!.name);
  const units = useApp((s) => s.ui.units);
  const rotors = useApp((s) => isRotorcraft(s.craft.airframe!));
  const [layout, setLayout] = useState<LayoutId>('a');
  const [chosen, setChosen] = useState<ItemId | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const painter = useRef<PicturePainter | null>(null);
  const config = useMemo(() => overlayConfigOf(values), [values]);
  const live = useSampled(() => liveNow('overlay'), LIVE_MS);
  const onBoard = useApp(
    (s) =>
      s.settings.baseFrom === 'board' && !Object.keys(s.settings.edits).some((k) => k.startsWith('overlay.')),
  );
  const { rehearse, flying, fault, flown, stale } = useFlownPicture();
  const alarms = useMemo(() => (flown ? alarmsOver(flown.tape, config) : null), [flown, config]);
  const { system } = config;

  const momentAt = (atS: number): Moment => {
    const common = { config, layout, atS };
    if (flown && alarms) {
      const i = viewIndexAt(flown, atS);
      return { ...common, view: viewAt(flown.tape, i), pose: poseAt(flown, atS), states: alarms[i]! };
    }
    const view = sampleView(config);
    const pose = {
      ...{ north: 0, east: 0, height: site.home.heightM + STILL_ABOVE_M },
      ...{ roll: view.roll, pitch: view.pitch, yaw: view.heading },
    };
    return { ...common, view, pose, states: newAlarms() };
  };
  const endS = flown ? endOf(flown) : 0;
  const clock = usePlayed(endS, (atS) => painter.current?.paint(momentAt(atS)));

  const put = (edits: Edits) => dispatch(staged(edits));
  const choose = (id: VideoId) => {
    const to = videoSystems[id];
    const left: string[] = [];
    const edits: Record<string, Edits[string]> = { 'overlay.system': id };
    if (system)
      for (const l of layoutIds) {
        if (isEmpty(config.layouts[l])) continue;
        const there = carried(config.layouts[l], system, to, { ...config, system: to });
        Object.assign(edits, placed(l, there.placing));
        left.push(
          ...there.instead.map((x) => `${itemName(x.by)} stands in for ${itemName(x.item)}`),
          ...there.left.map((x) => `${itemName(x.item)} is left out: ${x.why.replace(/\.$/, '')}`),
        );
      }
    put(edits);
    setSaid(
      system
        ? `Carried over to ${to.name} by what it means.${left.length > 0 ? ` ${left.map((x) => x[0]!.toUpperCase() + x.slice(1)).join('. ')}.` : ''}`
        : null,
    );
  };

  if (!system)
    return (
      <>
        <Lead />
        <p className="mt-4 mb-2">What brings the picture down from the craft? Its grid is the overlay’s.</p>
        <SystemChoice value={null} onChange={choose} />
      </>
    );
  const placing = config.layouts[layout];
  const problems = overlayProblems(layout, config, system, values);
  const grave = problems.filter((p) => p.kind !== 'symbol');
  const wrong = new Set(grave.flatMap((p) => p.items));
  const place = (item: ItemId, cell: number) => put({ [placeKey(layout, item)]: cell });
  const pick = (item: ItemId) => {
    setChosen(item);
    if (placing[item] >= 0) {
      document.querySelector<HTMLElement>(`[data-item="${item}"]`)?.focus();
      return;
    }
    const beside = itemIds.find((id) => placing[id] >= 0 && questionOf(id) === questionOf(item));
    const near = beside ? placing[beside] : 0;
    const wish = wishedAt(item, config, system) ?? { row: rowOf(near), column: columnOf(near) };
    const free = freeCell(item, wish, placing, config, system);
    if (free === null) setSaid(`There is no room left for ${itemName(item)}: take something off first.`);
    else place(item, free);
  };
  // What the board writes now: of the layout that its switch has chosen, once all of it is written.
  const isLive =
    !flown && live !== null && live.columns === system.columns && live.layout === layout && onBoard;
  const moment = { ...momentAt(clock.atS), ...(isLive ? { told: live.cells } : {}) };
  return (
    <>
      <Lead />
      <div className="mt-2 mb-3">
        <SystemChoice value={system.id} onChange={choose} />
        <TextButton
          tone="soft"
          className="mt-1 text-[13px]"
          onClick={() => put({ 'overlay.system': 'none' })}
        >
          This craft has no picture
        </TextButton>
      </div>
      {said && (
        <Notice
          tone="plain"
          className="mb-2"
          action={<TextButton onClick={() => setSaid(null)}>Understood</TextButton>}
        >
          {said}
        </Notice>
      )}
      {fault && <Notice className="mb-2">{fault}</Notice>}
      {stale && (
        <Notice tone="amber" className="mb-2">
          Something was changed that the flight rests on. Rehearse it anew to see it.
        </Notice>
      )}
      <div className="flex flex-wrap gap-4">
        <div className="min-w-0 flex-1" style={{ maxWidth: `calc(48vh * ${system.aspect})` }}>
          <PicturePlane
            {...{ site, system, config, placing, moment, wrong, chosen, painter }}
            onChoose={setChosen}
            onPlace={place}
          />
        </div>
        <div className="flex w-[128px] flex-col gap-3">
          <Button
            kind="go"
            className="whitespace-normal! leading-[18px]"
            disabled={flying}
            onClick={rehearse}
          >
            {flying ? 'Flying …' : flown ? 'Rehearse it anew' : 'Rehearse what the pilot sees'}
          </Button>
          <div>
            <p className="label mb-1">Layout</p>
            <DrawingTabs
              label="Layout"
              value={names[layoutIds.indexOf(layout)]!}
              tabs={names}
              onChange={(name) => {
                setLayout(layoutIds[names.indexOf(name)]!);
                setChosen(null);
              }}
            />
            <p className="mt-1 text-[13px] text-soft">
              {config.channel > 0 ? 'chosen on channel' : 'A is flown; B and C on channel'}{' '}
              <SettingField name="overlay.channel" />
            </p>
          </div>
          <LayoutFile
            {...{ craft, layout, placing, config, system }}
            onTake={(edits, says) => {
              put(edits);
              setSaid(says);
            }}
          />
        </div>
      </div>
      {isLive && (
        <p role="status" className="mt-1 text-[13px] text-lake">
          Live: this is what the board writes over the picture now.
        </p>
      )}
      {!isLive && !flown && (
        <p className="mt-1 text-[13px] text-soft">
          A moment that never was, to lay things out by: its figures are nobody’s. Rehearse it to see a
          flight, or plug the board in.
        </p>
      )}
      {flown && <ClockBar clock={clock} endS={endS} moments={flown.moments} />}
      {flown && <p className="mt-1 text-[13px] text-soft">{flown.verdict}</p>}
      {isEmpty(placing) ? (
        <div className="mt-3 flex items-center gap-4">
          <p>Nothing stands over the picture in layout {layout.toUpperCase()}.</p>
          <Button kind="go" onClick={() => put(placed(layout, usualPlacing(config, system, rotors)))}>
            Begin with what is looked at most
          </Button>
          {layoutIds
            .filter((l) => l !== layout && !isEmpty(config.layouts[l]))
            .map((l) => (
              <Button key={l} onClick={() => put(placed(layout, config.layouts[l]))}>
                Copy layout {l.toUpperCase()}
              </Button>
            ))}
        </div>
      ) : (
        <ProblemList
          problems={problems}
          mended={() => overlayMended(layout, config, system, values)}
          onPut={put}
        />
      )}
      {chosen && placing[chosen] >= 0 && (
        <ItemPart
          item={chosen}
          cell={placing[chosen]}
          {...{ system, config }}
          onPlace={(cell) => {
            place(chosen, cell);
            if (cell === NOT_SHOWN) setChosen(null);
          }}
        />
      )}
      <ItemLists
        {...{ system, config, placing, wrong, chosen }}
        view={isLive ? null : moment.view}
        onPick={pick}
      />
      <section
        aria-label="How it is told"
        className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-2 border-line border-t pt-3"
      >
        <span className="flex items-center gap-2">
          <span className="text-soft">Told in</span>
          <SettingField name="overlay.units" />
          {config.units !== units && (
            <TextButton tone="forest" onClick={() => put({ 'overlay.units': units })}>
              Tell it in {unitWords[units]}, as you read
            </TextButton>
          )}
        </span>
        <span className="flex items-center gap-2">
          <span className="text-soft">A figure too long</span>
          <SettingField name="overlay.outgrown" />
        </span>
        <LegibleLine {...{ painter, system, config, placing }} moment={moment} />
      </section>
      <VideoPart />
    </>
  );
}
