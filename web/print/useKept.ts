import { useState } from 'react';
import { looksTheSame } from '../../core/treatment/same';
import type { Treatment } from '../../core/treatment/treatment';

/** A treatment, the same object as long as it makes the same picture: what is made of it need not be made again. */
export function useKept(treatment: Treatment): Treatment {
  const [kept, setKept] = useState(treatment);
  if (kept === treatment || looksTheSame(kept, treatment)) return kept;
  setKept(treatment);
  return treatment;
}
