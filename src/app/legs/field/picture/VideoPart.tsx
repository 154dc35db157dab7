import { useState } from 'react';
import { portFor } from '#core/board/portUses.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatQuantity } from '#core/units/units.ts';
import {
  feedSeen,
  roomFor,
  VIDEO_CHANNELS,
  type VideoBand,
  videoBandIds,
  videoBands,
  videoMhz,
} from '#core/video/transmitter.ts';
import type { Telemetry } from '#core/wire/telemetry.ts';
import { useSampled } from '../../../live/hooks.ts';
import { live } from '../../../live/telemetry.ts';
import { videoSupplySaid } from '../../../store/craftSlice.ts';
import { selectDescription, selectLayout, selectValues } from '../../../store/selectors.ts';
import { staged } from '../../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Named } from '../../../ui/Named.tsx';
import { QuantityField } from '../../../ui/Quantity.tsx';
import { Select } from '../../../ui/Select.tsx';
import { SettingField } from '../../../ui/SettingField.tsx';

const LOW_MHZ = 5630;
const HIGH_MHZ = 5960;
const WIDE = 700;
const USUAL_SUPPLY = { feed: 'battery', leastV: 7, mostV: 26 } as const;
const x = (mhz: number) => ((mhz - LOW_MHZ) / (HIGH_MHZ - LOW_MHZ)) * WIDE;

/** Who tells it where to send, and what it answers. @param told null where no board is heard */
function whoTells(port: string | undefined, told: Telemetry['video'] | null): string {
  if (port === undefined)
    return 'No port is set for it at Wiring: set it by its own button to what stands here.';
  if (!told) return `Told over ${port}.`;
  if (!told.byPort)
    return `Set for ${port}; the board tells it nothing there yet: write, and restart the board.`;
  if (!told.told) return 'It does not answer: has it power? USB gives it none.';
  const { mhz, mw } = told.told;
  const less = mw < told.askedMw ? `, less than the ${told.askedMw} asked for` : '';
  return `It says that it sends on ${mhz} MHz with ${mw} mW${less}.`;
}

