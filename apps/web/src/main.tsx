import '@fontsource-variable/archivo/wdth.css';
import { CssBaseline, ThemeProvider } from '@mui/material';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { SWRConfig } from 'swr';
import { App } from './App';
import { fetchKept } from './data/http';
import { theme } from './theme/theme';

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={theme}>
      <CssBaseline />
      {/* Events tell what changed: nothing is asked for again on a timer or on focus. */}
      <SWRConfig value={{ fetcher: fetchKept, revalidateOnFocus: false, shouldRetryOnError: false }}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </SWRConfig>
    </ThemeProvider>
  </StrictMode>,
);
