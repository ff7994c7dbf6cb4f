import { useEffect, useRef } from 'react';
import type { Treatment } from '../../core/treatment/treatment';
import { useAway } from '../app/away';
import { smallPicture } from '../engine/client';
import { drawSoon } from './draw-soon';
import type { PictureInfo } from '../engine/tiles';

/** How long the treatment must rest before a small picture is made anew. */
const REST_MS = 180;

/** A small picture of a treatment, cut to fill its place, made anew when the treatment has come to rest. */
export function SmallPicture({
  picture,
  treatment,
  width: wide,
  height: high,
  shared = 0,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  /** In CSS pixels. */
  width: number;
  height: number;
  /** How many of its first steps others beside it have as well. */
  shared?: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { id, width, height, grey } = picture;
  /** The photograph that it shows. */
  const filled = useRef<string | null>(null);
  const returns = useAway(state => state.returns);
  useEffect(() => {
    const abort = new AbortController();
    const fill = async () => {
      const ratio = Math.min(2, window.devicePixelRatio || 1);
      const info = { id, width, height, grey };
      const bitmap = await smallPicture(info, treatment, wide * ratio, high * ratio, abort.signal, shared);
      drawSoon(() => {
        const target = canvas.current;
        if (!abort.signal.aborted && target) {
          target.width = wide * ratio;
          target.height = high * ratio;
          target.getContext('2d')?.drawImage(bitmap, 0, 0, target.width, target.height);
          filled.current = id;
          target.dataset.drawn = '';
        }
        bitmap.close();
      });
    };
    const isFilled = filled.current === id;
    const timer = setTimeout(() => void fill().catch(() => undefined), isFilled ? REST_MS : 0);
    return () => {
      abort.abort();
      clearTimeout(timer);
    };
  }, [id, width, height, grey, treatment, wide, high, shared, returns]);
  // Of another photograph another canvas: nothing of the one before is seen in its place.
  return <canvas key={id} ref={canvas} width={wide} height={high} aria-hidden="true" />;
}
