import type { z } from 'zod';
import type { Photograph } from '../../contract/photographs';
import { addressOf, type Given, type Read, type Route } from '../../contract/route';
import { getTakePicture, type TakeSummary, type takeEdges } from '../../contract/takes';
import { noteAway } from './away';
import { noteBuild } from './outdated';

/** The server, asked by the routes of the contract. */

/** An answer that is not success, or no answer at all (status 0). */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

/** What to tell a person about an error, in one line. */
export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

/** Turns a problem+json body into an ApiError. */
export function problemFrom(status: number, body: unknown): ApiError {
  const problem = (body ?? {}) as { title?: string; detail?: string };
  const text = [problem.title, problem.detail].filter(Boolean).join(' ');
  return new ApiError(status, text || `The server answered ${status}.`, problem as Record<string, unknown>);
}

type Shape = z.ZodType;
type With<Name extends string, S> = S extends Shape
  ? undefined extends Given<S>
    ? { [K in Name]?: Given<S> }
    : { [K in Name]: Given<S> }
  : object;
/** What a route takes. */
export type AskedOf<P, Q, B> = With<'params', P> & With<'query', Q> & With<'body', B>;

interface Options {
  signal?: AbortSignal;
  /** Bytes, for a route that takes something else than JSON. */
  bytes?: Uint8Array;
}

/** Characters of a change that the browser still sends when the page is left at once. */
const SMALL = 8000;

async function send(path: string, init: RequestInit): Promise<Response> {
  try {
    const response = await fetch(path, init);
    noteBuild(response);
    if (response.status === 503) noteAway('database');
    // Signed in no more: the server's page asks for the passphrase, and leads back here.
    if (response.status === 401) window.location.reload();
    return response;
  } catch (error) {
    if ((error as Error).name === 'AbortError') throw error;
    noteAway('server');
    throw new ApiError(0, 'The server does not answer.');
  }
}

/** Sends what a route takes, and gives the answer, whatever it is. */
function ask(route: Route, asked: object, { signal, bytes }: Options): Promise<Response> {
  const { body, ...address } = asked as {
    params?: Record<string, unknown>;
    query?: Record<string, unknown>;
    body?: unknown;
  };
  const text = body === undefined ? undefined : JSON.stringify(body);
  const type = bytes ? route.takes! : 'application/json';
  const sent = bytes ? new Blob([bytes as BlobPart]) : text;
  return send(addressOf(route, address), {
    method: route.method.toUpperCase(),
    signal,
    keepalive: route.method !== 'get' && !bytes && !route.gives && (text ?? '').length < SMALL,
    ...(sent !== undefined && { body: sent, headers: { 'Content-Type': type } }),
  });
}

/** Asks the server by a route; throws an ApiError. Undefined where there is nothing in the answer. */
export async function call<
  P extends Shape | undefined,
  Q extends Shape | undefined,
  B extends Shape | undefined,
  A extends Shape | undefined,
>(route: Route<P, Q, B, A>, asked: AskedOf<P, Q, B>, { signal, bytes }: Options = {}): Promise<Read<A>> {
  const response = await ask(route, asked, { signal, bytes });
  if (response.status === 204) return undefined as Read<A>;
  const value: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw problemFrom(response.status, value);
  // Done or not, it is not known: whoever asked finds out by asking again.
  if (value === undefined) throw new ApiError(0, 'The answer of the server was cut off.');
  // Where it is built on, what the server gives is held against the contract.
  if (import.meta.env.DEV && route.answer) return route.answer.parse(value) as Read<A>;
  return value as Read<A>;
}

/** The address of a take's small picture; the revision keeps it fresh and cacheable. */
export function pictureAddress(
  take: { id: string; revision: number },
  edge: (typeof takeEdges)[number],
): string {
  return addressOf(getTakePicture, { params: { id: take.id }, query: { edge, revision: take.revision } });
}

/** The take that stands for a photograph. */
export function currentTake(photograph: Photograph): TakeSummary {
  return photograph.takes.find(t => t.id === photograph.currentTakeId) ?? photograph.takes[0];
}

/** A file as the server sends it. */
export interface SentFile {
  bytes: ArrayBuffer;
  name: string;
  type: string;
}

/** Asks for a file by a route; throws an ApiError. Its name is the one that the server gives it. */
export async function callForFile<
  P extends Shape | undefined,
  Q extends Shape | undefined,
  B extends Shape | undefined,
>(route: Route<P, Q, B, undefined>, asked: AskedOf<P, Q, B>, options: Options = {}): Promise<SentFile> {
  const response = await ask(route, asked, options);
  if (!response.ok) throw problemFrom(response.status, await response.json().catch(() => undefined));
  const said = response.headers.get('Content-Disposition') ?? '';
  const [, name = 'file'] = /filename="?([^";]+)/.exec(said) ?? [];
  // What has letters beyond ASCII comes as RFC 8187 has it.
  const [, full] = /filename\*=UTF-8''([^;]+)/.exec(said) ?? [];
  const type = response.headers.get('Content-Type') ?? 'application/octet-stream';
  return { bytes: await response.arrayBuffer(), name: full ? decodeURIComponent(full) : name, type };
}
