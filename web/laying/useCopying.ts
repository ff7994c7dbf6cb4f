import { useEffect, useMemo } from 'react';
import { partOf } from '../../core/treatment/laying';
import type { Treatment } from '../../core/treatment/treatment';
import { isOfField } from '../app/field-clipboard';
import { tell } from '../app/notices';
import { copiedText, copyText, remember, textOf, treatmentFrom } from './copied';

/** The steps that stand where the focus is: those picked on the tray line, or those of a folded group; null elsewhere. */
function stepsAtFocus(picked: readonly string[]): readonly string[] | null {
  const at = document.activeElement;
  if (at?.closest('[data-tray]')) return picked;
  return at?.closest('[data-holds]')?.getAttribute('data-holds')?.split(' ') ?? null;
}

/** What the clipboard takes and gives on the Bench. */
export interface Copying {
  /** Copies some steps, or with null the whole treatment. */
  copy: (steps: readonly string[] | null) => void;
  /** Asks how what was copied is to be laid on. */
  layOn: () => void;
}

/** What a window copies from, and what is done with what it takes in. */
interface Copied {
  now: () => Treatment;
  /** The steps that a copy takes while the focus is on the tray line. */
  picked: () => readonly string[];
  /** Told of a treatment that is to be laid on. */
  onPart: (part: Treatment) => void;
}

/** What is copied, as text. */
function textFor(treatment: Treatment, steps: readonly string[] | null): string {
  const part = steps ? partOf(treatment, steps) : treatment;
  const count = part.steps.length;
  const whole = count === 1 ? 'One step is copied.' : `${count} steps are copied.`;
  tell({
    text: `${whole} Ctrl V lays ${count === 1 ? 'it' : 'them'} on, here or on another photograph.`,
  });
  const text = textOf(part);
  remember(text);
  return text;
}

/**
 * Copies steps and treatments by the browser's own copy and paste, and takes them in again.
 * @param from must stay the same functions
 */
export function useCopying({ now, picked, onPart }: Copied): Copying {
  const { take, ...copying } = useMemo(() => {
    const taken = (text: string) => {
      treatmentFrom(text).then(onPart, (error: Error) => tell({ text: error.message, tone: 'problem' }));
    };
    return {
      take: taken,
      copy: (steps: readonly string[] | null) => void copyText(textFor(now(), steps)),
      layOn: () => {
        void copiedText().then(text => {
          if (text) taken(text);
          else tell({ text: 'Nothing has been copied yet: Ctrl C copies a step or the treatment.' });
        });
      },
    };
  }, [now, onPart]);
  useEffect(() => {
    const onCopy = (event: ClipboardEvent) => {
      if (isOfField(event) || (document.getSelection()?.toString() ?? '') !== '') return;
      const steps = stepsAtFocus(picked());
      if ((steps ?? now().steps).length === 0) return;
      event.clipboardData?.setData('text/plain', textFor(now(), steps));
      event.preventDefault();
    };
    const onPaste = (event: ClipboardEvent) => {
      if (isOfField(event)) return;
      const text = event.clipboardData?.getData('text/plain');
      if (!text) return;
      take(text);
      event.preventDefault();
    };
    document.addEventListener('copy', onCopy);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('copy', onCopy);
      document.removeEventListener('paste', onPaste);
    };
  }, [now, picked, take]);
  return copying;
}
