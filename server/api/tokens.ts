import { endToken, giveToken, listTokens } from '../../contract/tokens';
import type { SignIns } from '../data/sign-ins';
import { notFound, Problem } from './problem';
import { implement, type Implemented } from './route';

/** The routes of tokens; without a passphrase there are none, and nobody needs one. */
export function tokenRoutes(signIns: SignIns | null): Implemented[] {
  return [
    implement(listTokens, async () => (signIns ? signIns.tokens() : [])),
    implement(giveToken, async ({ body }) => {
      if (!signIns) throw new Problem(409, 'No passphrase is set: programs are let in without a token.');
      return signIns.giveToken(body.name);
    }),
    implement(endToken, async ({ params }) => {
      if (!(await signIns?.endToken(params.id))) throw notFound('token');
    }),
  ];
}
