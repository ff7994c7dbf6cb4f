import { useCallback, useEffect, useRef } from 'react';
import styled from 'styled-components';
import { NumberBox } from './number-box';

const Short = styled.span`
  display: inline-block;
  width: 40px;
`;

/** A share from 0 to 100 that is typed in its place, within a line of text. */
export function TypedNumber({
  name,
  value,
  onTyped,
}: {
  name: string;
  /** 0..1 */
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
  return (
    <Short>
      <NumberBox
        name={name}
        value={value}
        min={0}
        max={1}
        step={0.001}
        shownTimes={100}
        unit=""
        decimals={1}
        centred={false}
        input={input}
        onTyped={typed}
      />
    </Short>
  );
}
