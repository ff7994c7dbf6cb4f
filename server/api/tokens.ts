import { endSignIn, endToken, giveToken, listSignIns, listTokens } from '../../contract/tokens';
import type { SignIns } from '../data/sign-ins';
import { notFound, Problem } from './problem';
import { implement, type Implemented } from './route';
import { signInOf } from './sign-in';

/** The routes of who may come in; without a passphrase nobody needs any. */
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
    implement(listSignIns, async (_input, req) => (signIns ? signIns.signedIn(signInOf(req) ?? '') : [])),
    implement(endSignIn, async ({ params }) => {
      if (!(await signIns?.endSignIn(params.id))) throw notFound('browser');
    }),
  ];
}
