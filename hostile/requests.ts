import { chances } from './files';

/** Requests made from the server's own description of itself: some as it says, most not quite. */

interface Schema {
  type?: string | string[];
  format?: string;
  enum?: unknown[];
  const?: unknown;
  properties?: Record<string, Schema>;
  required?: string[];
  items?: Schema;
  anyOf?: Schema[];
  minimum?: number;
  maximum?: number;
  maxLength?: number;
}
interface Operation {
  parameters: { name: string; in: 'path' | 'query'; schema: Schema }[];
  requestBody?: { content: Record<string, { schema?: Schema }> };
}
export interface Description {
  paths: Record<string, Record<string, Operation>>;
}
export interface Made {
  method: string;
  path: string;
  headers: Record<string, string>;
  body?: string | Uint8Array<ArrayBuffer>;
}

const texts = [
  '',
  ' ',
  'a',
  'x'.repeat(121),
  'x'.repeat(100_000),
  'ŉ'.repeat(120),
  'ﷺ'.repeat(120),
  '\u0000',
  '\ud800',
  '../..',
  "'; DROP TABLE series; --",
  '<script>alert(1)</script>',
  '__proto__',
  '%00',
  '\u202e',
  '-1',
  'NaN',
  '00000000-0000-0000-0000-000000000000',
];
const numbers = [0, -1, 1, 0.5, 1e9, 2 ** 31, 2 ** 53, -(2 ** 63), 1e308, 2 ** 53 + 2];
const others = [null, true, [], {}, [[]], { a: 1 }, 'text', 7];

/** Makes requests; `known` are ids of things that are there. */
export function maker(description: Description, known: string[], seed: number) {
  const chance = chances(seed);
  const one = <T>(from: readonly T[]): T => from[Math.floor(chance() * from.length)];

  /** A value that a schema allows, as far as it says; now and then another. */
  const valueOf = (schema: Schema, depth = 0): unknown => {
    if (chance() < 0.12 || depth > 6) return one(others);
    if (schema.const !== undefined) return schema.const;
    if (schema.enum) return one(schema.enum);
    if (schema.anyOf) return valueOf(one(schema.anyOf), depth + 1);
    const type = Array.isArray(schema.type) ? one(schema.type) : schema.type;
    if (type === 'object') {
      const entries = Object.entries(schema.properties ?? {}).filter(
        ([name]) => chance() < (schema.required?.includes(name) ? 0.95 : 0.6),
      );
      const made = Object.fromEntries(entries.map(([name, of]) => [name, valueOf(of, depth + 1)]));
      return chance() < 0.08 ? { ...made, [one(texts)]: one(others) } : made;
    }
    if (type === 'array') {
      return Array.from({ length: one([0, 1, 2, 30]) }, () => valueOf(schema.items ?? {}, depth + 1));
    }
    if (type === 'string') return schema.format === 'uuid' && chance() < 0.8 ? one(known) : one(texts);
    if (type === 'integer' || type === 'number') {
      return chance() < 0.5 ? one(numbers) : Math.round(chance() * 5 + (schema.minimum ?? 0));
    }
    if (type === 'boolean') return chance() < 0.5;
    return one(others);
  };
  const asText = (value: unknown) => (typeof value === 'string' ? value : JSON.stringify(value));
  /** JSON that now and then is none, or stands in another encoding. */
  const bodyOf = (schema: Schema): Pick<Made, 'headers' | 'body'> => {
    const json = JSON.stringify(valueOf(schema)) ?? '';
    const headers = { 'Content-Type': 'application/json' };
    const kind = chance();
    if (kind < 0.04) return { headers, body: json.slice(0, Math.floor(chance() * json.length)) };
    if (kind < 0.06) return { headers: { 'Content-Type': 'application/json; charset=utf-7' }, body: json };
    if (kind < 0.08) return { headers: { ...headers, 'Content-Encoding': 'gzip' }, body: json };
    if (kind < 0.1) return { headers: { ...headers, 'Content-Encoding': 'compress' }, body: json };
    if (kind < 0.12)
      return { headers: { 'Content-Type': one(['text/plain', 'multipart/form-data', 'x']) }, body: json };
    if (kind < 0.13) return { headers, body: new Uint8Array([0xff, 0xfe, 0x00, 0x7b]) };
    if (kind < 0.14) return { headers, body: `${'['.repeat(50_000)}${']'.repeat(50_000)}` };
    return { headers, body: json };
  };

  return (count: number): Made[] => {
    const operations = Object.entries(description.paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({ path, method, operation })),
    );
    return Array.from({ length: count }, (_, i): Made => {
      // Each in turn, so that none is left out.
      const { path, method, operation } = operations[i % operations.length];
      const filled = path.replace(/\{(\w+)\}/g, (_all, name: string) => {
        const schema = operation.parameters.find(p => p.in === 'path' && p.name === name)?.schema ?? {};
        return (
          encodeURIComponent(
            asText(valueOf(schema))
              .replace(/[\ud800-\udfff]/g, '?')
              .slice(0, 2000),
          ) || 'x'
        );
      });
      const query = operation.parameters
        .filter(p => p.in === 'query' && chance() < 0.8)
        .map(
          p =>
            `${p.name}=${encodeURIComponent(
              asText(valueOf(p.schema))
                .replace(/[\ud800-\udfff]/g, '?')
                .slice(0, 2000),
            )}`,
        );
      if (chance() < 0.05) query.push(one(['a=1', '__proto__[x]=1', '%', '=', 'edge=160&edge=480']));
      const json = operation.requestBody?.content['application/json']?.schema;
      const bytes = operation.requestBody && !json;
      const other = one(['get', 'post', 'put', 'patch', 'delete', 'options']);
      const verb = (chance() < 0.04 ? other : method).toUpperCase();
      const hasBody = verb !== 'GET' && verb !== 'HEAD';
      return {
        method: verb,
        path: `${filled}${query.length ? `?${query.join('&')}` : ''}`,
        ...(hasBody && json
          ? bodyOf(json)
          : hasBody && bytes
            ? {
                headers: {
                  'Content-Type': one([
                    'application/octet-stream',
                    'multipart/form-data; boundary=x',
                    'image/png',
                  ]),
                },
                body: one([
                  '',
                  'abc',
                  '--x\r\nContent-Disposition: form-data; name="file"\r\n\r\n',
                  '--x--\r\n',
                ]),
              }
            : { headers: {} }),
      };
    });
  };
}
