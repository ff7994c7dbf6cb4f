/** The hot loops over pixels in AssemblyScript: `npm run assemble` compiles them to WebAssembly with vectors. */

export { readCodes16, readCodes8, spreadGrey, toCodes, write8 } from './codes';
export { addGrain } from './grain';
export { readColours16, readColours8, readGreys16, readGreys8 } from './grid';
export { readRamp, throughRamp, writeRamp8 } from './ramp';
export { dim } from './shade';
