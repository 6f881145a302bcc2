import { useEffect, useMemo, useState } from 'react';
import { questionOf } from '../../data/findQuestion';
import { many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { KeptPart } from '../cull/KeptPart';

interface Kept {
  text: string;
  /** the newest frame of the archive when it was looked at last */
  seen: number;
}

interface Props {
  kept: readonly Api['KeptByNameDto'][];
  /** the question as it stands in the address; empty: it asks for nothing */
  now: string;
  newest: number;
  onChoose: (text: string) => void;
}

/** What is looked for again and again, with how much came since one looked last. */
export function KeptSearches({ kept, now, newest, onChoose }: Props) {
  const searches = JSON.stringify(kept);
  const fresh = useFresh(searches, newest);
  const saved = useMemo(() => (now === '' ? null : { text: now, seen: newest }), [now, newest]);
  return (
    <KeptPart
      list="searches"
      title="Kept searches"
      kept={kept}
      now={saved}
      keys={fresh}
      onChoose={(one: Kept) => {
        onChoose(one.text);
        if (one.seen < newest)
          void changeSettings(({ searches: all }) => ({
            searches: all.map((its) =>
              (its.value as unknown as Kept).text === one.text
                ? { ...its, value: { ...one, seen: newest } as never }
                : its,
            ),
          }));
      }}
    />
  );
}

/** Of each search what came since it was looked at last, in words; empty: nothing. Asked one after the other. */
function useFresh(searches: string, newest: number): readonly string[] {
  const [fresh, setFresh] = useState<readonly string[]>([]);
  useEffect(() => {
    let wanted = true;
    const ask = async () => {
      const found: string[] = [];
      for (const { value } of JSON.parse(searches) as { value: Kept }[]) {
        if (!wanted) return;
        const { text, seen } = value;
        const count =
          seen >= newest ? 0 : (await post('/find', { ...questionOf(text), typing: true, seen })).fresh;
        found.push(count > 0 ? many(count, 'new', 'new') : '');
      }
      if (wanted) setFresh(found);
    };
    ask().catch(() => undefined);
    return () => {
      wanted = false;
    };
  }, [searches, newest]);
  return fresh;
}
