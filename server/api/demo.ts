import { readFile } from 'node:fs/promises';
import { getDemo, getDemoPhotograph, layOutDemo, takeOffDemo, type DemoOnShelf } from '../../contract/demo';
import { Series } from '../data/models';
import { Problem } from './problem';
import { implement, type Implemented } from './route';

/** The demo as the server has it. */
export interface Demo {
  /** Lays all of it out anew. */
  layOut: () => Promise<void>;
  /** The path of a photograph to begin with, and what its file is called. */
  photograph: { path: string; name: string };
}

const NOT_HERE = new Problem(404, 'The demo does not ship with this server.');

async function onShelf(): Promise<DemoOnShelf> {
  const found = await Series.findAll({
    where: { demo: true, deletedAt: null },
    order: [['touchedAt', 'DESC']],
  });
  return { series: found.map(({ id, title }) => ({ id, title })) };
}

/** The routes of the demo; `demo` is null where it does not ship with the server. */
export function demoRoutes(demo: Demo | null): Implemented[] {
  /** While it is laid out whoever asks for it waits for the same. */
  let laying: Promise<void> | null = null;
  return [
    implement(getDemo, onShelf),
    implement(layOutDemo, async () => {
      if (!demo) throw NOT_HERE;
      if (!laying && (await onShelf()).series.length === 0) {
        laying ??= demo.layOut().finally(() => (laying = null));
      }
      await laying;
      return onShelf();
    }),
    implement(takeOffDemo, async () => {
      await Series.update({ deletedAt: new Date() }, { where: { demo: true, deletedAt: null } });
      return onShelf();
    }),
    implement(getDemoPhotograph, async (_input, _req, res) => {
      if (!demo) throw NOT_HERE;
      const { path, name } = demo.photograph;
      res.attachment(name).type('image/jpeg');
      res.send(await readFile(path));
    }),
  ];
}
