import { memo, type ReactNode } from 'react';
import { stepKind } from '../../../core/steps';
import type { Face } from '../../../core/steps/define';
import type { Step, Treatment } from '../../../core/treatment/treatment';
import type { PictureInfo } from '../../engine/tiles';
import { SmallPicture } from '../../print/SmallPicture';
import { BASIN } from '../trays';
import { AreaFace } from './AreaFace';
import { CornersFace } from './CornersFace';
import { CurveFace } from './CurveFace';
import { DishFace } from './DishFace';
import { EdgesFace } from './EdgesFace';
import { GlowFace } from './GlowFace';
import { GrainFace } from './GrainFace';
import { HuesFace } from './HuesFace';
import { RampFace } from './RampFace';
import { TextureFace } from './TextureFace';

/** What a tray shows: its step, drawn from the settings. */

const faceOf = (step: Step): Face => stepKind(step.kind)!.face ?? 'picture';

const drawn: Record<Exclude<Face, 'area' | 'picture'>, (props: { step: Step }) => ReactNode> = {
  curve: CurveFace,
  hues: HuesFace,
  ramp: RampFace,
  dish: DishFace,
  corners: CornersFace,
  grain: GrainFace,
  glow: GlowFace,
  edges: EdgesFace,
  texture: TextureFace,
};

/** A step, drawn from its settings and the area that it lies on. */
export const StepFace = memo(
  function StepFace({ step, picture, upTo }: { step: Step; picture: PictureInfo; upTo: Treatment }) {
    const face = faceOf(step);
    if (face === 'picture') return <SmallPicture picture={picture} treatment={upTo} {...BASIN} />;
    if (face === 'area') return <AreaFace step={step} picture={picture} upTo={upTo} />;
    const Drawn = drawn[face];
    return <Drawn step={step} />;
  },
  (before, after) => {
    const face = faceOf(after.step);
    if (before.step.kind !== after.step.kind || before.step.settings !== after.step.settings) return false;
    if (face === 'picture') return before.upTo === after.upTo && before.picture === after.picture;
    return (
      face !== 'area' ||
      (before.step.mask === after.step.mask &&
        before.upTo.masks === after.upTo.masks &&
        before.upTo.frame === after.upTo.frame)
    );
  },
);
