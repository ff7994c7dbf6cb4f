import { useEffect, useRef } from 'react';
import { partOf } from '../../core/treatment/laying';
import type { Treatment } from '../../core/treatment/schema';
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

/**
 * Copies steps and treatments by the browser's own copy and paste, and takes them in again.
 * @param picked the steps that a copy takes while the focus is on the tray line
 * @param onPart told of a treatment that is to be laid on
 */
export function useCopying(
  now: () => Treatment,
  picked: readonly string[],
  onPart: (part: Treatment) => void,
): Copying {
  const latest = useRef({ now, picked, onPart });
  useEffect(() => {
    latest.current = { now, picked, onPart };
  });
  const made = useRef<
    Copying & { textFor: (steps: readonly string[] | null) => string; take: (text: string) => void }
  >(null);
  made.current ??= {
    textFor: steps => {
      const treatment = latest.current.now();
      const part = steps ? partOf(treatment, steps) : treatment;
      const count = part.steps.length;
      const whole = count === 1 ? 'One step is copied.' : `${count} steps are copied.`;
      tell({
        text: `${whole} Ctrl V lays ${count === 1 ? 'it' : 'them'} on, here or on another photograph.`,
      });
      const text = textOf(part);
      remember(text);
      return text;
    },
    take: text => {
      treatmentFrom(text).then(
        part => latest.current.onPart(part),
        (error: Error) => tell({ text: error.message, tone: 'problem' }),
      );
    },
    copy: steps => void copyText(made.current!.textFor(steps)),
    layOn: () => {
      void copiedText().then(text => {
        if (text) made.current!.take(text);
        else tell({ text: 'Nothing has been copied yet: Ctrl C copies a step or the treatment.' });
      });
    },
  };
  useEffect(() => {
    const { textFor, take } = made.current!;
    const onCopy = (event: ClipboardEvent) => {
      if (isOfField(event) || (document.getSelection()?.toString() ?? '') !== '') return;
      const steps = stepsAtFocus(latest.current.picked);
      if ((steps ?? latest.current.now().steps).length === 0) return;
      event.clipboardData?.setData('text/plain', textFor(steps));
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
  }, []);
  return made.current;
}
