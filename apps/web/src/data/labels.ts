import type { Label } from '@arkiv/core';
import type { Api } from './http';

type Named = Pick<Api['SettingsDto'], 'labels' | 'labelWords'>;

/** What the studio calls a label; the text it writes to sidecars where it has no other name. */
export const labelName = (settings: Named, label: Label): string =>
  settings.labelWords[label].name || settings.labels[label]!;

/** Names of all labels, for a caption line. */
export const labelNames = (settings: Named | undefined): Record<string, string> =>
  settings
    ? Object.fromEntries(
        Object.keys(settings.labels).map((label) => [label, labelName(settings, label as Label)]),
      )
    : {};
