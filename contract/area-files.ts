import { z } from 'zod';
import { byId, idList } from './common';
import { declare } from './route';

/** Areas as pictures. */

export const getAreaFiles = declare({
  method: 'post',
  path: '/api/series/:id/area-files',
  summary:
    'The areas of takes as grey PNGs over the whole photograph, white where they cover: one as it is, several as a zip with their names.',
  params: byId,
  body: z.strictObject({ takes: idList(500).min(1) }),
  gives: 'image/png',
});
