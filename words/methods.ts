import { methodSchema, type Method } from '../core/methods/schema';
import shared from './methods/shared-pages.json' with { type: 'json' };
import colourLeft from './methods/colour-left.json' with { type: 'json' };
import darkroomSepia from './methods/darkroom-sepia.json' with { type: 'json' };
import evenSeries from './methods/even-series.json' with { type: 'json' };
import fadedPrint from './methods/faded-print.json' with { type: 'json' };
import fiveConversions from './methods/five-conversions.json' with { type: 'json' };
import handTint from './methods/hand-tint.json' with { type: 'json' };
import mattePrint from './methods/matte-print.json' with { type: 'json' };
import recolourScan from './methods/recolour-scan.json' with { type: 'json' };
import seleniumGold from './methods/selenium-gold.json' with { type: 'json' };
import splitAndPaper from './methods/split-and-paper.json' with { type: 'json' };

/** The methods that there are, in the order in which they are offered. Another one is a file and two lines here. */

const files = [
  fiveConversions,
  mattePrint,
  darkroomSepia,
  splitAndPaper,
  seleniumGold,
  handTint,
  colourLeft,
  fadedPrint,
  recolourScan,
  evenSeries,
];

const pages: Record<string, unknown> = shared;

/** A page that several methods have stands in them by its name. */
export const methods: readonly Method[] = files.map(file =>
  methodSchema.parse({
    ...file,
    pages: file.pages.map(page => (typeof page === 'string' ? pages[page] : page)),
  }),
);
