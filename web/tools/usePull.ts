import { useCallback, useMemo, useState } from 'react';
import { stepKind } from '../../core/steps';
import type { Family } from '../../core/colour/hues';
import { beneathStep } from '../../core/treatment/beneath';
import { changeStep } from '../../core/treatment/edit';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { messageOf } from '../app/api';
import { tell } from '../app/notices';
import { smallPictures } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import type { TakeSession } from '../takes/session';
import type { Place, PictureTool } from '../print/tool';

/** Pixels of pointer that change a grey by the whole of its value, where the colour allows it. */
const WHOLE_WAY = 300;

/** What is being pulled, to be shown beside the pointer. */
export interface Pulled {
  at: Place;
  families: { family: Family; share: number; value: number }[];
}

/**
 * Press on the picture and drag up or down: what has that colour gets lighter or darker through the chosen step, where
 * its kind can be pulled.
 */
export function usePull(
  picture: PictureInfo,
  session: TakeSession,
  step: Step | undefined,
): { tool: PictureTool | null; pulled: Pulled | null } {
  const [pulled, setPulled] = useState<Pulled | null>(null);
  const stepId = step?.enabled && stepKind(step.kind)?.pull ? step.id : null;

  const press = useCallback(
    (at: Place) => {
      if (stepId === null) return null;
      const { treatment } = session.state();
      const begun = treatment.steps.find(s => s.id === stepId)!;
      const pull = stepKind(begun.kind)!.pull!;
      const beneath = beneathStep(treatment, stepId);
      let colour: readonly [number, number, number] | null = null;
      let down = 0;
      let ended = false;
      let made: Treatment | null = null;

      const show = () => {
        if (!colour) return;
        const { settings, families } = pull(begun.settings, colour, -down / WHOLE_WAY);
        const now = session.state().treatment;
        // Removed while it was looked for.
        if (!now.steps.some(s => s.id === stepId)) return;
        made = changeStep(now, stepId, { settings: settings as Step['settings'] });
        setPulled(ended ? null : { at, families });
        // Each is undone alone.
        if (ended) session.commit(made, 'Pull', { apart: true });
        else session.preview(made);
      };
      const find = async () => {
        const { engine } = await smallPictures();
        const found = await engine.colourAt(picture, beneath, at.x, at.y);
        if (pull(begun.settings, found, 0).families.length === 0) {
          tell({ text: 'That place is grey: it has no colour to pull.', tone: 'plain' });
        } else colour = found;
      };
      const finding = find();
      finding.then(
        () => {
          if (!ended) show();
        },
        error => tell({ text: `Nothing could be pulled: ${messageOf(error)}`, tone: 'problem' }),
      );
      return {
        move: (_: Place, __: number, by: number) => {
          down = by;
          show();
        },
        end: () => {
          ended = true;
          setPulled(null);
          if (made || (colour && down !== 0)) show();
          // Let go before its colour was found.
          else if (down !== 0) void session.editWhenFound('Pull', finding, show).catch(() => undefined);
        },
      };
    },
    [picture, session, stepId],
  );

  const tool = useMemo<PictureTool | null>(
    () =>
      stepId === null
        ? null
        : { cursor: 'ns-resize', name: 'Press on a colour and drag up or down to pull its tone.', press },
    [stepId, press],
  );
  return { tool, pulled };
}
