import { z } from 'zod';
import { byId, idList } from './common';
import { LONGEST_EDGE } from './limits';
import { declare } from './route';

/** What goes out of a series as files. */

const profileNames = ['srgb', 'display-p3', 'grey'] as const;
export type ProfileName = (typeof profileNames)[number];

/** A file format, as a client needs to know it to offer it. */
const formatView = z.object({
  name: z.string(),
  ending: z.string(),
  mediaType: z.string(),
  bits: z.array(z.union([z.literal(8), z.literal(16)])),
  profiles: z.array(z.enum(profileNames)),
  /** It has a quality, 1..100. */
  quality: z.boolean(),
});
export type FormatView = z.infer<typeof formatView>;

export const sendOutSettings = z.strictObject({
  format: z.string().default('jpeg'),
  bits: z.union([z.literal(8), z.literal(16)]).default(8),
  profile: z.enum(profileNames).default('srgb'),
  /** Only for formats that have one. */
  quality: z.int().min(1).max(100).default(90),
  /** The long edge in pixels, never enlarged; null is full size. */
  longEdge: z.int().min(16).max(LONGEST_EDGE).nullable().default(null),
});
export type SendOutSettings = z.infer<typeof sendOutSettings>;

const sendOutView = z.object({
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
export type SendOut = z.infer<typeof sendOutView>;

export const listFormats = declare({
  method: 'get',
  path: '/api/formats',
  summary: 'The file formats that takes can be sent out in, and what each can be.',
  answer: z.array(formatView),
});

export const listSendOuts = declare({
  method: 'get',
  path: '/api/send-outs',
  summary: 'What goes out of a series, the oldest first.',
  query: z.strictObject({ series: z.uuid() }),
  answer: z.array(sendOutView),
});

export const sendTakes = declare({
  method: 'post',
  path: '/api/send-outs',
  summary: 'Sends takes out as files, each as it is now.',
  body: z.strictObject({
    series: z.uuid(),
    takes: idList(1000).min(1),
    settings: sendOutSettings,
  }),
  answer: z.array(sendOutView),
});

export const retrySendOut = declare({
  method: 'post',
  path: '/api/send-outs/:id/retry',
  summary: 'Tries a failed or stopped one again.',
  params: byId,
  answer: sendOutView,
});

export const stopSendOut = declare({
  method: 'post',
  path: '/api/send-outs/:id/stop',
  summary: 'Stops one that waits or runs.',
  params: byId,
  answer: sendOutView,
});

export const clearSendOut = declare({
  method: 'delete',
  path: '/api/send-outs/:id',
  summary: 'Clears one that is over from the list.',
  params: byId,
});

export const getSentFile = declare({
  method: 'get',
  path: '/api/send-outs/:id/file',
  summary: 'The finished file.',
  params: byId,
  gives: 'application/octet-stream',
});
