import { isFound } from '../app/found';

/** What of an OpenAPI description is shown. Source: OpenAPI 3.1. */

export interface Described {
  method: string;
  path: string;
  summary: string;
  parameters: { name: string; required: boolean; says: string }[];
  /** Media type of its body; null where it has none. */
  takes: string | null;
  status: string;
  gives: string;
}

interface Schema {
  type?: string | string[];
  format?: string;
  enum?: unknown[];
  const?: unknown;
  minimum?: number;
  maximum?: number;
}
interface Operation {
  summary: string;
  parameters?: { name: string; in: string; required?: boolean; schema?: Schema }[];
  requestBody?: { content: Record<string, unknown> };
  responses?: Record<string, { content?: Record<string, unknown> }>;
}

/** A schema in a few words. */
function inWords(schema: Schema = {}): string {
  if (schema.enum) return schema.enum.map(String).join(' or ');
  if (schema.const !== undefined) return String(schema.const);
  const type =
    schema.format ?? (Array.isArray(schema.type) ? schema.type.join(' or ') : (schema.type ?? 'anything'));
  const { minimum, maximum } = schema;
  const far = Number.MAX_SAFE_INTEGER;
  const isBetween = minimum !== undefined && maximum !== undefined && maximum < far && minimum > -far;
  return isBetween ? `${type} from ${minimum} to ${maximum}` : type;
}

function describedBy(method: string, path: string, operation: Operation): Described {
  const { summary, parameters = [], requestBody, responses = {} } = operation;
  const [status, answer] = Object.entries(responses).find(([code]) => code.startsWith('2')) ?? ['200', {}];
  return {
    method,
    path,
    summary,
    parameters: parameters.map(p => ({
      name: p.name,
      required: p.required ?? false,
      says: inWords(p.schema),
    })),
    takes: requestBody ? Object.keys(requestBody.content)[0] : null,
    status,
    gives: Object.keys(answer.content ?? {})[0] ?? 'nothing',
  };
}

/** The order in which they are used. */
const METHODS = ['get', 'post', 'put', 'patch', 'delete'];

/** The addresses that hold what is looked for, by the word that they begin with. */
export function groupsOf(
  paths: Record<string, Record<string, object>>,
  wanted: string,
): { name: string; routes: Described[] }[] {
  const groups = new Map<string, Described[]>();
  for (const [path, methods] of Object.entries(paths)) {
    for (const method of METHODS.filter(m => m in methods)) {
      const of = describedBy(method, path, methods[method] as Operation);
      if (!isFound(wanted, `${of.method} ${of.path} ${of.summary}`)) continue;
      const [, , word = ''] = path.split('/');
      const name = word.charAt(0).toUpperCase() + word.slice(1).replaceAll('-', ' ');
      groups.set(name, [...(groups.get(name) ?? []), of]);
    }
  }
  return [...groups]
    .map(([name, routes]) => ({ name, routes }))
    .toSorted((a, b) => a.name.localeCompare(b.name));
}

/** How it is asked for in a terminal. */
export function exampleOf({ method, path, takes, gives, parameters }: Described, server: string): string {
  const needed = parameters.filter(p => p.required && !path.includes(`{${p.name}}`)).map(p => `${p.name}=…`);
  const address = `${server}${path}${needed.length ? `?${needed.join('&')}` : ''}`;
  const parts = ['curl'];
  if (method !== 'get') parts.push(`-X ${method.toUpperCase()}`);
  if (takes === 'multipart/form-data') parts.push('-F file=@picture.tif');
  else if (takes === 'application/json') parts.push(`-H 'Content-Type: application/json' -d '{ … }'`);
  else if (takes) parts.push(`-H 'Content-Type: ${takes}' --data-binary @file`);
  if (gives !== 'application/json' && gives !== 'nothing') parts.push('-OJ');
  return [...parts, `'${address}'`].join(' ');
}
