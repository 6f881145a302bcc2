import { useEffect, useRef, useState } from 'react';
import type { CullCommand } from '../../keys/cullKeys';
import { resolve } from '../../keys/resolve';
import { useScreenKeys } from '../../keys/useScreenKeys';

/** The keys of Cull. Whether a label's digit is waited for. */
export function useCullKeys(run: (command: CullCommand) => void, say: (words: string) => void): boolean {
  const [prefix, setPrefix] = useState(false);
  useScreenKeys((names, { repeat }) => {
    const meaning = resolve({ names, repeat }, prefix);
    setPrefix(meaning.prefix);
    if (meaning.command) run(meaning.command);
    else if (meaning.mine && !repeat) say(meaning.words ?? '');
    return meaning.mine;
  });
  // A click means something else than the digit that is waited for.
  const leave = useRef(() => setPrefix(false)).current;
  useEffect(() => {
    if (!prefix) return;
    window.addEventListener('pointerdown', leave);
    return () => window.removeEventListener('pointerdown', leave);
  }, [prefix, leave]);
  return prefix;
}
