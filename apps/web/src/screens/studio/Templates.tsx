import { Box, Button, Typography } from '@mui/material';
import { describeFrame, type MetadataTemplate } from '@arkiv/core';
import { useState } from 'react';
import type { Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { labelName } from '../../data/labels';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { NEW_TEMPLATE, TemplateDialog } from '../../parts/TemplateDialog';
import { INK } from '../../theme/theme';
import { Saved } from './Saved';
import { sampleWords, type Sample } from './useSample';

const NO_WORDS = { creator: null, rights: null, caption: null };

/** What is stamped on each frame of a card: words, and where wanted stars or a label to begin with. */
export function Templates({ settings, sample }: { settings: Api['SettingsDto']; sample: Sample | null }) {
  const [open, setOpen] = useState<MetadataTemplate | null>(null);
  const facts = sampleWords(sample, settings.creator);
  const {
    run: send,
    error,
    again,
  } = useAction((change: (now: Api['SettingsDto']) => Api['ChangeSettingsDto']) => changeSettings(change));
  const example = (template: MetadataTemplate) => {
    const { keywords, persons, ...texts } = describeFrame(template, facts, NO_WORDS);
    const said = [
      ...Object.values(texts).filter(Boolean),
      ...persons,
      ...keywords,
      template.stars ? `${template.stars}★` : '',
      template.label ? `label ${template.label} ${labelName(settings, template.label)}` : '',
    ].filter(Boolean);
    return said.join(' · ') || 'It says nothing yet.';
  };
  return (
    <Box>
      {(settings.templates as MetadataTemplate[]).map((template) => (
        <Saved
          key={template.id}
          name={template.name}
          example={example(template)}
          isDefault={template.id === settings.template}
          onOpen={() => setOpen(template)}
          onDefault={template.id === settings.template ? null : () => send(() => ({ template: template.id }))}
          onRemove={() =>
            send((now) => ({
              templates: now.templates.filter(({ id }) => id !== template.id),
              ...(template.id === now.template && { template: null }),
            }))
          }
        />
      ))}
      <Button color="inherit" size="small" sx={{ mt: 1, px: 0 }} onClick={() => setOpen(NEW_TEMPLATE)}>
        New template …
      </Button>
      <Typography variant="body2" sx={{ color: INK.soft, mt: 0.5 }}>
        A template goes into the sidecars of the next card’s frames; the camera’s files stay as they are.
        Removing one from the list changes no frame.
      </Typography>
      <Problem error={error} again={again} />
      {open && (
        <TemplateDialog
          settings={settings}
          template={open}
          facts={facts}
          camera={NO_WORDS}
          useWords={null}
          onUse={() => setOpen(null)}
          onClose={() => setOpen(null)}
        />
      )}
    </Box>
  );
}
