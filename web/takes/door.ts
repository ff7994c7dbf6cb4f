import { jumpTake, patchTreatment, redoTake, removeTake, renameTake, undoTake } from '../../contract/takes';
import { ApiError, call } from '../app/api';
import type { KeptCommand } from '../app/browser-store';
import { sendReference } from '../engine/carried';
import type { Door } from './queue';
import { keepUnsaved } from './unsaved';

/** Everything that a patch puts in that is a reference to something carried. */
function referencesIn(value: unknown, found: { sha256: string }[] = []): { sha256: string }[] {
  if (typeof value !== 'object' || value === null) return found;
  const { sha256 } = value as { sha256?: unknown };
  if (typeof sha256 === 'string') found.push({ sha256 });
  for (const each of Object.values(value)) referencesIn(each, found);
  return found;
}

/** After so long without an answer a command counts as lost, and is sent again under its own name. */
const PATIENCE_MS = 60_000;

/** The queue's way to the server, and to the store of this browser. */
export function doorOf(takeId: string): Door {
  const params = { id: takeId };
  const send = async (command: KeptCommand, revision: number) => {
    const from = { revision, command: command.id };
    const options = () => ({ signal: AbortSignal.timeout(PATIENCE_MS) });
    switch (command.kind) {
      case 'edit': {
        const { patch, label } = command;
        for (const { op, ...operation } of patch) {
          if (op === 'add' || op === 'replace') {
            for (const reference of referencesIn((operation as { value: unknown }).value)) {
              await sendReference(reference);
            }
          }
        }
        return call(patchTreatment, { params, body: { ...from, patch: [...patch], label } }, options());
      }
      case 'undo':
        return call(undoTake, { params, body: from }, options());
      case 'redo':
        return call(redoTake, { params, body: from }, options());
      case 'jump':
        return call(jumpTake, { params, body: { ...from, state: command.state } }, options());
      case 'rename':
        return call(renameTake, { params, body: { name: command.name } }, options());
      case 'put-aside':
        try {
          await call(removeTake, { params }, options());
        } catch (error) {
          // Its first answer was lost.
          if (!(error instanceof ApiError && error.status === 404)) throw error;
        }
        return null;
    }
  };
  return { send, keep: unsaved => keepUnsaved(takeId, unsaved) };
}
