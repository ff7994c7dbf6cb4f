import type { MaskPart } from './parts';

/** A named area of a treatment, made of parts that apply in order. */
export interface Mask {
  id: string;
  name: string;
  invert: boolean;
  /** A fraction of the long edge, as `grow` is. */
  feather: number;
  /** Positive grows, negative shrinks. */
  grow: number;
  /** How far the edge is drawn to the edges in the photograph, 0..1. */
  refine: number;
  /** How wide a band to each side of the edge is found anew in the photograph. */
  fine: number;
  /** How far inside the edge it is decided what a step makes of the colours at the edge. */
  fringe: number;
  parts: MaskPart[];
}

/** A mask that covers nothing yet. */
export const emptyMask = (id: string, name: string): Mask => ({
  id,
  name,
  invert: false,
  feather: 0,
  grow: 0,
  refine: 0,
  fine: 0,
  fringe: 0,
  parts: [],
});

/** A mask of a treatment by its id, which the treatment's reading has made sure of. */
export const byId = (masks: readonly Mask[], id: string): Mask => masks.find(m => m.id === id)!;
