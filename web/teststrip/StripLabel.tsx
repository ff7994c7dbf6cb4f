import { useCallback, useEffect, useRef } from 'react';
import styled from 'styled-components';
import { numberInWords } from '../app/words';
import { units } from '../controls/units';
import { WallLabel } from '../print/labels';
import { Button } from '../ui/buttons';
import { NumberBox } from '../ui/number-box';
import type { Axis, TestStrip } from './useTestStrip';

const Label = styled(WallLabel)`
  left: 31px;
  padding: 0 0 0 12px;
  gap: 8px;
  max-width: calc(100% - 205px);
  color: var(--ink-2);
  b {
    color: var(--ink);
    font-weight: 650;
  }
  > span {
    display: flex;
    align-items: center;
    gap: 6px;
    min-width: 0;
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

const Short = styled.span`
  display: inline-block;
  width: 50px;
`;

const Away = styled(Button)`
  height: 28px;
  border: 0;
  border-left: 1px solid var(--rule);
  border-radius: 0 var(--r-label) var(--r-label) 0;
  font-weight: 600;
  color: var(--ink);
`;

/** A number of an axis, set in its place. */
function Bound({
  axis,
  name,
  value,
  onTyped,
}: {
  axis: Axis;
  name: string;
  value: number;
  onTyped: (value: number) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const latest = useRef(onTyped);
  useEffect(() => {
    latest.current = onTyped;
  });
  const typed = useCallback((v: number) => {
    if (Number.isFinite(v)) latest.current(v);
  }, []);
  if (axis.setting.type !== 'number') return null;
  const { min, max, unit } = axis.setting.field;
  return (
    <Short>
      <NumberBox
        name={name}
        value={value}
        min={min}
        max={max}
        {...units[unit]}
        centred={min < 0 && max > 0}
        input={input}
        onTyped={typed}
      />
    </Short>
  );
}

const counts: Axis = {
  setting: {
    type: 'number',
    name: 'count',
    label: '',
    value: 7,
    field: { type: 'number', min: 2, max: 9, default: 7, unit: 'whole' },
    apply: of => of,
    written: String,
  },
  values: [],
  from: 2,
  to: 9,
  count: 7,
};

/** What is tried, between what, in how many strips. */
export function StripLabel({ strip }: { strip: TestStrip }) {
  return (
    <Label role="group" aria-label="Test strip">
      <b>{strip.axes.length > 1 ? 'Grid' : 'Test strip'}</b>
      {strip.axes.map((axis, i) => (
        <span key={axis.setting.name}>
          {i ? <span>by</span> : null}
          <span className="name" title={axis.setting.name}>
            {axis.setting.name}
          </span>
          {axis.setting.type === 'number' ? (
            <>
              {strip.axes.length > 1 ? null : 'from'}
              <Bound
                axis={axis}
                name={`${axis.setting.name} from`}
                value={axis.from}
                onTyped={from => strip.change(i, { from })}
              />
              to
              <Bound
                axis={axis}
                name={`${axis.setting.name} to`}
                value={axis.to}
                onTyped={to => strip.change(i, { to })}
              />
              in
              <Bound
                axis={counts}
                name={`How many of ${axis.setting.name}`}
                value={axis.count}
                onTyped={count => strip.change(i, { count })}
              />
            </>
          ) : (
            <span>in {numberInWords(axis.values.length)} strips</span>
          )}
        </span>
      ))}
      <Away onPress={strip.putAway}>Put away</Away>
    </Label>
  );
}
