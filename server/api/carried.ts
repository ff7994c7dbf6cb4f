import type { Request } from 'express';
import { getCarried, putCarried } from '../../contract/carried';
import { MOST_CARRIED_BYTES } from '../../core/formats/carried';
import { sha256Of } from '../data/blobs';
import { carriedBytes, keepCarried } from '../data/carried';
import type { Services } from '../services';
import { notFound, Problem } from './problem';
import { implement } from './route';

/** The bytes of a request, up to a number of them. */
async function bodyOf(req: Request, most: number): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of req as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > most)
      throw new Problem(413, `Tables and pictures of areas have up to ${most / 1024 ** 2} MB.`);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** What treatments carry: taken in by its hash once it has been read, and given out. */
export function carriedRoutes({ sequelize, renderer }: Services) {
  return [
    implement(putCarried, async ({ params: { kind, sha256 } }, req) => {
      const bytes = await bodyOf(req, MOST_CARRIED_BYTES);
      if ((await sha256Of(bytes)) !== sha256) {
        throw new Problem(
          400,
          'What arrived has another hash.',
          'It may have been cut short: send it again.',
        );
      }
      const problem = await renderer.check(kind, bytes);
      if (problem !== null) {
        throw new Problem(
          422,
          kind === 'table' ? 'Not a colour table.' : 'Not a picture of an area.',
          problem,
        );
      }
      await keepCarried(sequelize, kind, sha256, bytes);
      return { sha256, size: bytes.length };
    }),
    implement(getCarried, async ({ params }, _req, res) => {
      const bytes = await carriedBytes(sequelize, params.sha256);
      if (!bytes) throw notFound('table or picture');
      res.set('Cache-Control', 'private, max-age=31536000, immutable');
      res.type('application/octet-stream').send(bytes);
    }),
  ];
}
