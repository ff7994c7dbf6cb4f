import { z } from 'zod';
import { pigmentSchema } from '../../core/settings/schema';
import { KeptPigment } from '../data/models';
import { notFound } from './problem';
import { route } from './route';

const name = z.string().trim().min(1).max(60);
const byId = z.strictObject({ id: z.uuid() });
const answer = z.object({ id: z.uuid(), name: z.string(), pigment: z.unknown() });

const view = ({ id, name, pigment }: KeptPigment) => ({ id, name, pigment });

/** The pigment box: kept, named, removed. */
export function pigmentRoutes() {
  return [
    route({
      method: 'get',
      path: '/api/pigments',
      summary: 'All kept pigments, in the order in which they came.',
      answer: z.array(answer),
      handle: async () => {
        const all = await KeptPigment.findAll({ where: { deletedAt: null }, order: ['createdAt', 'id'] });
        return all.map(view);
      },
    }),
    route({
      method: 'post',
      path: '/api/pigments',
      summary: 'Keeps pigments: all of them, or none where one is not valid.',
      body: z.strictObject({
        pigments: z
          .array(z.strictObject({ name, pigment: pigmentSchema }))
          .min(1)
          .max(500),
      }),
      answer: z.array(answer),
      handle: async ({ body }) => {
        const now = Date.now();
        const rows = body.pigments.map((p, i) => ({ ...p, createdAt: new Date(now + i) }));
        return (await KeptPigment.bulkCreate(rows)).map(view);
      },
    }),
    route({
      method: 'patch',
      path: '/api/pigments/:id',
      summary: 'Names a pigment.',
      params: byId,
      body: z.strictObject({ name }),
      answer,
      handle: async ({ params, body }) => {
        const pigment = await KeptPigment.findOne({ where: { id: params.id, deletedAt: null } });
        if (!pigment) throw notFound('pigment');
        return view(await pigment.update(body));
      },
    }),
    route({
      method: 'delete',
      path: '/api/pigments/:id',
      summary: 'Takes a pigment out of the box. Washes that use it keep their colour.',
      params: byId,
      handle: async ({ params }) => {
        const pigment = await KeptPigment.findOne({ where: { id: params.id, deletedAt: null } });
        if (!pigment) throw notFound('pigment');
        await pigment.update({ deletedAt: new Date() });
      },
    }),
    route({
      method: 'post',
      path: '/api/pigments/:id/restore',
      summary: 'Brings a pigment back into the box.',
      params: byId,
      answer,
      handle: async ({ params }) => {
        const pigment = await KeptPigment.findByPk(params.id);
        if (!pigment) throw notFound('pigment');
        return view(await pigment.update({ deletedAt: null }));
      },
    }),
  ];
}
