import { useCallback, useMemo, useState } from 'react';
import { toHex } from '../../core/colour/srgb';
import type { Treatment } from '../../core/treatment/treatment';
import { messageOf } from '../app/api';
import { tell } from '../app/notices';
import { useKeys } from '../app/useKeys';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import type { TakeSession } from '../takes/session';
import type { Place, PictureTool } from './tool';

/** Asks for a colour from the picture; answered by the next press on it. */
export type PickColour = (request: { from: Treatment; onPick: (colour: string) => void }) => void;

/** A colour picked on the picture by the next press; Escape gives up. */
export function usePicking(
  picture: PictureInfo,
  session: TakeSession,
): { tool: PictureTool | null; pick: PickColour } {
  const [request, setRequest] = useState<Parameters<PickColour>[0] | null>(null);
  const pick = useCallback<PickColour>(asked => setRequest(asked), []);

  useKeys({ giveUp: () => setRequest(null) }, request !== null);

  const tool = useMemo<PictureTool | null>(() => {
    if (!request) return null;
    const find = async ({ x, y }: Place) => {
      const { engine } = await smallPictures();
      return engine.colourAt(picture, request.from, x, y);
    };
    return {
      cursor: 'crosshair',
      name: 'Press on the colour to pick it. Escape gives up.',
      press: at => {
        setRequest(null);
        session
          .editWhenFound('Colour from the picture', find(at), colour => request.onPick(toHex(...colour)))
          .catch(error => tell({ text: `No colour could be picked: ${messageOf(error)}`, tone: 'problem' }));
        return null;
      },
    };
  }, [request, picture, session]);
  return { tool, pick };
}
