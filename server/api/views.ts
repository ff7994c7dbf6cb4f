import { z } from 'zod';
import type { Photograph, Series } from '../data/models';
import type { PictureFacts } from '../pictures/inspect';
import type { PictureSource } from '../pictures/store';
import { sendOutSettings } from '../pictures/encode';

/** What clients get, as schemas, and how rows become it. */

export const takeSummary = z.object({
  id: z.uuid(),
  letter: z.string(),
  name: z.string(),
  revision: z.int(),
  /** Kinds of the steps that are on, in order. */
  steps: z.array(z.string()),
});

export const photographView = z.object({
  id: z.uuid(),
  seriesId: z.uuid(),
  title: z.string(),
  fileName: z.string(),
  sha256: z.string(),
  mediaType: z.string(),
  width: z.int(),
  height: z.int(),
  bits: z.int(),
  grey: z.boolean(),
  profile: z.string().nullable(),
  currentTakeId: z.uuid(),
  takes: z.array(takeSummary),
});
export type PhotographView = z.infer<typeof photographView>;

export const seriesSummary = z.object({
  id: z.uuid(),
  title: z.string(),
  caption: z.string(),
  touchedAt: z.iso.datetime(),
  photographs: z.int(),
  treated: z.int(),
  /** The current takes of the cover and of up to two more photographs. */
  stack: z.array(z.object({ takeId: z.uuid(), revision: z.int(), width: z.int(), height: z.int() })),
  last: z.object({ photographId: z.uuid(), title: z.string() }).nullable(),
});

export const seriesView = z.object({
  id: z.uuid(),
  title: z.string(),
  caption: z.string(),
  coverId: z.uuid().nullable(),
  photographs: z.array(photographView),
});

export const treatmentView = z.looseObject({ format: z.string(), version: z.int() });

export const takeView = z.object({
  id: z.uuid(),
  photographId: z.uuid(),
  letter: z.string(),
  name: z.string(),
  revision: z.int(),
  treatment: treatmentView,
  undo: z.string().nullable(),
  redo: z.string().nullable(),
});

export const sendOutView = z.object({
  id: z.uuid(),
  takeId: z.uuid(),
  photographId: z.uuid(),
  revision: z.int(),
  title: z.string(),
  letter: z.string(),
  fileName: z.string(),
  settings: sendOutSettings,
  state: z.enum(['waiting', 'running', 'done', 'failed', 'stopped']),
  progress: z.number(),
  problem: z.string().nullable(),
  size: z.number().nullable(),
});

/** The facts of a photograph's picture, as the picture store wants them. */
export function sourceOf(photograph: Photograph): PictureSource {
  const { sha256, width, height, bits, grey, profile, mediaType } = photograph;
  return {
    sha256,
    width,
    height,
    bits,
    grey,
    profile,
    mediaType: mediaType as PictureFacts['mediaType'],
  };
}

export const touch = (series: Series) => series.update({ touchedAt: new Date() });
