import {
  bakeTables,
  checkBytes,
  lookAtWhole,
  renderBand,
  type Bake,
  type Band,
  type Check,
  type Look,
} from './band';

/** What a render thread runs: bands of pictures, what is done once for all of them, and the reading of what came in. */
export default (task: Band | Bake | Look | Check) => {
  if ('bake' in task) return bakeTables(task);
  if ('check' in task) return checkBytes(task);
  return 'look' in task ? lookAtWhole(task) : renderBand(task);
};
