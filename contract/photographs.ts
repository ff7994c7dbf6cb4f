import { z } from 'zod';
import { byId, idList } from './common';
import { LONGEST_EDGE, MOST_FOUND, TILE } from './limits';
import { declare } from './route';
import { takeSummary } from './takes';

/** Photographs: imported files, never changed. */

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
  /** What is wrong with the data of the file, in words; null where nothing is. */
  damage: z.string().nullable(),
  /** What of the file it is, in words; null where it is all. */
  part: z.string().nullable(),
  /** When it was taken, by its camera's clock, as `2026-05-03T14:22:01`. */
  taken: z.string().nullable(),
  /** What it was taken with, and by whom, as the file says. */
  camera: z.string().nullable(),
  author: z.string().nullable(),
  caption: z.string(),
  currentTakeId: z.uuid(),
  takes: z.array(takeSummary),
});
export type Photograph = z.infer<typeof photographView>;

export const bringInPhotograph = declare({
  method: 'post',
  path: '/api/series/:id/photographs',
  summary: 'Brings in one picture file. 409 where the series has it already, unless it is wanted again.',
  params: byId,
  query: z.strictObject({ again: z.literal('1').optional() }),
  takes: 'multipart/form-data',
  answer: photographView,
});

export const getPhotograph = declare({
  method: 'get',
  path: '/api/photographs/:id',
  summary: 'A photograph with its takes.',
  params: byId,
  answer: photographView,
});

export const changePhotograph = declare({
  method: 'patch',
  path: '/api/photographs/:id',
  summary:
    'Changes the title, the caption, the take that stands for the photograph, or the order of its takes (every id once).',
  params: byId,
  body: z.strictObject({
    title: z.string().trim().min(1).max(200).optional(),
    caption: z.string().trim().max(2000).optional(),
    currentTakeId: z.uuid().optional(),
    takes: idList(1000).min(1).optional(),
  }),
  answer: photographView,
});

export const removePhotograph = declare({
  method: 'delete',
  path: '/api/photographs/:id',
  summary: 'Takes a photograph out of its series. It can be put back.',
  params: byId,
});

export const restorePhotograph = declare({
  method: 'post',
  path: '/api/photographs/:id/restore',
  summary: 'Puts a photograph back into its series.',
  params: byId,
  answer: photographView,
});

export const getOriginal = declare({
  method: 'get',
  path: '/api/photographs/:id/original',
  summary: 'The file as it was brought in, byte for byte.',
  params: byId,
  gives: 'application/octet-stream',
});

export const getPixels = declare({
  method: 'get',
  path: '/api/photographs/:id/pixels/:longEdge/:column/:row',
  summary: `A tile of ${TILE} pixels a side at a long edge: 16-bit little-endian RGB, sRGB-encoded.`,
  params: z.strictObject({
    id: z.uuid(),
    longEdge: z.coerce.number().int().min(16).max(LONGEST_EDGE),
    column: z.coerce.number().int().min(0).max(1000),
    row: z.coerce.number().int().min(0).max(1000),
  }),
  gives: 'application/octet-stream',
});

export const getFound = declare({
  method: 'post',
  path: '/api/photographs/:id/found',
  summary:
    'What areas have found in a photograph, by name: for each name its length (32-bit little-endian) and so many bytes of gzip; 0 where it is not known.',
  params: byId,
  body: z.strictObject({ names: z.array(z.string().regex(/^[0-9a-f]{64}$/)).max(MOST_FOUND) }),
  gives: 'application/octet-stream',
});
