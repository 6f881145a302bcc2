import { Box } from '@mui/material';
import { useEffect } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { guideOf } from '../screens/guide/guideOf';
import { GROUND, INK } from '../theme/theme';

const IN_GUIDE = /^\/guide(\/|$)/;
/** Whoever writes means the sign. */
const WRITES = 'input, textarea, select, [contenteditable="true"]';

/** The way to what the guide says of this screen, at a press and at a key; from the guide, back to where one was. */
export function GuideLink() {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const inGuide = IN_GUIDE.test(pathname);
  const to = `/guide/${guideOf(pathname)}`;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key !== '?' || event.defaultPrevented || event.ctrlKey || event.altKey || event.metaKey)
        return;
      // Where keys of their own are in hand, the same sign lists these, and the list leads here.
      if ((event.target as Element).closest?.(`${WRITES}, [role="dialog"]`) || hasKeys(pathname)) return;
      event.preventDefault();
      void (inGuide ? navigate(-1) : navigate(to));
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [pathname, inGuide, to, navigate]);
  return (
    <Box
      component={Link}
      to={to}
      aria-label="Guide to this screen"
      title="Guide to this screen"
      sx={{
        ...{ display: 'inline-flex', alignItems: 'center', height: 48, px: 1.25, textDecoration: 'none' },
        ...{ color: INK.soft, '&:hover': { color: INK.full, bgcolor: GROUND.base } },
      }}
    >
      ?
    </Box>
  );
}

const hasKeys = (path: string): boolean => /\/cull$|^\/find(\/|$)|^\/albums\/.|^\/piles\//.test(path);
