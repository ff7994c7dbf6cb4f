import type { Request, RequestHandler } from 'express';
import { BlockList, isIP, isIPv6 } from 'node:net';
import { OWN_HOSTS, type Config } from '../config';
import { Problem } from './problem';

/** A name or an address without its port, as a Host header has it. */
const hostOf = (value: string) =>
  value
    .replace(/:\d+$/, '')
    .replace(/^\[(.*)\]$/, '$1')
    .toLowerCase();

/** The address at which a request came in, an IPv4 one by its own name. */
const arrivedAt = (req: Request) => (req.socket.localAddress ?? '').replace(/^::ffff:/, '');

/** Whether an address is one of some, or of their networks (`10.0.0.0/8`). */
function among(addresses: readonly string[]): (address: string) => boolean {
  const list = new BlockList();
  for (const each of addresses) {
    const [address, bits] = each.split('/');
    const family = isIPv6(address) ? 'ipv6' : 'ipv4';
    if (bits === undefined) list.addAddress(address, family);
    else list.addSubnet(address, Number(bits), family);
  }
  return given => {
    const address = given.replace(/^::ffff:/, '');
    return isIP(address) > 0 && list.check(address, isIPv6(address) ? 'ipv6' : 'ipv4');
  };
}

/**
 * Answers only requests that were meant for this server: the Host must be one of its names or the address at which it was
 * reached, so that a rebound name of a foreign page does not reach it, and the Origin of anything that changes must be
 * ours. Behind a proxy they must come from it, and have come there over TLS.
 */
export function onlyOwnPages({
  names,
  transport,
  proxies,
}: Pick<Config, 'names' | 'transport' | 'proxies'>): RequestHandler {
  const isProxy = among(['127.0.0.0/8', '::1', ...proxies]);
  const known = new Set(transport === 'proxy' ? names : [...OWN_HOSTS, ...names]);
  return (req, _res, next) => {
    const host = req.headers.host ?? '';
    const name = hostOf(host);
    const isReached = transport !== 'proxy' && isIP(name) > 0 && name === arrivedAt(req);
    // Whoever is on this machine may ask how it is.
    const isHealth = req.path === '/api/health' && OWN_HOSTS.includes(name);
    if (!known.has(name) && !isReached && !isHealth) {
      throw new Problem(421, 'This server is not known under that name.', `Host: ${host.slice(0, 100)}`);
    }
    if (transport === 'proxy' && !isProxy(req.socket.remoteAddress ?? '')) {
      throw new Problem(403, 'This server is reached through its proxy alone.');
    }
    if (transport === 'proxy' && req.headers['x-forwarded-proto'] !== 'https' && !isHealth) {
      throw new Problem(
        403,
        'This server is reached over TLS alone.',
        'The proxy must say X-Forwarded-Proto: https.',
      );
    }
    const { origin } = req.headers;
    if (origin !== undefined && req.method !== 'GET' && req.method !== 'HEAD') {
      if (!URL.canParse(origin) || new URL(origin).host !== host) {
        throw new Problem(403, 'Requests from other pages are refused.');
      }
    }
    if (req.headers['sec-fetch-site'] === 'cross-site' && req.path.startsWith('/api/')) {
      throw new Problem(403, 'Requests from other pages are refused.');
    }
    next();
  };
}
