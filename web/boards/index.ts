import type { ComponentType } from 'react';
import type { Kind } from '../../core/steps';
import type { Step, Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import { MonoBoard } from './MonoBoard';

export interface BoardProps {
  picture: PictureInfo;
  treatment: Treatment;
  step: Step;
  onChoose: (settings: Step['settings'], name: string) => void;
  onClose: () => void;
}

/** Choices of a step laid side by side on the picture, and what the way to them is called. */
interface Board {
  name: string;
  Show: ComponentType<BoardProps>;
}

/** The boards, by the kinds of steps that have one. */
export const boards: Partial<Record<Kind, Board>> = {
  mono: { name: 'All conversions', Show: MonoBoard },
};
