import { useCallback, useEffect, useRef } from 'react';
import styled from 'styled-components';
import { NumberBox } from './number-box';
import type { Shown } from '../../words/number-format';

const Short = styled.span`
  display: inline-block;
`;

/** A share as it is typed within a line of text: 0 to 100, in tenths. */
export const SHARE = { min: 0, max: 1, step: 0.001, shownTimes: 100, unit: '', decimals: 1, centred: false };

/** A number that is typed in its place, within a line of text. */
export function TypedNumber({
  name,
  value,
  width,
  onTyped,
  ...field
}: {
  name: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** CSS pixels; as wide as there is room where it is left out. */
  width?: number;
  onTyped: (value: number) => void;
} & Shown) {
  const input = useRef<HTMLInputElement>(null);
  const latest = useRef(onTyped);
  useEffect(() => {
    latest.current = onTyped;
  });
  const typed = useCallback((v: number) => {
    if (Number.isFinite(v)) latest.current(v);
  }, []);
  return (
    <Short style={{ width: width ?? '100%' }}>
      <NumberBox name={name} value={value} {...field} input={input} onTyped={typed} />
    </Short>
  );
}
