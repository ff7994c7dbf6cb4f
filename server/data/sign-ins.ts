import { createHash, randomBytes, randomUUID, scrypt, timingSafeEqual } from 'node:crypto';
import PQueue from 'p-queue';
import { QueryTypes, type Sequelize } from 'sequelize';
import type { SignIn, Token } from '../../contract/tokens';

/** The passphrase of a studio, and who has signed in with it. The passphrase itself is kept nowhere. */

/** Days after which somebody must sign in again. */
export const SIGNED_IN_DAYS = 30;
/** Days without use after which a browser is signed out, and a token ends. */
const UNUSED_DAYS = { browser: 14, token: 180 } as const;

const sha256 = (text: string | Buffer) => createHash('sha256').update(text).digest('hex');

/** scrypt (RFC 7914), r = 8, p = 1; with N = 2^17 about 128 MB. Source: OWASP Password Storage Cheat Sheet. */
const derivedWith = (N: number, passphrase: string, salt: Buffer) =>
  new Promise<Buffer>((resolve, reject) =>
    scrypt(passphrase.normalize('NFKC'), salt, 32, { N, r: 8, p: 1, maxmem: 256 * N * 8 }, (error, key) =>
      error ? reject(error) : resolve(key),
    ),
  );
/** Two at a time: whoever tries many passphrases has the memory of two. */
const turns = new PQueue({ concurrency: 2 });
const derived = (passphrase: string, salt: Buffer) => turns.add(() => derivedWith(2 ** 17, passphrase, salt));
/** As it was before the first of December 2026; what was given under it is taken over. */
const derivedBefore = (passphrase: string, salt: Buffer) => derivedWith(2 ** 15, passphrase, salt);

/** The salt that all servers of a database share, made by the first. */
async function saltOf(sequelize: Sequelize): Promise<Buffer> {
  await sequelize.query('INSERT INTO passphrase_salt (salt) VALUES ($1) ON CONFLICT DO NOTHING', {
    bind: [randomBytes(16)],
  });
  const [{ salt }] = await sequelize.query<{ salt: Buffer }>('SELECT salt FROM passphrase_salt', {
    type: QueryTypes.SELECT,
  });
  return salt;
}

/** Signing in and out under a passphrase. */
export interface SignIns {
  /** Gives a token where the passphrase is right; null where it is not. */
  signIn: (passphrase: string, browser?: string) => Promise<string | null>;
  /** Whether a token is one that was given under this passphrase, not too long ago, and not unused for long; its use is noted, to the hour. */
  isSignedIn: (token: string) => Promise<boolean>;
  signOut: (token: string) => Promise<void>;
  /** Who is signed in, the last used first; `own` is the token of who asks. */
  signedIn: (own: string) => Promise<SignIn[]>;
  /** Whether there was such a browser to sign out. */
  endSignIn: (id: string) => Promise<boolean>;
  /** The tokens of programs, the newest first. */
  tokens: () => Promise<Token[]>;
  /** Gives one out, which is told this once. */
  giveToken: (name: string) => Promise<Token & { token: string }>;
  /** Whether a program's token counts; that it was used is noted, to the hour. */
  isGiven: (token: string) => Promise<boolean>;
  /** Whether there was such a token to end. */
  endToken: (id: string) => Promise<boolean>;
}

/** A token that is not used for long ends. */
const isUsed = `coalesce(used_at, created_at) > now() - make_interval(days => ${UNUSED_DAYS.token})`;

/** How a program's token begins, so that it is known for one where it lies about. */
const PREFIX = 'lampwash_';

const COLUMNS = 'id, name, created_at AS "createdAt", used_at AS "usedAt"';
interface TokenRow {
  id: string;
  name: string;
  createdAt: Date;
  usedAt: Date | null;
}
interface TimesRow {
  createdAt: Date;
  usedAt: Date;
}
const viewOf = ({ createdAt, usedAt, ...of }: TokenRow): Token => ({
  ...of,
  createdAt: createdAt.toISOString(),
  usedAt: usedAt && usedAt.toISOString(),
});

