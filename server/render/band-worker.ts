import { bakeTables, lookAtWhole, renderBand, type Bake, type Band, type Look } from './band';

/** What a render thread runs: bands of pictures, and what is done once for all of them. */
export default (task: Band | Bake | Look) => {
  if ('bake' in task) return bakeTables(task);
  return 'look' in task ? lookAtWhole(task) : renderBand(task);
};
