import { Box, ToggleButton, ToggleButtonGroup } from '@mui/material';
import {
  captionWith,
  fieldOf,
  giveTerm,
  giveWords,
  keywordKind,
  keywordsIn,
  noteOf,
  noteText,
  NOTE_MOST,
  personKind,
  writeField,
  type DescriptionField,
  type FrameChange,
  type Given,
  type WriteWay,
  type WordSet,
} from '@arkiv/core';
import { useMemo, type ReactNode } from 'react';
import { many } from '../../data/format';
import type { LoadedFrame } from '../../data/frames';
import { put } from '../../data/http';
import { useGet } from '../../data/useGet';
import { useVocabulary } from '../../data/vocabulary';
import { wordsIn } from '../../data/words';
import { Section } from '../../parts/Section';
import { useKeptState } from '../../parts/useKeptState';
import { CAPTION, INK } from '../../theme/theme';
import { FieldLine } from './FieldLine';
import { OWN_FIELDS, PLACE_FIELDS, RIGHTS_FIELDS, type AskedField } from './fields';
import { RosterLine } from './RosterLine';
import type { Describe } from './useDescribe';
import { WordsField } from './WordsField';

const WAYS: Readonly<Record<WriteWay, string>> = {
  replace: 'Replace',
  add: 'Add to it',
  fill: 'Only fill what is empty',
};

/** What is said of the frames that are meant, each field by itself. */
export function FieldsPanel({ describe, onNext }: { describe: Describe; onNext: (by: 1 | -1) => void }) {
  const { targets, settings, shoot, write } = describe;
  const [way, setWay] = useKeptState<WriteWay>('describe.way', 'replace');
  // Frames that were chosen are other fields: what was typed for those before has been written by then.
  const key = `${targets.length} ${targets[0]?.id} ${targets.at(-1)?.id}`;
  const { known: terms } = useVocabulary();
  const { data: rosters, mutate } = useGet(`/vocabulary/rosters/${describe.shootId}`);
  const used = rosters?.terms ?? [];
  const chooseRosters = async (next: readonly string[]) => {
    await put(`/vocabulary/rosters/${describe.shootId}`, { terms: [...next] });
    await mutate();
  };
  const known = useMemo(
    () => ({
      keywords: wordsIn(shoot.frames.map((frame) => frame.keywords)),
      persons: wordsIn(shoot.frames.map((frame) => frame.persons)),
    }),
    [shoot.frames],
  );
  const usual: Partial<Record<DescriptionField, string>> = {
    creator: settings?.creator ?? '',
    rights: settings?.rights ?? '',
  };
  const line = ({ field, label, rows }: AskedField) => (
    <FieldLine
      key={field}
      name={field}
      label={label}
      rows={rows}
      texts={targets.map((frame) => fieldOf(frame, field))}
      usual={usual[field] ?? ''}
      way={way}
      onWrite={(typed, how) => write(writeField(asDescribed(targets), field, typed, how), `${label} written`)}
      onNext={onNext}
    />
  );
  const words = (set: WordSet, label: string, one: string) => (
    <WordsField
      name={set}
      label={label}
      set={set}
      frames={targets}
      known={known[set]}
      terms={terms}
      onGive={(typed) =>
        write(
          givenTo(
            targets,
            terms ? giveWords(terms.vocabulary, set, typed) : { keywords: [], persons: [], [set]: typed },
          ),
          `${one} given`,
        )
      }
      onTerm={(term) => write(givenTo(targets, giveTerm(terms!.vocabulary, term)), `${one} given`)}
      onTake={(word) => write(wordChangesOf(targets, set, [word], false), `${one} taken off`)}
    />
  );
  const roster = terms && (
    <RosterLine
      terms={terms}
      used={used}
      onUse={chooseRosters}
      onGive={({ term, number }, caption) =>
        write(
          [
            ...givenTo(targets, giveTerm(terms.vocabulary, term)),
            ...(caption ? captionsWith(targets, term.word) : []),
          ],
          `${number} ${term.word} given`,
        )
      }
    />
  );
  return (
    <Box key={key} sx={{ display: 'grid', gap: 1.75, alignContent: 'start' }}>
      <Head targets={targets}>
        {targets.length > 1 && (
          <ToggleButtonGroup
            exclusive
            size="small"
            aria-label="What typing does where something is said already"
            value={way}
            onChange={(_, next: WriteWay | null) => next && setWay(next)}
          >
            {(Object.keys(WAYS) as WriteWay[]).map((one) => (
              <ToggleButton key={one} value={one} sx={{ px: 1, py: 0.25 }}>
                {WAYS[one]}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
        )}
      </Head>
      {OWN_FIELDS.slice(0, 1).map(line)}
      {used.length > 0 && roster}
      {words('persons', 'Persons shown', 'Person')}
      {words('keywords', 'Keywords', 'Keyword')}
      {OWN_FIELDS.slice(1).map(line)}
      <Fields fields={PLACE_FIELDS} line={line} />
      <Note targets={targets} onWrite={write} onNext={onNext} />
      {used.length === 0 && roster}
      <Section title="Rights and contact" folded="describe.rights">
        <Box sx={{ display: 'grid', gap: 1.75, pt: 0.75 }}>
          <Fields fields={RIGHTS_FIELDS} line={line} />
        </Box>
      </Section>
    </Box>
  );
}

const asDescribed = (frames: readonly LoadedFrame[]) =>
  frames.map((frame) => ({ id: frame.id, marks: frame }));

const captionsWith = (frames: readonly LoadedFrame[], name: string): FrameChange[] =>
  frames.map(({ id, caption, persons }) => ({
    ...{ id, field: 'caption' as const },
    to: captionWith(caption, name, keywordsIn(persons)),
  }));

const givenTo = (frames: readonly LoadedFrame[], { keywords, persons }: Given): FrameChange[] => [
  ...wordChangesOf(frames, 'keywords', keywords, true),
  ...wordChangesOf(frames, 'persons', persons, true),
];

const wordChangesOf = (
  frames: readonly LoadedFrame[],
  set: WordSet,
  words: readonly string[],
  to: boolean,
): FrameChange[] =>
  words.flatMap((word) =>
    frames.map(({ id }) => ({ id, field: set === 'keywords' ? keywordKind(word) : personKind(word), to })),
  );

/** Fields under each other, those of half a line in pairs. */
function Fields({ fields, line }: { fields: readonly AskedField[]; line: (field: AskedField) => ReactNode }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 1.25, rowGap: 1.75 }}>
      {fields.map((field) => (
        <Box key={field.field} sx={{ gridColumn: field.half ? undefined : '1 / -1' }}>
          {line(field)}
        </Box>
      ))}
    </Box>
  );
}

