/** The hot loops over pixels in AssemblyScript: `npm run assemble` compiles them to WebAssembly with vectors. */

export { addDetail, blurLine, blurRows, lumas } from './blur';
export { readCodes16, readCodes8, spreadGrey, toCodes, write8 } from './codes';
export { drawTo, heard, likeness, steepen, weigh } from './evidence';
export { addGrain, along, columns, grains, strewn } from './grain';
export { readColours16, readColours8, readGreys16, readGreys8 } from './grid';
export { halve16, halve8 } from './halve';
export { blend, calm, reweigh } from './lines';
export { mark16, mark8 } from './mark';
export { boxMean, colourLines } from './mean';
export { mixColour } from './mix';
export { readRamp, throughRamp, writeRamp8 } from './ramp';
export { rollRound } from './roll';
export { dim } from './shade';
export {
  addScaled,
  addTo,
  diagonals,
  gather,
  products,
  scatter,
  spreadRest,
  spreadStep,
  sumOfProducts,
  weightedSquares,
} from './spread';
export { sweepWay } from './way';
