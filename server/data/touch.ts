import type { Transaction } from 'sequelize';
import { Photograph, Series } from './models';

/** When a series was worked on last: whatever changes it, or a photograph in it, says so. The shelf is in this order. */
export async function touchSeries(id: string, transaction?: Transaction): Promise<void> {
  await Series.update({ touchedAt: new Date() }, { where: { id }, transaction });
}

/** The same of the series that a photograph is in. */
export async function touchSeriesOf(photographId: string, transaction?: Transaction): Promise<void> {
  const photograph = await Photograph.findByPk(photographId, { attributes: ['seriesId'], transaction });
  if (photograph) await touchSeries(photograph.seriesId, transaction);
}
