import { z } from 'zod';
import { byId, idList } from './common';
import { LONGEST_EDGE } from './limits';
import { declare } from './route';

/** What goes out of a series as files. */

const profileNames = ['srgb', 'display-p3', 'wide', 'grey', 'grey-gamma'] as const;
export const profileName = z.enum(profileNames);
export type ProfileName = (typeof profileNames)[number];

const bits = z.union([z.literal(8), z.literal(10), z.literal(16)]);
export type Bits = z.infer<typeof bits>;
const packing = z.enum(['none', 'deflate', 'lzw']);
export type Packing = z.infer<typeof packing>;

/** A file format, as a client needs to know it to offer it. */
const formatView = z.object({
  name: z.string(),
  ending: z.string(),
  mediaType: z.string(),
  bits: z.array(bits),
  profiles: z.array(profileName),
  /** It has a quality, 1..100. */
  quality: z.boolean(),
  /** Colour can be written at half the size. */
  chroma: z.boolean(),
  /** It can be written so that it shows coarsely before all of it has come. */
  progressive: z.boolean(),
  /** Ways in which it is packed without loss; none where there is no choice. */
  packings: z.array(packing),
  /** It holds the steps as layers, and tells nothing beside its pixels. */
  layers: z.boolean(),
});
export type FormatView = z.infer<typeof formatView>;

const pixels = z.int().min(16).max(LONGEST_EDGE);

/** How large a file is, never enlarged: pixels of an edge, megapixels, or a print's long edge at the dots per inch. */
const sizeSchema = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('full') }),
  z.strictObject({ by: z.literal('long-edge'), pixels }),
  z.strictObject({ by: z.literal('short-edge'), pixels }),
  z.strictObject({ by: z.literal('megapixels'), megapixels: z.number().min(0.01).max(400) }),
  z.strictObject({
    by: z.literal('print'),
    length: z.number().min(0.5).max(1000),
    unit: z.enum(['cm', 'inch']),
  }),
]);

/** What a file is sharpened for. */
const purpose = z.enum(['none', 'screen', 'matte', 'glossy']);

/** What a file's name is put together from. */
const namePart = z.enum(['series', 'number', 'title', 'take', 'date', 'original']);
export type NamePart = z.infer<typeof namePart>;

/** Whose picture it is. */
export const credits = z.strictObject({
  author: z.string().trim().max(200).default(''),
  rights: z.string().trim().max(500).default(''),
});
export type Credits = z.infer<typeof credits>;

export const sendOutSettings = z.strictObject({
  format: z.string().default('jpeg'),
  bits: bits.default(8),
  profile: profileName.default('srgb'),
  /** Only for formats that have one. */
  quality: z.int().min(1).max(100).default(90),
  /** Colour at the full size, or at half of it. */
  chroma: z.enum(['kept', 'halved']).default('kept'),
  progressive: z.boolean().default(false),
  packing: packing.default('lzw'),
  size: sizeSchema.default({ by: 'full' }),
  /** The resolution that is written, dots per inch; a print of a given length has at most so many. */
  dpi: z.int().min(36).max(2400).default(300),
  sharpen: z
    .strictObject({ purpose: purpose.default('none'), amount: z.number().min(0).max(1).default(0.35) })
    .default({ purpose: 'none', amount: 0.35 }),
  /** About the picture, outside its size: a share of its long edge; white, or paper as the treatment tones it. */
  border: z
    .strictObject({
      width: z.number().min(0).max(0.25).default(0),
      colour: z.enum(['white', 'paper']).default('white'),
      /** A line beneath the picture: its title, and whose it is. */
      caption: z.boolean().default(false),
    })
    .default({ width: 0, colour: 'white', caption: false }),
  names: z.array(namePart).min(1).max(6).default(['series', 'number', 'title', 'take']),
  /** What a file tells beside its pixels: all that the original does, author and rights, or nothing. */
  metadata: z.enum(['all', 'rights', 'none']).default('rights'),
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
  state: z.enum(['waiting', 'paused', 'running', 'done', 'failed', 'stopped']),
  progress: z.number(),
  problem: z.string().nullable(),
  /** What a finished one says of itself: how exact its layers are. */
  note: z.string().nullable(),
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

export const pauseSendOuts = declare({
  method: 'post',
  path: '/api/series/:id/send-outs/pause',
  summary: 'Holds what waits to go out of a series; what runs is finished.',
  params: byId,
  answer: z.array(sendOutView),
});

export const resumeSendOuts = declare({
  method: 'post',
  path: '/api/series/:id/send-outs/resume',
  summary: 'Lets what was held go out.',
  params: byId,
  answer: z.array(sendOutView),
});

export const clearSendOuts = declare({
  method: 'post',
  path: '/api/series/:id/send-outs/clear',
  summary: 'Clears all that is done, and all that was stopped, from the list; what failed stays.',
  params: byId,
});

export const getSentFiles = declare({
  method: 'get',
  path: '/api/series/:id/sent-files',
  summary: 'All finished files of a series in one zip, in the order of the list.',
  params: byId,
  gives: 'application/zip',
});

export const getCredits = declare({
  method: 'get',
  path: '/api/credits',
  summary: 'Author and rights, as they are written into files.',
  answer: credits,
});

export const setCredits = declare({
  method: 'put',
  path: '/api/credits',
  summary: 'Sets author and rights, for all files from now on.',
  body: credits,
  answer: credits,
});

const keptName = z.string().trim().min(1).max(60);
const keptSettingsView = z.object({ id: z.uuid(), name: z.string(), settings: sendOutSettings });
export type KeptSettings = z.infer<typeof keptSettingsView>;

export const listKeptSettings = declare({
  method: 'get',
  path: '/api/send-out-settings',
  summary: 'Settings kept under names, by their names.',
  answer: z.array(keptSettingsView),
});

export const keepSettings = declare({
  method: 'post',
  path: '/api/send-out-settings',
  summary: 'Keeps settings under a name, in place of what was kept under it.',
  body: z.strictObject({ name: keptName, settings: sendOutSettings }),
  answer: keptSettingsView,
});

export const removeKeptSettings = declare({
  method: 'delete',
  path: '/api/send-out-settings/:id',
  summary: 'Forgets settings kept under a name.',
  params: byId,
});

export const retrySendOut = declare({
  method: 'post',
  path: '/api/send-outs/:id/retry',
  summary: 'Tries a failed or stopped one again.',
  params: byId,
  answer: sendOutView,
});

export const getOutputPart = declare({
  method: 'post',
  path: '/api/takes/:id/output-part',
  summary: 'A part of a take as it will go out, pixel for pixel, in sRGB without its border.',
  params: byId,
  body: z.strictObject({
    settings: sendOutSettings,
    /** The middle of the part, fractions of the picture. */
    x: z.number().min(0).max(1),
    y: z.number().min(0).max(1),
    width: z.int().min(16).max(1200),
    height: z.int().min(16).max(1200),
  }),
  gives: 'image/png',
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
