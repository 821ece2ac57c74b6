import { useState } from 'react';

/** The value that was there first for as long as those that come are equal to it: what is built from it is not built anew. Plain data only. */
export function useSame<T>(value: T): T {
  const key = JSON.stringify(value) ?? '';
  const [held, setHeld] = useState({ key, value });
  if (held.key === key) return held.value;
  setHeld({ key, value });
  return value;
}
