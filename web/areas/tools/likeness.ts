import { hueSixths } from '../../../core/colour/hues';
import { luma } from '../../../core/colour/srgb';
import type { MaskPart } from '../../../core/masks/parts';
import { addPart, areaOf } from '../../../core/treatment/areas';
import { beneathStep } from '../../../core/treatment/beneath';
import { messageOf } from '../../app/api';
import { tell } from '../../app/notices';
import { smallPictures } from '../../engine/client';
import type { HeldKeys, Place } from '../../print/tool';
import type { AreaAtWork } from './area-at-work';

/** Adds to an area all that is like the place of a press, by its tone or its hue. */
export function seizeLike({ area, picture, session, store }: AreaAtWork) {
  return (at: Place, keys: HeldKeys): null => {
    const { tool, taking } = store.getState();
    const { treatment } = session.state();
    const ground = {
      ...treatment,
      strength: 1,
      steps: treatment.steps.filter(s => s.stage === 'ground'),
    };
    const beneath = beneathStep(treatment, treatment.steps.find(s => s.mask === area)?.id ?? '');
    const find = async () => {
      const { engine } = await smallPictures();
      return engine.colourAt(picture, tool === 'hues' ? ground : beneath, at.x, at.y);
    };
    const label = tool === 'hues' ? 'Hues' : 'Tones';
    session
      .editWhenFound(label, find(), ([r, g, b]) => {
        const now = session.state().treatment;
        const there = areaOf(now, area);
        // Removed while it was looked for.
        if (!there) return;
        const op = taking !== keys.alt && there.parts.length > 0 ? 'subtract' : 'add';
        const most = Math.max(r, g, b);
        const span = most - Math.min(r, g, b);
        if (tool === 'hues' && span < 0.03) {
          tell({ text: 'That place is grey: it has no hue.' });
          return;
        }
        const tone = luma(r, g, b);
        const round = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000;
        const part: MaskPart =
          tool === 'hues'
            ? {
                kind: 'hues',
                op,
                centre: Math.round(hueSixths(r, g, b, most, span) * 60) % 360,
                width: 36,
                softness: 0.4,
                // What has much less colour than the place is left out: the near-greys about it.
                colour: Math.min(0.3, Math.max(0.08, round(span * 0.45))),
              }
            : {
                kind: 'tones',
                op,
                range: [round(tone - 0.2), round(tone - 0.08), round(tone + 0.08), round(tone + 0.2)],
              };
        session.commit(addPart(now, area, part), label);
      })
      .catch(error => tell({ text: `Nothing was found: ${messageOf(error)}`, tone: 'problem' }));
    return null;
  };
}
