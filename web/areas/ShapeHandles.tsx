import { useMemo, useRef } from 'react';
import { framedSize, geometryOf } from '../../core/frame/geometry';
import { kindOfPart, type MaskPart } from '../../core/masks/parts';
import type { Position } from '../../core/settings/fields';
import { areaOf, changePart } from '../../core/treatment/areas';
import type { Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import { Handles, type Places } from '../print/Handles';
import type { OnWall } from '../print/tool';

const clamp = (v: number) => Math.min(5, Math.max(-4, v));

/** The parts of an area that are held on the picture: their handles and outlines, through the frame. */
export function ShapeHandles({
  picture,
  treatment,
  area,
  onWall,
  onPreview,
  onCommit,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  area: string;
  onWall: OnWall;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
}) {
  const made = useRef<Treatment | null>(null);
  const { frame } = treatment;
  const places = useMemo((): Places => {
    const size = framedSize(picture, frame);
    const { toFramed, toPhotograph } = geometryOf(picture, frame);
    const out = new Float64Array(2);
    return {
      toFrame: ([x, y]) => {
        toFramed(x * picture.width, y * picture.height, out);
        return [out[0] / size.width, out[1] / size.height];
      },
      fromFrame: ([x, y]): Position => {
        toPhotograph(x * size.width, y * size.height, out);
        return [clamp(out[0] / picture.width), clamp(out[1] / picture.height)];
      },
    };
  }, [picture, frame]);
  return areaOf(treatment, area)?.parts.map((part, index) => {
    const { handles, outline } = kindOfPart(part);
    if (!handles) return null;
    return (
      <Handles
        key={index}
        handles={handles(part, picture)}
        outline={outline?.(part, picture) ?? []}
        onWall={onWall}
        places={places}
        onMove={settings => {
          made.current = changePart(treatment, area, index, { ...part, ...settings } as MaskPart);
          onPreview(made.current);
        }}
        onRest={() => {
          if (made.current) onCommit(made.current, 'Shape of the area');
          made.current = null;
        }}
      />
    );
  });
}
