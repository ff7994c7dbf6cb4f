import {
  bakeTables,
  checkBytes,
  decodeWhole,
  lookAtWhole,
  renderBand,
  resizeWhole,
  type Bake,
  type Band,
  type Check,
  type Decode,
  type Look,
  type Resize,
} from './band';
import { readBody, type ReadBody } from './read-treatment';

/** What a render thread runs: bands of pictures, what is done once for all of them, and the reading of what came in. */
export default (task: Band | Bake | Look | Check | Decode | Resize | ReadBody) => {
  if ('readBody' in task) return readBody(task);
  if ('bake' in task) return bakeTables(task);
  if ('check' in task) return checkBytes(task);
  if ('decode' in task) return decodeWhole(task);
  if ('resize' in task) return resizeWhole(task);
  return 'look' in task ? lookAtWhole(task) : renderBand(task);
};
