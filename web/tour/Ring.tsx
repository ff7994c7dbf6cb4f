import { useEffect, useState } from 'react';
import styled from 'styled-components';

/** A ring about what is to be pressed next. It lies over nothing: presses go through. */
const Frame = styled.div`
  position: fixed;
  z-index: 24;
  pointer-events: none;
  border-radius: 6px;
  outline: 2.5px solid var(--lamp);
  box-shadow: 0 0 0 5px rgb(201 120 27 / 0.28);
  @media (forced-colors: active) {
    outline-color: Highlight;
  }
`;

const AGAIN_MS = 200;
const AROUND = 3;

interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Where the first of some elements lies that can be seen; it may move, come and go. */
function useBox(selectors: readonly string[]): Box | null {
  const [box, setBox] = useState<Box | null>(null);
  const asked = selectors.join('\n');
  useEffect(() => {
    const look = () => {
      const found = asked
        .split('\n')
        .filter(Boolean)
        .flatMap(selector => [...document.querySelectorAll(selector)])
        .map(element => element.getBoundingClientRect())
        .find(
          ({ width, height, bottom, top }) =>
            width > 0 && height > 0 && bottom > 0 && top < window.innerHeight,
        );
      setBox(now => {
        if (!found) return null;
        const { left, top, width, height } = found;
        const isSame =
          now && now.left === left && now.top === top && now.width === width && now.height === height;
        return isSame ? now : { left, top, width, height };
      });
    };
    look();
    const timer = setInterval(look, AGAIN_MS);
    return () => clearInterval(timer);
  }, [asked]);
  return box;
}

export function Ring({ around }: { around: readonly string[] }) {
  const box = useBox(around);
  if (!box) return null;
  const { left, top, width, height } = box;
  return (
    <Frame
      aria-hidden="true"
      style={{
        left: left - AROUND,
        top: top - AROUND,
        width: width + 2 * AROUND,
        height: height + 2 * AROUND,
      }}
    />
  );
}