/** Opens the book of those who have signed in. Tokens given under another passphrase count no more. */
export async function openSignIns(sequelize: Sequelize, passphrase: string): Promise<SignIns> {
  const salt = await saltOf(sequelize);
  const right = await derived(passphrase, salt);
  const under = sha256(right);
  const before = sha256(await derivedBefore(passphrase, salt));
  for (const table of ['sign_ins', 'tokens'])
    await sequelize.query(`UPDATE ${table} SET passphrase = $1 WHERE passphrase = $2`, {
      bind: [under, before],
    });
  await sequelize.query(
    `DELETE FROM sign_ins WHERE passphrase <> $1 OR created_at < now() - make_interval(days => $2)
       OR used_at < now() - make_interval(days => $3)`,
    { bind: [under, SIGNED_IN_DAYS, UNUSED_DAYS.browser] },
  );
  const counts = `passphrase = $2 AND created_at > now() - make_interval(days => ${SIGNED_IN_DAYS})
    AND used_at > now() - make_interval(days => ${UNUSED_DAYS.browser})`;
  return {
    signIn: async (given, browser = '') => {
      if (!timingSafeEqual(await derived(given, salt), right)) return null;
      const token = randomBytes(32).toString('base64url');
      await sequelize.query('INSERT INTO sign_ins (token_hash, passphrase, browser) VALUES ($1, $2, $3)', {
        bind: [sha256(token), under, browser.slice(0, 200)],
      });
      return token;
    },
    isSignedIn: async token => {
      const [found] = await sequelize.query<{ isNoted: boolean }>(
        `SELECT used_at > now() - interval '1 hour' AS "isNoted" FROM sign_ins WHERE token_hash = $1 AND ${counts}`,
        { bind: [sha256(token), under], type: QueryTypes.SELECT },
      );
      if (found && !found.isNoted)
        await sequelize.query('UPDATE sign_ins SET used_at = now() WHERE token_hash = $1', {
          bind: [sha256(token)],
        });
      return found !== undefined;
    },
    signedIn: async own => {
      const rows = await sequelize.query<Omit<SignIn, 'createdAt' | 'usedAt'> & TimesRow>(
        `SELECT id, browser, created_at AS "createdAt", used_at AS "usedAt", token_hash = $1 AS own
           FROM sign_ins WHERE ${counts} ORDER BY used_at DESC, created_at DESC`,
        { bind: [sha256(own), under], type: QueryTypes.SELECT },
      );
      return rows.map(({ createdAt, usedAt, ...of }) => ({
        ...of,
        createdAt: createdAt.toISOString(),
        usedAt: usedAt.toISOString(),
      }));
    },
    endSignIn: async id => {
      const gone = await sequelize.query('DELETE FROM sign_ins WHERE id = $1 RETURNING id', {
        bind: [id],
        type: QueryTypes.SELECT,
      });
      return gone.length > 0;
    },
    tokens: async () => {
      const rows = await sequelize.query<TokenRow>(
        `SELECT ${COLUMNS} FROM tokens WHERE passphrase = $1 AND ${isUsed} ORDER BY created_at DESC, id`,
        { bind: [under], type: QueryTypes.SELECT },
      );
      return rows.map(viewOf);
    },
    giveToken: async name => {
      const token = PREFIX + randomBytes(32).toString('base64url');
      const [row] = await sequelize.query<TokenRow>(
        `INSERT INTO tokens (id, name, token_hash, passphrase) VALUES ($1, $2, $3, $4) RETURNING ${COLUMNS}`,
        { bind: [randomUUID(), name, sha256(token), under], type: QueryTypes.SELECT },
      );
      return { ...viewOf(row), token };
    },
    isGiven: async token => {
      if (!token.startsWith(PREFIX)) return false;
      const rows = await sequelize.query<{ id: string; isNoted: boolean }>(
        `SELECT id, used_at IS NOT NULL AND used_at > now() - interval '1 hour' AS "isNoted"
           FROM tokens WHERE token_hash = $1 AND passphrase = $2 AND ${isUsed}`,
        { bind: [sha256(token), under], type: QueryTypes.SELECT },
      );
      const [found] = rows;
      if (found && !found.isNoted) {
        await sequelize.query(`UPDATE tokens SET used_at = now() WHERE id = $1`, { bind: [found.id] });
      }
      return found !== undefined;
    },
    endToken: async id => {
      const gone = await sequelize.query('DELETE FROM tokens WHERE id = $1 RETURNING id', {
        bind: [id],
        type: QueryTypes.SELECT,
      });
      return gone.length > 0;
    },
    signOut: async token => {
      await sequelize.query('DELETE FROM sign_ins WHERE token_hash = $1', { bind: [sha256(token)] });
    },
  };
}
