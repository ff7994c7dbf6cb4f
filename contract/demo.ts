import { z } from 'zod';
import { declare } from './route';

/** The demo: series that ship with the application, to try things on. */

const demoView = z.object({
  /** What of it is on the shelf. */
  series: z.array(z.object({ id: z.uuid(), title: z.string() })),
});
export type DemoOnShelf = z.infer<typeof demoView>;

export const getDemo = declare({
  method: 'get',
  path: '/api/demo',
  summary: 'The series of the demo that are on the shelf.',
  answer: demoView,
});

export const layOutDemo = declare({
  method: 'post',
  path: '/api/demo',
  summary: 'Lays out the demo as it was at first, if none of it is on the shelf.',
  answer: demoView,
});

export const takeOffDemo = declare({
  method: 'delete',
  path: '/api/demo',
  summary: 'Takes all series of the demo off the shelf; they can be brought back from what is put aside.',
  answer: demoView,
});

export const getDemoPhotograph = declare({
  method: 'get',
  path: '/api/demo/photograph',
  summary: 'A photograph to begin with, as its file.',
  gives: 'image/jpeg',
});
