import type { NamedPigment } from '../../core/colour/pigments';
import type { Treatment } from '../../core/treatment/schema';

/** What the server gives, as the interface uses it. The server's own schemas are at /api/openapi.json. */

export interface TakeSummary {
  id: string;
  letter: string;
  name: string;
  revision: number;
  steps: string[];
}

export interface Photograph {
  id: string;
  seriesId: string;
  title: string;
  fileName: string;
  sha256: string;
  mediaType: string;
  width: number;
  height: number;
  bits: number;
  grey: boolean;
  profile: string | null;
  currentTakeId: string;
  takes: TakeSummary[];
}

export interface SeriesSummary {
  id: string;
  title: string;
  caption: string;
  touchedAt: string;
  photographs: number;
  treated: number;
  stack: { takeId: string; revision: number; width: number; height: number }[];
  last: { photographId: string; title: string } | null;
}

export interface Series {
  id: string;
  title: string;
  caption: string;
  coverId: string | null;
  photographs: Photograph[];
}

export interface Take {
  id: string;
  photographId: string;
  letter: string;
  name: string;
  revision: number;
  treatment: Treatment;
  undo: string | null;
  redo: string | null;
}

export interface SendOutSettings {
  format: 'jpeg' | 'png' | 'tiff';
  bits: 8 | 16;
  profile: 'srgb' | 'grey';
  quality: number;
  longEdge: number | null;
}

export interface SendOut {
  id: string;
  takeId: string;
  photographId: string;
  revision: number;
  title: string;
  letter: string;
  fileName: string;
  settings: SendOutSettings;
  state: 'waiting' | 'running' | 'done' | 'failed' | 'stopped';
  progress: number;
  problem: string | null;
  size: number | null;
}

/** A colour table that is kept for all photographs. */
export interface TableSummary {
  id: string;
  name: string;
  group: string;
}

/** A pigment that is kept for all photographs. */
export interface KeptPigment extends NamedPigment {
  id: string;
}

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

/** Characters of a change that the browser still sends when the page is left at once. */
const SMALL = 8000;

/** Asks the server; throws an ApiError. `undefined` where there is nothing in the answer. */
export async function ask<T>(
  method: string,
  path: string,
  body?: unknown,
  options: { signal?: AbortSignal; keepalive?: boolean } = {},
): Promise<T> {
  let response: Response;
  const text = body === undefined ? '' : JSON.stringify(body);
  try {
    response = await fetch(path, {
      method,
      keepalive: method !== 'GET' && text.length < SMALL,
      ...options,
      ...(body !== undefined && {
        body: text,
        headers: { 'Content-Type': 'application/json' },
      }),
    });
  } catch (error) {
    if ((error as Error).name === 'AbortError') throw error;
    throw new ApiError(0, 'The server does not answer.');
  }
  if (response.status === 204) return undefined as T;
  const value: unknown = await response.json().catch(() => null);
  if (!response.ok) throw problemFrom(response.status, value);
  return value as T;
}

/** The address of a take's small picture; the revision keeps it fresh and cacheable. */
export function pictureAddress(take: { id: string; revision: number }, edge: 160 | 480 | 960): string {
  return `/api/takes/${take.id}/picture?edge=${edge}&revision=${take.revision}`;
}

/** The take that stands for a photograph. */
export function currentTake(photograph: Photograph): TakeSummary {
  return photograph.takes.find(t => t.id === photograph.currentTakeId) ?? photograph.takes[0];
}
