import { X509Certificate } from 'node:crypto';
import { chmod, mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { networkInterfaces } from 'node:os';
import { isIP } from 'node:net';
import { join } from 'node:path';
import type { Config } from './config';

/** The certificate that the server shows on other addresses than this machine's own. */

export interface Certificate {
  cert: string;
  key: string;
  /** SHA-256 of the certificate, for people to compare. */
  fingerprint: string;
  /** It was made here, so that browsers ask about it at first. */
  isOwn: boolean;
}

const fingerprintOf = (cert: string) => new X509Certificate(cert).fingerprint256;

/** Addresses of this machine by which others may reach it. */
const ownAddresses = (): string[] =>
  Object.values(networkInterfaces())
    .flat()
    .flatMap(each => (each && !each.address.startsWith('fe80') ? [each.address] : []));

async function read(path: string, name: string): Promise<string> {
  try {
    return await readFile(path, 'utf8');
  } catch (cause) {
    const { code } = cause as NodeJS.ErrnoException;
    throw new Error(`${name}: ${path} cannot be read (${code})`, { cause });
  }
}

/** Makes a certificate for the names and addresses of this machine, for ten years. */
async function make(names: readonly string[]): Promise<{ cert: string; key: string }> {
  const altNames = [...new Set(['localhost', ...names, ...ownAddresses()])].map(name =>
    isIP(name) ? { type: 7 as const, ip: name } : { type: 2 as const, value: name },
  );
  const { generate } = await import('selfsigned');
  const from = new Date();
  const made = await generate([{ name: 'commonName', value: names[0] ?? 'Lamp Wash' }], {
    keyType: 'ec',
    curve: 'P-256',
    algorithm: 'sha256',
    notBeforeDate: from,
    notAfterDate: new Date(from.getFullYear() + 10, from.getMonth(), from.getDate()),
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'subjectAltName', altNames },
    ],
  });
  return { cert: made.cert, key: made.private };
}

/**
 * The certificate by the paths of the configuration; without them one that is made at the first start and kept. Throws an
 * Error that names the file that is wrong.
 */
export async function certificateFor({ tls, tlsFolder, names }: Config): Promise<Certificate> {
  if (tls) {
    const cert = await read(tls.cert, 'LAMPWASH_TLS_CERT');
    const key = await read(tls.key, 'LAMPWASH_TLS_KEY');
    try {
      return { cert, key, fingerprint: fingerprintOf(cert), isOwn: false };
    } catch {
      throw new Error(`LAMPWASH_TLS_CERT: ${tls.cert} is not a certificate`);
    }
  }
  const path = join(tlsFolder, 'own.json');
  const kept = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return null;
    throw new Error(`${path} cannot be read (${error.code})`);
  });
  const pair = kept ? (JSON.parse(kept) as { cert: string; key: string }) : await make(names);
  if (!kept) {
    await mkdir(tlsFolder, { recursive: true, mode: 0o700 });
    await writeFile(`${path}.part`, JSON.stringify(pair), { mode: 0o600 });
    await chmod(`${path}.part`, 0o600);
    await rename(`${path}.part`, path);
  }
  return { ...pair, fingerprint: fingerprintOf(pair.cert), isOwn: true };
}
