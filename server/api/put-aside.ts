import * as contract from '../../contract/put-aside';
import { listPutAside, removeForGood } from '../data/put-aside';
import { sweep } from '../jobs/sweep';
import type { Services } from '../services';
import { notFound } from './problem';
import { implement } from './route';

/** What is put aside: shown, and removed for good by hand. Its bytes go at the next sweep, which is asked for at once. */
export function putAsideRoutes(services: Services) {
  const { sequelize, log } = services;
  return [
    implement(contract.listPutAside, () => listPutAside(sequelize)),
    implement(contract.removeForGood, async ({ params: { kind, id } }) => {
      if (!(await removeForGood(sequelize, kind, id))) throw notFound('thing put aside');
      sweep(services).catch(error => log.warn({ err: error }, 'not swept'));
    }),
  ];
}
