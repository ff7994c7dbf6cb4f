import sharp from 'sharp';

/**
 * The picture library reads only what is named here, whatever a file says that it is: every other loader is shut in the whole
 * process. Drawings are our own, from memory (borders, sheets).
 */
const OPEN = ['Jpeg', 'Png', 'Tiff', 'Webp', 'Nsgif', 'Heif'].flatMap(name => [
  `VipsForeignLoad${name}File`,
  `VipsForeignLoad${name}Buffer`,
]);

sharp.block({ operation: ['VipsForeignLoad'] });
sharp.unblock({ operation: [...OPEN, 'VipsForeignLoadSvgBuffer'] });
