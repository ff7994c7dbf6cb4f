import { expose } from 'comlink';
import { mostChroma } from '../../core/colour/gamut';
import { areaPng, loupe } from './full';
import { attach, read, show, showStroke } from './screen';
import { advice, autoLight, autoResponse, colourAt, histogram, picture, tones } from './small';

/** What the interface asks of a worker: one draws the large picture, another makes small ones. */
const engine = {
  attach,
  show,
  showStroke,
  read,
  picture,
  tones,
  histogram,
  colourAt,
  advice,
  autoResponse,
  autoLight,
  loupe,
  areaPng,
};

export type Engine = typeof engine;
expose(engine);

// Tables that the first picture would otherwise wait for.
mostChroma(0.5, 0);
