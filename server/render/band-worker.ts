import {
  bakeTables,
  checkBytes,
  halveBand,
  lookAtWhole,
  markBand,
  measureSmall,
  renderBand,
  takeUp,
  type Bake,
  type Band,
  type Check,
  type Halve,
  type Look,
  type Mark,
  type Measure,
} from './band';
import { onLayers, type OnLayers } from './layer-tasks';
import type { Decode, Inspect } from './picture-tasks';
import type { Tabulate } from './table-task';
import { readBody, type ReadBody } from './read-treatment';

/** What a render thread runs: bands of pictures, what is done once for all of them, and the reading of what came in. */
export default (
  task:
    Band | Bake | Look | Mark | Measure | Halve | Check | Decode | Inspect | ReadBody | Tabulate | OnLayers,
) => {
  if ('readBody' in task) return readBody(task);
  if ('bake' in task) return bakeTables(task);
  if ('check' in task) return checkBytes(task);
  if ('tabulate' in task) {
    takeUp(task.tabulate.held);
    return import('./table-task').then(({ tabulate }) => tabulate(task.tabulate));
  }
  if ('inspect' in task) return import('./picture-tasks').then(({ inspected }) => inspected(task));
  if ('decode' in task) return import('./picture-tasks').then(({ decodeWhole }) => decodeWhole(task));
  if ('onLayers' in task) return onLayers(task);
  if ('halve' in task) return halveBand(task);
  if ('mark' in task) return markBand(task);
  if ('measure' in task) return measureSmall(task);
  return 'look' in task ? lookAtWhole(task) : renderBand(task);
};
