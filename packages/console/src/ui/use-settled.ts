import { useEffect, useState } from 'react';

const SETTLED_MS = 200;

/** A value once it has not changed for a moment: what somebody types is asked for when they pause. */
export function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), SETTLED_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}
