import { createStore, type StoreApi } from 'zustand';
import type { AreaShown } from '../../core/treatment/areas';

/** What is in the hand to work on an area, and how the area is shown. */

export type AreaTool = 'brush' | 'edges' | 'finder' | 'linear' | 'oval' | 'tones' | 'hues';

export interface Brush {
  /** Radius as a fraction of the photograph's long edge. */
  radius: number;
  hardness: number;
  flow: number;
  /** How strictly the brush that keeps to edges does so, 0..1. */
  keepEdges: number;
  /** Radius of the finder's rough strokes, a fraction of the long edge. */
  rough: number;
}

export interface PaintingState {
  tool: AreaTool;
  brush: Brush;
  /** Takes away instead of adding; a held Alt turns it about. */
  taking: boolean;
  /** The finder's first stroke goes around a thing. */
  around: boolean;
  shown: AreaShown;
  film: string;
  /** What has no colour steps back, so that leftovers of colour are seen. */
  colouredMarked: boolean;
  /** Where the last stroke ended, and in which area: straight lines go on from there. */
  ended: { area: string; point: [number, number, number] } | null;
}

export type PaintingStore = StoreApi<PaintingState>;

/** Limits of the radius, and how much a key changes it. */
export const RADIUS = { least: 0.0008, most: 0.2, factor: 1.15 };
export const ROUGH = { least: 0.002, most: 0.03 };
const clampRough = (radius: number) => Math.min(ROUGH.most, Math.max(ROUGH.least, radius));

/** Tools that paint with a brush. */
export const isBrush = (tool: AreaTool): boolean => tool === 'brush' || tool === 'edges';
const clampRadius = (radius: number) => Math.min(RADIUS.most, Math.max(RADIUS.least, radius));

export const createPainting = (): PaintingStore =>
  createStore<PaintingState>(() => ({
    tool: 'brush',
    brush: { radius: 0.03, hardness: 0.5, flow: 1, keepEdges: 0.6, rough: 0.008 },
    taking: false,
    around: false,
    shown: 'off',
    film: '#22c9a8',
    colouredMarked: false,
    ended: null,
  }));

/** What is in the hand grows or shrinks: the brush, or the finder's stroke. */
export function resizeBrush(store: PaintingStore, by: number): void {
  store.setState(({ tool, brush }) => {
    const { radius, rough } = brush;
    const sized =
      tool === 'finder' ? { rough: clampRough(rough * by) } : { radius: clampRadius(radius * by) };
    return { brush: { ...brush, ...sized } };
  });
}

export const turnTaking = (store: PaintingStore): void =>
  store.setState(({ taking }) => ({ taking: !taking }));