function Head({ targets, children }: { targets: readonly LoadedFrame[]; children: ReactNode }) {
  const [first] = targets;
  if (!first) return null;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ ...CAPTION, fontSize: 15, overflowWrap: 'anywhere' }}>
        {targets.length === 1 ? first.name : many(targets.length, 'frame')}
        <Box component="span" sx={{ color: INK.soft }}>
          {targets.length === 1
            ? ` · ${first.time?.slice(11, 19) ?? 'no time'}`
            : ' · what is written here is written into all of them'}
        </Box>
      </Box>
      {children}
    </Box>
  );
}

/** Words to whoever edits it; where on the picture they point stays as it was. */
function Note({
  targets,
  onWrite,
  onNext,
}: {
  targets: readonly LoadedFrame[];
  onWrite: Describe['write'];
  onNext: (by: 1 | -1) => void;
}) {
  const noteIn = ({ note }: LoadedFrame) => (note === null ? null : noteOf(note));
  return (
    <FieldLine
      name="note"
      label="Note to the editor"
      texts={targets.map((frame) => noteIn(frame)?.words || null)}
      way="replace"
      onWrite={(typed) =>
        onWrite(
          targets.map((frame) => ({
            ...{ id: frame.id, field: 'note' as const },
            to: noteText({ words: typed.slice(0, NOTE_MOST), spot: noteIn(frame)?.spot ?? null }),
          })),
          'Note written',
        )
      }
      onNext={onNext}
    />
  );
}