/** The video transmitter: where it sends among its neighbours, with how much, who tells it, and what it lives on. */
export function VideoPart() {
  const dispatch = useAppDispatch();
  const values = useApp(selectValues);
  const description = useApp(selectDescription);
  const layout = useApp(selectLayout);
  const airframe = useApp((s) => s.craft.airframe!);
  const said = useApp((s) => s.craft.file!.video);
  const units = useApp((s) => s.ui.units);
  const linked = useApp((s) => s.board.link === 'ready');
  const told = useSampled(() => live('video'), 500);
  /** Others on the strip, MHz. */
  const [others, setOthers] = useState<readonly number[]>([]);
  if (values['video.band'] === undefined) return null;
  const s = settingsOf(values);
  const band = s.choice('video.band') as VideoBand;
  const channel = s.number('video.channel');
  const mine = videoMhz(band, channel);
  const supply = said ?? USUAL_SUPPLY;
  const seen = feedSeen(supply.feed, airframe, layout, supply);
  const port = description && portFor(description, values, 'video-control');
  const room = roomFor(band, others);
  const put = (change: Partial<typeof supply>) => dispatch(videoSupplySaid({ ...supply, ...change }));
  const toggle = (mhz: number) =>
    setOthers(others.includes(mhz) ? others.filter((o) => o !== mhz) : [...others, mhz]);
  return (
    <section aria-label="Video transmitter" className="mt-4 border-line border-t pt-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="font-semibold">Video transmitter</h2>
        <span className="num text-[20px]">{mine} MHz</span>
        <span className="text-[13px] text-soft" role="status">
          {whoTells(port?.name, linked ? told : null)}
        </span>
      </div>
      <svg
        viewBox={`-6 0 ${WIDE + 12} 118`}
        className="mt-1 w-full"
        role="group"
        aria-label="Bands along the frequency; press a channel to take it"
      >
        {[5650, 5700, 5750, 5800, 5850, 5900, 5950].map((mhz) => (
          <g key={mhz}>
            <path d={`M${x(mhz)} 4V100`} stroke="var(--line)" />
            <text x={x(mhz)} y={113} fontSize={12.5} textAnchor="middle" className="num" fill="var(--faint)">
              {mhz}
            </text>
          </g>
        ))}
        <rect x={x(mine) - 18} y={2} width={36} height={98} fill="var(--lake-wash)" />
        {others.map((o) => (
          <rect key={o} x={x(o) - 18} y={2} width={36} height={98} fill="var(--amber-wash)" opacity={0.8} />
        ))}
        {videoBandIds.map((id, row) => (
          <g key={id}>
            <text x={-4} y={18 + 19 * row} fontSize={12.5} fill="var(--soft)">
              {videoBands[id].name}
            </text>
            {videoBands[id].mhz.map((mhz, i) => {
              const own = id === band && i + 1 === channel;
              return (
                <g
                  key={mhz}
                  role="button"
                  tabIndex={0}
                  aria-pressed={own}
                  aria-label={`Band ${videoBands[id].name}, channel ${i + 1}, ${mhz} MHz`}
                  className="cursor-pointer"
                  transform={`translate(${x(mhz)} ${14 + 19 * row})`}
                  onClick={() => dispatch(staged({ 'video.band': id, 'video.channel': i + 1 }))}
                  onKeyDown={(e) => {
                    if (e.key !== 'Enter' && e.key !== ' ') return;
                    e.preventDefault();
                    dispatch(staged({ 'video.band': id, 'video.channel': i + 1 }));
                  }}
                >
                  <circle
                    r={8.5}
                    fill={own ? 'var(--forest)' : 'var(--sheet)'}
                    stroke={own ? 'var(--forest)' : 'var(--contour)'}
                  />
                  <text
                    y={3.8}
                    fontSize={12.5}
                    textAnchor="middle"
                    className="num"
                    fill={own ? 'var(--sheet)' : 'var(--ink)'}
                  >
                    {i + 1}
                  </text>
                </g>
              );
            })}
          </g>
        ))}
      </svg>
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <dl>
          <Named name="power">
            <SettingField name="video.power" />
          </Named>
        </dl>
        <SettingField name="video.quiet" />
        <dl>
          <Named name="others on the strip send on">
            <Select
              aria-label="Add another pilot’s channel"
              value=""
              onChange={(e) => toggle(Number(e.target.value))}
            >
              <option value="">
                {others.length === 0 ? 'nobody else' : others.toSorted((a, b) => a - b).join(', ')}
              </option>
              {videoBandIds.flatMap((id) =>
                Array.from({ length: VIDEO_CHANNELS }, (_, i) => (
                  <option key={`${id}${i}`} value={videoMhz(id, i + 1)}>
                    {others.includes(videoMhz(id, i + 1)) ? 'not any more: ' : ''}
                    {videoBands[id].name} {i + 1}, {videoMhz(id, i + 1)} MHz
                  </option>
                )),
              )}
            </Select>
          </Named>
        </dl>
        {others.length > 0 && (
          <p className="text-[13px] text-soft">
            {room.length === 0
              ? 'No channel of this band leaves room to all of them: look at another band.'
              : `Channels of band ${videoBands[band].name} with room to all: ${room.join(', ')}.`}
          </p>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <dl>
          <Named name="fed from">
            <Select
              aria-label="What feeds the video transmitter"
              value={supply.feed}
              onChange={(e) => put({ feed: e.target.value as 'battery' | 'rail' })}
            >
              <option value="battery">the battery</option>
              <option value="rail">the board’s rail</option>
            </Select>
          </Named>
        </dl>
        <dl>
          <Named name="it wants at least">
            <QuantityField
              label="Least voltage of the video transmitter"
              unit="v"
              min={2}
              max={60}
              step={0.5}
              value={supply.leastV}
              onChange={(leastV) => put({ leastV })}
            />
          </Named>
        </dl>
        <dl>
          <Named name="and bears at most">
            <QuantityField
              label="Greatest voltage of the video transmitter"
              unit="v"
              min={2}
              max={60}
              step={0.5}
              value={supply.mostV}
              onChange={(mostV) => put({ mostV })}
            />
          </Named>
        </dl>
        <p
          className={`max-w-[420px] text-[13px] ${seen.why ? 'text-red' : 'text-soft'}`}
          role={seen.why ? 'alert' : undefined}
        >
          {seen.why ??
            `It sees ${formatQuantity(seen.leastV, 'v', units, 1)}${seen.mostV > seen.leastV ? ` to ${formatQuantity(seen.mostV, 'v', units, 1)}` : ''}, which it bears${said ? '' : ' if it is as most are: look at its paper'}.`}
        </p>
      </div>
      <p className="mt-1 text-[13px] text-faint">
        Which frequencies and how much power are allowed differs by country, and is yours to know.
      </p>
    </section>
  );
}
