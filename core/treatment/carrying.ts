import { bytesOf, carry, CarriedError, checkCarried, type CarriedKind } from '../formats/carried';
import type { Reference } from '../settings/fields';
import { TreatmentError, type Treatment } from './treatment';
import { parseTreatment } from './schema';

/**
 * What a treatment carries: the texts of its colour tables, the pictures of its areas. In a file they stand in full; to
 * compute, save and send a treatment they stand as references.
 */

const isObject = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

const utf8 = new TextEncoder();

function bytesOfBase64(text: string, path: string): Uint8Array {
  if (!/^[A-Za-z0-9+/]+={0,2}$/.test(text)) throw new TreatmentError(path, 'not base64');
  let binary: string;
  try {
    binary = atob(text);
  } catch {
    throw new TreatmentError(path, 'not base64');
  }
  const bytes = new Uint8Array(binary.length);
  for (let i = 0; i < binary.length; i++) bytes[i] = binary.charCodeAt(i);
  return bytes;
}

/** Holds bytes that stood in a file, and checks that they are what they stand for. */
function heldAs(kind: CarriedKind, path: string, bytes: Uint8Array): Reference {
  const reference = carry(bytes);
  try {
    checkCarried(kind, reference);
  } catch (error) {
    if (error instanceof CarriedError) throw new TreatmentError(path, error.message);
    throw error;
  }
  return reference;
}

/** The JSON of a file with references in place of what stands in it in full, which is held from then on. */
function unpacked(json: unknown): unknown {
  if (!isObject(json)) return json;
  const { tables, masks } = json;
  return {
    ...json,
    ...(isObject(tables) && {
      tables: Object.fromEntries(
        Object.entries(tables).map(([id, text]) => [
          id,
          typeof text === 'string' ? heldAs('table', `tables.${id}`, utf8.encode(text)) : text,
        ]),
      ),
    }),
    ...(Array.isArray(masks) && {
      masks: masks.map((mask: unknown, i) =>
        isObject(mask) && Array.isArray(mask.parts)
          ? {
              ...mask,
              parts: mask.parts.map((part: unknown, j) => {
                if (!isObject(part) || part.kind !== 'picture' || typeof part.png !== 'string') return part;
                const path = `masks[${i}].parts[${j}].png`;
                return { ...part, png: heldAs('picture', path, bytesOfBase64(part.png, path)) };
              }),
            }
          : mask,
      ),
    }),
  };
}

/**
 * Reads the JSON of a treatment file, in which what it carries stands in full (or as references to what is at hand).
 * Throws a TreatmentError.
 */
export const readTreatmentFile = (json: unknown): Treatment => parseTreatment(unpacked(json));

function base64Of(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
  return btoa(text);
}

/** A treatment as its file has it: all that it carries in full. Throws NotAtHand. */
export function treatmentFile(treatment: Treatment): object {
  return {
    ...treatment,
    tables: Object.fromEntries(
      Object.entries(treatment.tables).map(([id, reference]) => [
        id,
        new TextDecoder().decode(bytesOf(reference)),
      ]),
    ),
    masks: treatment.masks.map(mask => ({
      ...mask,
      parts: mask.parts.map(part =>
        part.kind === 'picture' ? { ...part, png: base64Of(bytesOf(part.png)) } : part,
      ),
    })),
  };
}
