import { useEffect, useState } from 'react';

/** A value as it was when it had not changed for `millis`; with 0 the value itself. For work that would hold up typing. */
export function useSettled<T>(value: T, millis: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    if (millis === 0) return;
    const timer = setTimeout(() => setSettled(value), millis);
    return () => clearTimeout(timer);
  }, [value, millis]);
  return millis === 0 ? value : settled;
}
