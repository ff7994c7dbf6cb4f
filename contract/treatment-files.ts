import { z } from 'zod';
import { byId, idList } from './common';
import { declare } from './route';

/** Treatments as files, with all that they carry in full. */

export const getTreatmentFiles = declare({
  method: 'post',
  path: '/api/series/:id/treatment-files',
  summary: 'Treatments of takes as .treatment.json: one as it is, several as a zip.',
  params: byId,
  body: z.strictObject({ takes: idList(500).min(1) }),
  gives: 'application/json',
});
