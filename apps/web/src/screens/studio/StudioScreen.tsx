import { Box } from '@mui/material';
import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { useSettings } from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { Drives } from './Drives';
import { Keys } from './Keys';
import { Labels } from './Labels';
import { Machine } from './Machine';
import { Mail } from './Mail';
import { Destinations } from './Destinations';
import { OutputSpecs } from './OutputSpecs';
import { Plans } from './Plans';
import { Rules } from './Rules';
import { Stages } from './Stages';
import { StudioFacts } from './StudioFacts';
import { Templates } from './Templates';
import { WatchedFolders } from './WatchedFolders';
import { useSample } from './useSample';

const PARTS = [
  ['studio', 'Studio'],
  ['drives', 'Drives and copies'],
  ['watched', 'Watched folders'],
  ['plans', 'Names and folders'],
  ['templates', 'Metadata templates'],
  ['labels', 'Labels'],
  ['rules', 'Keepers and rejects'],
  ['stages', 'Stages'],
  ['specs', 'Output specs'],
  ['destinations', 'Destinations'],
  ['mail', 'Mail'],
  ['keys', 'Keys'],
  ['machine', 'This machine'],
] as const;

/** What the studio decides once. Each setting says what it changes, by an example from the archive. */
export function StudioScreen() {
  const { data: settings, error } = useSettings();
  const sample = useSample();
  const { hash } = useLocation();
  useEffect(() => {
    if (hash && settings) document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [hash, settings]);
  return (
    <Page title="Studio" lead="What is decided once. Changes are kept as you leave a field.">
      <Problem error={error} />
      <Box
        component="nav"
        aria-label="Parts of the studio"
        sx={{ display: 'flex', flexWrap: 'wrap', gap: 2.5, mb: 3 }}
      >
        {PARTS.map(([id, title]) => (
          <TextLink key={id} to={`#${id}`}>
            {title}
          </TextLink>
        ))}
        <TextLink to="/vocabulary">Vocabulary</TextLink>
        <TextLink to="/space">Space</TextLink>
        <TextLink to="/archives">Archives on this computer</TextLink>
      </Box>
      {!settings && !error && <Loading what="the settings" />}
      {settings &&
        PARTS.map(([id, title]) => (
          <Box key={id} id={id} sx={{ scrollMarginTop: 16 }}>
            <Section title={title}>
              {id === 'studio' && <StudioFacts settings={settings} />}
              {id === 'drives' && <Drives settings={settings} />}
              {id === 'watched' && <WatchedFolders />}
              {id === 'plans' && <Plans settings={settings} sample={sample} />}
              {id === 'templates' && <Templates settings={settings} sample={sample} />}
              {id === 'labels' && <Labels settings={settings} sample={sample} />}
              {id === 'rules' && <Rules settings={settings} sample={sample} />}
              {id === 'stages' && <Stages settings={settings} />}
              {id === 'specs' && <OutputSpecs />}
              {id === 'destinations' && <Destinations />}
              {id === 'mail' && <Mail />}
              {id === 'keys' && <Keys settings={settings} />}
              {id === 'machine' && <Machine settings={settings} />}
            </Section>
          </Box>
        ))}
    </Page>
  );
}
