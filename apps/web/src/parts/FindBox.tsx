import { Box } from '@mui/material';
import { useEffect, useState } from 'react';
import { NavLink, useLocation, useNavigate } from 'react-router';
import { useBindings } from '../data/bindings';
import { NO_QUESTION, questionText } from '../data/findQuestion';
import { pressNames } from '../keys/pressed';
import { GROUND, INK } from '../theme/theme';
import { FIND_BOX, focusFindBox } from './findBox';
import { FIELD } from './lineWidths';

/** What is looked for in the whole archive, from any screen: typed here, found on Find. */
export function FindBox() {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const bindings = useBindings();
  const [line, setLine] = useState('');
  const here = pathname === '/find';
  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.isComposing) return;
      const target = event.target instanceof Element ? event.target : document.body;
      if (target.closest('[role=dialog]')) return;
      if (bindings.boundTo(pressNames(event))?.command.do !== 'find') return;
      event.preventDefault();
      if (here) document.querySelector<HTMLInputElement>('main input[type=search]')?.focus();
      else focusFindBox();
    };
    // Before the screen's own keys, and from within fields too: it is the same everywhere.
    window.addEventListener('keydown', hear, true);
    return () => window.removeEventListener('keydown', hear, true);
  }, [bindings, here]);
  const link = (
    <NavLink
      to="/find"
      id={`${FIND_BOX}-link`}
      style={({ isActive }) => ({
        color: isActive ? INK.full : INK.soft,
        textDecoration: 'none',
        padding: '0 12px',
      })}
    >
      Find
    </NavLink>
  );
  if (here) return link;
  return (
    <>
      <Box
        component="form"
        role="search"
        onSubmit={(event) => {
          event.preventDefault();
          const text = questionText({ ...NO_QUESTION, line });
          setLine('');
          void navigate(`/find${text === '' ? '' : `?${text}`}`);
        }}
        sx={{ display: 'none', [FIELD]: { display: 'block' } }}
      >
        <input
          id={FIND_BOX}
          type="search"
          aria-label="Find in the whole archive"
          placeholder={`Find (${bindings.shown('find')})`}
          autoComplete="off"
          spellCheck={false}
          value={line}
          onChange={(event) => setLine(event.target.value)}
          style={{
            width: 'clamp(110px, 10vw, 170px)',
            font: 'inherit',
            color: INK.full,
            background: GROUND.base,
            border: `1px solid ${GROUND.line}`,
            padding: '4px 10px',
          }}
        />
      </Box>
      <Box component="span" sx={{ [FIELD]: { display: 'none' } }}>
        {link}
      </Box>
    </>
  );
}
