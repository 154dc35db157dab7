import { useMemo } from 'react';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { axisAnswer, usualSpeed } from '#core/answers/answers.ts';
import { answerChange, tuningChanges } from '#core/answers/tunings.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { TunedAnswer, Tuning } from '#core/formats/tuning.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import type { Catalogue, Values } from '#core/settings/catalogue.ts';
import { valueText } from '#core/settings/valueText.ts';
import { formatNumber, type UnitSystem } from '#core/units/units.ts';
import { Table } from '../../../ui/Table.tsx';

interface Props {
  readonly before: Tuning;
  readonly after: Tuning;
  /** How many flights there were with each. */
  readonly numberOf: (tuning: Tuning) => number;
  readonly airframe: Airframe;
  readonly values: Values;
  readonly pads: BoardDescription['pads'];
  readonly catalogue: Catalogue;
  readonly units: UnitSystem;
}

/** From one flight to another: settings that changed, what the answers did, and what they should have done. */
export function WhatChanged({ before, after, numberOf, airframe, values, pads, catalogue, units }: Props) {
  const changes = useMemo(
    () => tuningChanges(before.values, after.values, catalogue),
    [before, after, catalogue],
  );
  const said = useMemo(
    () => promised(before, after, airframe, values, pads),
    [before, after, airframe, values, pads],
  );
  return (
    <section aria-label="What changed" className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">
        From flight {numberOf(before)} to flight {numberOf(after)}
      </h2>
      {changes.length === 0 ? (
        <p className="text-soft">
          They were flown by the same tuning: what differs is the air, the craft, or chance.
        </p>
      ) : (
        <ul className="mt-1 flex flex-wrap gap-x-6 gap-y-1">
          {changes.map(({ key, from, to }) => {
            const entry = catalogue.entry(key)!;
            const text = (v: typeof from) => (v === undefined ? 'not told' : valueText(entry, v, units));
            return (
              <li key={key}>
                {entry.label} <span className="num text-soft line-through">{text(from)}</span>{' '}
                <span className="num font-medium">{text(to)}</span>
              </li>
            );
          })}
        </ul>
      )}
      <Table className="mt-3">
        <thead>
          <tr>
            <th> </th>
            <th>up in</th>
            <th>over</th>
            <th>what that did</th>
            <th>what it should have done</th>
          </tr>
        </thead>
        <tbody>
          {axes.map((axis) => {
            const [a, b] = [before.answers[axis], after.answers[axis]];
            return (
              <tr key={axis}>
                <td className="font-medium">{axis}</td>
                <td className="num">{a && b ? `${seconds(a.riseS)} → ${seconds(b.riseS)}` : '–'}</td>
                <td className="num">{a && b ? `${percent(a.overshoot)} → ${percent(b.overshoot)}` : '–'}</td>
                <td>{a && b ? changeWords(a, b) : 'not told: too little was asked for'}</td>
                <td className="text-soft">{said[axis] ? changeWords(said[axis][0], said[axis][1]) : ''}</td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </section>
  );
}

const seconds = (s: number | null) => (s === null ? 'not there' : `${formatNumber(s, 2)} s`);
const percent = (share: number) => `${formatNumber(100 * share, 0)} %`;

function changeWords(a: TunedAnswer, b: TunedAnswer): string {
  const { rise, overshoot } = answerChange(a, b);
  const parts = [
    ...(rise === null
      ? []
      : [`${formatNumber(1000 * Math.abs(rise), 0)} ms ${rise < 0 ? 'quicker' : 'slower'}`]),
    ...(overshoot === null
      ? []
      : [`${formatNumber(100 * Math.abs(overshoot), 0)} points ${overshoot < 0 ? 'less' : 'more'} over`]),
  ];
  return parts.length === 0 ? 'nothing that could be told from chance' : parts.join(', ');
}

/** A promise is no surer than this, share of the answer. */
const PROMISE_SURE = 0.05;

/** How the model has each answer by the tuning of the one flight and of the other. */
function promised(
  before: Tuning,
  after: Tuning,
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
): Readonly<Record<Axis, readonly [TunedAnswer, TunedAnswer] | null>> {
  const by = (t: Tuning, axis: Axis): TunedAnswer | null => {
    const set = { ...values, ...t.values };
    const speed = isRotorcraft(airframe) ? 0 : t.speedMps > 5 ? t.speedMps : usualSpeed(airframe, set);
    const answer = axisAnswer(airframe, set, pads, axis, speed);
    if (!answer) return null;
    const { riseS, delayS, overshoot } = answer.figures;
    const known = (x: number) => (Number.isFinite(x) ? x : null);
    return { riseS: known(riseS), delayS: known(delayS), overshoot, sure: PROMISE_SURE };
  };
  const both = (axis: Axis) => {
    const [a, b] = [by(before, axis), by(after, axis)];
    return a && b ? ([a, b] as const) : null;
  };
  return { roll: both('roll'), pitch: both('pitch'), yaw: both('yaw') };
}
