import { useEffect, useRef } from 'react';
import type { Treatment } from '../../../core/treatment/schema';
import type { PictureInfo } from '../../engine/tiles';
import { smallPictures } from '../../engine/client';

export const BASIN = { width: 92, height: 52 };

/** How long the treatment must rest before a tray is filled anew. */
const REST_MS = 180;

/** What lies in a tray: the photograph as the steps up to this one leave it. */
export function TrayPicture({ picture, treatment }: { picture: PictureInfo; treatment: Treatment }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { id, width, height, grey } = picture;
  const filled = useRef(false);
  useEffect(() => {
    let stale = false;
    const fill = async () => {
      const ratio = Math.min(2, window.devicePixelRatio || 1);
      const info = { id, width, height, grey };
      const { engine } = await smallPictures();
      if (stale) return;
      const bitmap = await engine.picture(info, treatment, BASIN.width * ratio, BASIN.height * ratio);
      const target = canvas.current;
      if (!stale && target) {
        target.width = BASIN.width * ratio;
        target.height = BASIN.height * ratio;
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
  }, [id, width, height, grey, treatment]);
  return <canvas ref={canvas} width={BASIN.width} height={BASIN.height} aria-hidden="true" />;
}
