import { useState } from 'react';

/** A value, the same object as long as a key of it is: what is made of it need not be made again. */
export function useSame<T>(value: T, key: unknown): T {
  const [kept, setKept] = useState({ value, key });
  if (kept.key === key) return kept.value;
  setKept({ value, key });
  return value;
}
