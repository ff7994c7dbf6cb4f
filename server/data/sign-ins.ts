import { createHash, randomBytes, randomUUID, scrypt, timingSafeEqual } from 'node:crypto';
import { QueryTypes, type Sequelize } from 'sequelize';
import type { Token } from '../../contract/tokens';

/** The passphrase of a studio, and who has signed in with it. The passphrase itself is kept nowhere. */

/** Days after which somebody must sign in again. */
export const SIGNED_IN_DAYS = 30;

const sha256 = (text: string | Buffer) => createHash('sha256').update(text).digest('hex');

/** scrypt (RFC 7914) with N = 2^15, r = 8, p = 1: about 32 MB and a tenth of a second. */
const derived = (passphrase: string, salt: Buffer) =>
  new Promise<Buffer>((resolve, reject) =>
    scrypt(
      passphrase.normalize('NFKC'),
      salt,
      32,
      { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 },
      (error, key) => (error ? reject(error) : resolve(key)),
    ),
  );

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
  signIn: (passphrase: string) => Promise<string | null>;
  /** Whether a token is one that was given under this passphrase, not too long ago. */
  isSignedIn: (token: string) => Promise<boolean>;
  signOut: (token: string) => Promise<void>;
  /** The tokens of programs, the newest first. */
  tokens: () => Promise<Token[]>;
  /** Gives one out, which is told this once. */
  giveToken: (name: string) => Promise<Token & { token: string }>;
  /** Whether a program's token counts; that it was used is noted, to the hour. */
  isGiven: (token: string) => Promise<boolean>;
  /** Whether there was such a token to end. */
  endToken: (id: string) => Promise<boolean>;
}

/** How a program's token begins, so that it is known for one where it lies about. */
const PREFIX = 'lampwash_';

const COLUMNS = 'id, name, created_at AS "createdAt", used_at AS "usedAt"';
interface TokenRow {
  id: string;
  name: string;
  createdAt: Date;
  usedAt: Date | null;
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
  await sequelize.query(
    `DELETE FROM sign_ins WHERE passphrase <> $1 OR created_at < now() - make_interval(days => $2)`,
    { bind: [under, SIGNED_IN_DAYS] },
  );
  return {
    signIn: async given => {
      if (!timingSafeEqual(await derived(given, salt), right)) return null;
      const token = randomBytes(32).toString('base64url');
      await sequelize.query('INSERT INTO sign_ins (token_hash, passphrase) VALUES ($1, $2)', {
        bind: [sha256(token), under],
      });
      return token;
    },
    isSignedIn: async token => {
      const rows = await sequelize.query(
        `SELECT 1 FROM sign_ins
          WHERE token_hash = $1 AND passphrase = $2 AND created_at > now() - make_interval(days => $3)`,
        { bind: [sha256(token), under, SIGNED_IN_DAYS], type: QueryTypes.SELECT },
      );
      return rows.length > 0;
    },
    tokens: async () => {
      const rows = await sequelize.query<TokenRow>(
        `SELECT ${COLUMNS} FROM tokens WHERE passphrase = $1 ORDER BY created_at DESC, id`,
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
           FROM tokens WHERE token_hash = $1 AND passphrase = $2`,
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
