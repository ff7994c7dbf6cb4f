import { mixNames, type Mix } from '../colour/mixes';
import { isWhole } from '../masks/reach';
import type { Step, Treatment } from '../treatment/treatment';
import { activeSteps, isTogether, itemsOf, kindOf, stepsOf, type Item } from './lay';

/**
 * A treatment as layers that a program for pictures can put together again: the bare photograph, all that is done to the whole of it,
 * then each step that lies on an area, and each wash, by itself; what comes after those as one more. Put together they are the picture.
 */

/**
 * The mixes that layers of other programs have too. Sources: OpenRaster 0.0.5, layer stack specification, composite operators; they
 * are those of W3C Compositing and Blending Level 1.
 */
export type LayerMode = Exclude<Mix, 'difference' | 'exclusion' | 'average'>;
export const layerModes = mixNames.filter(
  (mix): mix is LayerMode => mix !== 'difference' && mix !== 'exclusion' && mix !== 'average',
);

/** One picture of the stack. */
export interface PictureLayer {
  type: 'picture';
  /** What it holds of the treatment; of the bare photograph nothing. */
  steps: readonly Step[];
  mode: LayerMode;
  /** 0..1 */
  opacity: number;
  /** Rendered, its colours. */
  colours: Treatment;
  /** Rendered, how far it covers, white on black; null where it covers all. */
  cover: Treatment | null;
}

/** Layers that are put together by themselves, and laid on what is beneath them by their opacity: the lowest of them covers all. */
export interface LayerGroup {
  type: 'group';
  steps: readonly Step[];
  opacity: number;
  layers: readonly PictureLayer[];
}

export type Layer = PictureLayer | LayerGroup;

/** A treatment's layers from the lowest up; those of a treatment that is not at its whole strength lie in a group over the bare photograph. */
export interface Layers {
  bare: PictureLayer;
  /** 0..1, how far what is above the bare photograph is laid on it. */
  strength: number;
  above: readonly Layer[];
}

/** Whether a step is laid on by nothing but a mix that others know. */
function modeOf(step: Step): LayerMode {
  const { mix, reach } = step;
  const own = layerModes.find(name => name === mix);
  const isAll = isWhole(reach.own) && isWhole(reach.beneath);
  return own && isAll && !kindOf(step).overMix?.(step.settings) ? own : 'normal';
}

const isApart = (step: Step) => step.mask !== null || step.kind === 'wash';
const isLayered = (item: Item) => stepsOf(item).some(isApart);

/** The layers of a treatment. Its frame is in all that is to be rendered. */
export function layersOf(treatment: Treatment): Layers {
  const steps = activeSteps(treatment);
  const items = itemsOf(steps, treatment.groups);
  /** The first so many steps, and what else; those of a group that is taken apart at their whole strength. */
  const after = (count: number, also: readonly Step[], apart: string | null): Treatment => ({
    ...treatment,
    strength: 1,
    steps: [...steps.slice(0, count), ...also],
    groups: treatment.groups.map(g => (g.id === apart ? { ...g, strength: 1 } : g)),
  });
  const whole = (count: number, of: readonly Step[]): PictureLayer => ({
    type: 'picture',
    steps: of,
    mode: 'normal',
    opacity: 1,
    colours: after(count, [], null),
    cover: null,
  });
  /** A step by itself, over what the steps before it make. */
  const single = (step: Step, before: number, apart: string | null = null): PictureLayer => {
    const mode = modeOf(step);
    const laid: Step = { ...step, strength: 1, mask: null, mix: mode === 'normal' ? step.mix : 'normal' };
    return {
      type: 'picture',
      steps: [step],
      mode,
      opacity: step.strength,
      colours: after(before, [laid], apart),
      cover: step.mask === null ? null : after(before, [{ ...step, alone: true }], apart),
    };
  };

  const first = items.findIndex(isLayered);
  const base = first < 0 ? items.length : first;
  const above: Layer[] = [];
  let count = items.slice(0, base).flatMap(stepsOf).length;
  if (count > 0) above.push(whole(count, steps.slice(0, count)));
  for (const item of items.slice(base)) {
    const own = stepsOf(item);
    if (isLayered(item)) {
      if (isTogether(item)) {
        const { group } = own[0];
        const within = own.map((step, k) => single(step, count + k, group));
        // What lies beneath, once more, so that what it is put together with is in the group.
        above.push({
          type: 'group',
          steps: own,
          opacity: item.strength,
          layers: [whole(count, []), ...within],
        });
      } else above.push(single(own[0], count));
    } else {
      // It covers all: what lies directly beneath and does as well is in it.
      const last = above.at(-1);
      const joins =
        last?.type === 'picture' && last.cover === null && last.opacity === 1 && last.mode === 'normal';
      const before = joins && above.length > (base > 0 ? 1 : 0) ? above.pop()!.steps : [];
      above.push(whole(count + own.length, [...before, ...own]));
    }
    count += own.length;
  }
  const strength = above.length ? treatment.strength : 1;
  // What is laid on in part covers all by itself: where nothing of it does, the photograph is its lowest.
  if (strength < 1 && base === 0) above.unshift(whole(0, []));
  return { bare: whole(0, []), strength, above };
}
