import { bareTreatment, type Treatment } from '../../core/treatment/treatment';
import { nameOfStep } from '../../words/step-names';

/** What the picture may be compared with. */
export type Against =
  | { what: 'now' }
  | { what: 'bare' }
  | { what: 'before' }
  | { what: 'take'; id: string }
  | { what: 'upTo'; step: string }
  | { what: 'without' }
  | { what: 'moment'; treatment: Treatment; label: string };

/** What there is to compare. */
export interface Shelf {
  /** As it is now, up to the lamp. */
  now: Treatment;
  /** All steps of it. */
  whole: Treatment;
  /** The chosen step. */
  chosen: string | null;
  /** The state before the last change; null where there is none, or it is not known yet. */
  before: Treatment | null;
  /** Treatments of takes, as far as they are there. */
  takes: ReadonlyMap<string, Treatment>;
  letters: ReadonlyMap<string, string>;
  /** The take that is worked on. */
  take: string;
}

const bare = bareTreatment();

/** The treatment that is to be seen, in its own frame; the bare photograph in that of now. Null where it is not there (yet). */
export function treatmentOf(against: Against, shelf: Shelf): Treatment | null {
  switch (against.what) {
    case 'now':
      return shelf.now;
    case 'bare':
      return { ...bare, frame: shelf.now.frame };
    case 'before':
      return shelf.before;
    case 'take':
      return shelf.takes.get(against.id) ?? null;
    case 'upTo': {
      const at = shelf.whole.steps.findIndex(s => s.id === against.step);
      return at < 0 ? null : { ...shelf.whole, steps: shelf.whole.steps.slice(0, at + 1) };
    }
    case 'without':
      return {
        ...shelf.now,
        steps: shelf.now.steps.map(s => (s.id === shelf.chosen ? { ...s, enabled: false } : s)),
      };
    case 'moment':
      return against.treatment;
  }
}

/** The same as it is laid over the picture of now, half and half: in one frame, so that each place lies on itself. */
export function overlaid(treatment: Treatment, now: Treatment): Treatment {
  return treatment.frame === now.frame ? treatment : { ...treatment, frame: now.frame };
}

/** What it is called on the wall. */
export function nameOf(against: Against, shelf: Shelf): string {
  const of = (id: string | null) => nameOfStep(shelf.whole.steps.find(s => s.id === id));
  switch (against.what) {
    case 'now': {
      const last = shelf.now.steps.at(-1);
      const isAll = shelf.now.steps.length === shelf.whole.steps.length;
      const letter = shelf.letters.get(shelf.take) ?? '';
      return `Take ${letter}${isAll ? '' : last ? `, up to ${nameOfStep(last)}` : ', no step lit'}`;
    }
    case 'bare':
      return 'Bare';
    case 'before':
      return 'Before the last change';
    case 'take':
      return `Take ${shelf.letters.get(against.id) ?? 'put aside'}`;
    case 'upTo':
      return `Up to ${of(against.step)}`;
    case 'without':
      return shelf.chosen === null ? 'Without the chosen step' : `Without ${of(shelf.chosen)}`;
    case 'moment':
      return `After ${against.label}`;
  }
}
