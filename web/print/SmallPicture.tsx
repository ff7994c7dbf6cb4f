import { useEffect, useRef } from 'react';
import type { Treatment } from '../../core/treatment/schema';
import { useAway } from '../app/away';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';

/** How long the treatment must rest before a small picture is made anew. */
const REST_MS = 180;

/** A small picture of a treatment, cut to fill its place, made anew when the treatment has come to rest. */
export function SmallPicture({
  picture,
  treatment,
  width: wide,
  height: high,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  /** In CSS pixels. */
  width: number;
  height: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { id, width, height, grey } = picture;
  const filled = useRef(false);
  const returns = useAway(state => state.returns);
  useEffect(() => {
    let stale = false;
    const fill = async () => {
      const ratio = Math.min(2, window.devicePixelRatio || 1);
      const info = { id, width, height, grey };
      const { engine } = await smallPictures();
      if (stale) return;
      const bitmap = await engine.picture(info, treatment, wide * ratio, high * ratio);
      const target = canvas.current;
      if (!stale && target) {
        target.width = wide * ratio;
        target.height = high * ratio;
        target.getContext('2d')?.drawImage(bitmap, 0, 0, target.width, target.height);
        filled.current = true;
      }
      bitmap.close();
    };
    const timer = setTimeout(() => void fill().catch(() => undefined), filled.current ? REST_MS : 0);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [id, width, height, grey, treatment, wide, high, returns]);
  return <canvas ref={canvas} width={wide} height={high} aria-hidden="true" />;
}
