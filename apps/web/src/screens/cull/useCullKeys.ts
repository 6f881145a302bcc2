import { useEffect, useRef, useState } from 'react';
import type { CullCommand } from '../../keys/actions';
import type { Bindings } from '../../keys/bindings';
import { resolve } from '../../keys/resolve';
import { useScreenKeys } from '../../keys/useScreenKeys';

/** The keys of Cull. The key after which another one is waited for; null: none. */
export function useCullKeys(
  bindings: Bindings,
  run: (command: CullCommand) => void,
  say: (words: string) => void,
): string | null {
  const [prefix, setPrefix] = useState<string | null>(null);
  useScreenKeys((names, { repeat }) => {
    const meaning = resolve({ names, repeat }, prefix, bindings);
    setPrefix(meaning.prefix);
    if (meaning.command) run(meaning.command);
    else if (meaning.mine && !repeat) say(meaning.words ?? '');
    return meaning.mine;
  });
  // A click means something else than the digit that is waited for.
  const leave = useRef(() => setPrefix(null)).current;
  useEffect(() => {
    if (prefix === null) return;
    window.addEventListener('pointerdown', leave);
    return () => window.removeEventListener('pointerdown', leave);
  }, [prefix, leave]);
  return prefix;
}
