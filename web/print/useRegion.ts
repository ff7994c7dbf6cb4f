import { useMemo, useState } from 'react';
import { useKeys } from '../app/useKeys';
import type { Region } from '../engine/small';
import type { Place, PictureTool } from './tool';

/** A region of the picture that is looked at by itself: dragged on it. */
export interface RegionChoice {
  region: Region | null;
  /** It is being asked for: the next drag on the picture gives it. */
  isAsked: boolean;
  ask: () => void;
  clear: () => void;
  tool: PictureTool | null;
}

/** A drag shorter than this share of the picture is none. */
const LEAST = 0.01;

const held = (v: number) => Math.min(1, Math.max(0, v));

/** The region between two places, within the picture. */
export function regionBetween(a: Pick<Place, 'x' | 'y'>, b: Pick<Place, 'x' | 'y'>): Region {
  const [left, right] = [held(Math.min(a.x, b.x)), held(Math.max(a.x, b.x))];
  const [top, bottom] = [held(Math.min(a.y, b.y)), held(Math.max(a.y, b.y))];
  return { x: left, y: top, width: right - left, height: bottom - top };
}

export function useRegion(): RegionChoice {
  const [region, setRegion] = useState<Region | null>(null);
  const [isAsked, setAsked] = useState(false);
  useKeys({ giveUp: () => setAsked(false) }, isAsked);
  return useMemo(() => {
    const tool: PictureTool = {
      cursor: 'crosshair',
      name: 'Drag over the region to look at. Escape gives up.',
      press: from => {
        let last = from;
        return {
          move: to => {
            last = to;
            setRegion(regionBetween(from, to));
          },
          end: () => {
            const { width, height } = regionBetween(from, last);
            if (width < LEAST || height < LEAST) setRegion(null);
            setAsked(false);
          },
        };
      },
    };
    return {
      region,
      isAsked,
      ask: () => setAsked(true),
      clear: () => {
        setRegion(null);
        setAsked(false);
      },
      tool: isAsked ? tool : null,
    };
  }, [region, isAsked]);
}
