import { Box, Typography } from '@mui/material';
import { LABELS, type Label } from '@arkiv/core';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { LabelTab } from '../../parts/Marks';
import { CAPTION, INK } from '../../theme/theme';
import { KeptField } from './KeptField';
import { countMatching, type Sample } from './useSample';

const MAX_NAME = 30;
const MAX_TEXT = 60;

/** The five labels: what the studio calls them, what it means by them, and what other programs read. */
export function Labels({ settings, sample }: { settings: Api['SettingsDto']; sample: Sample | null }) {
  const { labels, labelWords, labelAlso } = settings;
  const word = (label: Label, change: Partial<Api['LabelWordsDto']>) =>
    changeSettings((now) => ({
      labelWords: { ...now.labelWords, [label]: { ...now.labelWords[label], ...change } },
    }));
  const textProblem = (label: Label) => (text: string) => {
    if (text.trim() === '') return 'Sidecars need a text for it.';
    if (text.length > MAX_TEXT) return `At most ${MAX_TEXT} characters.`;
    const other = LABELS.find((l) => l !== label && labels[l] === text.trim());
    return other ? `Label ${other} has this text: each needs one of its own.` : null;
  };
  const alsoProblem = (label: Label, texts: readonly string[]): string | null => {
    if (texts.some((text) => text.length > MAX_TEXT)) return `At most ${MAX_TEXT} characters each.`;
    const other = (text: string) =>
      LABELS.find(
        (l) =>
          l !== label && [labels[l]!, ...labelAlso[l]!].some((t) => t.toLowerCase() === text.toLowerCase()),
      );
    const taken = texts.find(other);
    return taken ? `“${taken}” means label ${other(taken)} already.` : null;
  };
  return (
    <Box>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: '28px minmax(0, 3fr) minmax(0, 4fr) minmax(0, 3fr) minmax(0, 3fr) 78px',
          gap: 1.5,
          alignItems: 'start',
        }}
      >
        {['', 'Name', 'Means', 'Text in sidecars', 'Also read as it', ''].map((head, i) => (
          <Box key={i} sx={{ ...CAPTION, color: INK.faint }}>
            {head}
          </Box>
        ))}
        {LABELS.map((label) => (
          <Box key={label} sx={{ display: 'contents' }} role="group" aria-label={`Label ${label}`}>
            <Box sx={{ pt: 1 }}>
              <LabelTab label={label} />
            </Box>
            <KeptField
              hideLabel
              label={`Name of label ${label}`}
              value={labelWords[label].name}
              placeholder={labels[label]}
              check={(text) => (text.length > MAX_NAME ? `At most ${MAX_NAME} characters.` : null)}
              keep={(name) => word(label, { name: name.trim() })}
            />
            <KeptField
              hideLabel
              label={`What label ${label} means`}
              value={labelWords[label].meaning}
              placeholder="such as: for the press"
              keep={(meaning) => word(label, { meaning: meaning.trim() })}
            />
            <KeptField
              hideLabel
              label={`Text of label ${label} in sidecars`}
              value={labels[label]!}
              check={textProblem(label)}
              keep={(text) => changeSettings((now) => ({ labels: { ...now.labels, [label]: text.trim() } }))}
            />
            <KeptField
              hideLabel
              label={`Other texts that mean label ${label}`}
              value={labelAlso[label]!.join(', ')}
              placeholder="such as: Red, Rot"
              check={(text) => alsoProblem(label, textsOf(text))}
              keep={(text) =>
                changeSettings((now) => ({ labelAlso: { ...now.labelAlso, [label]: textsOf(text) } }))
              }
            />
            <Box sx={{ ...CAPTION, color: INK.soft, pt: 1 }}>
              {sample && many(countMatching(sample, { field: 'label', is: label }), 'frame')}
            </Box>
          </Box>
        ))}
      </Box>
      <Typography variant="body2" sx={{ color: INK.soft, mt: 1.5 }}>
        The text is what other programs show and what Arkiv reads back as this label. Sidecars that are
        written already take a new text when their frame is marked next. Other texts, as other programs and
        languages write them, are read as this label whatever their case.
        {sample && ` Frames are counted in “${sample.shoot.title}”.`}
      </Typography>
    </Box>
  );
}

/** Texts that are written with commas between them. */
const textsOf = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((one) => one.trim())
      .filter((one) => one !== ''),
  ),
];
