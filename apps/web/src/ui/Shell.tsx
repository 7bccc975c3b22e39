import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { useAppDispatch } from '../store/index.ts';
import { useMe } from '../store/me.ts';
import { findShown } from '../store/ui.ts';
import { Brand } from './Brand.tsx';
import { SearchIcon } from './icons.tsx';
import { Shortcuts } from './Shortcuts.tsx';
import { SyncStatus } from './SyncStatus.tsx';
import { UserMenu } from './UserMenu.tsx';
import { useWide } from './useWide.ts';

type Place = readonly [path: string, title: string];

/** Always in the bar. */
const FIRST: readonly Place[] = [
  ['/', 'Today'],
  ['/due', 'Due'],
  ['/sites', 'Sites'],
  ['/gauges', 'Gauges'],
];
/** In the bar where there is room, under More where there is not. */
const MORE: readonly Place[] = [
  ['/reckoner', 'Reckoner'],
  ['/traces', 'Traces'],
];
const PRACTICE: Place = ['/practice', 'Practice'];
const PEOPLE: Place = ['/people', 'People'];
const ACCOUNT: Place = ['/account', 'Your account'];

/** Header and places around every page that is not a job. */
export function Shell() {
  const wide = useWide();
  const { role } = useMe();
  const dispatch = useAppDispatch();
  const more = role === 'reader' ? MORE : [...MORE, PRACTICE, PEOPLE];
  const shown = wide ? [...FIRST, ...more] : FIRST;
  return (
    <div className="shell">
      <a className="skip" href="#main">
        Skip to the page
      </a>
      <header className="top">
        {wide && (
          <span className="brand">
            <Brand />
            <strong>Firm Needle</strong>
          </span>
        )}
        <nav className="places" aria-label="Places">
          {shown.map(([path, title]) => (
            <NavLink key={path} to={path} end={path === '/'}>
              {title}
            </NavLink>
          ))}
          {!wide && <More places={[...more, ACCOUNT]} />}
        </nav>
        <span className="grow" />
        <IconButton
          aria-label="Find anything"
          onClick={() => dispatch(findShown(true))}
          className="find-button"
        >
          <SearchIcon />
        </IconButton>
        {wide && <SyncStatus />}
        <UserMenu />
      </header>
      <main id="main" className="page">
        <Outlet />
      </main>
      <Shortcuts />
    </div>
  );
}

/** What a narrow bar has no room for. */
function More({ places }: { places: readonly Place[] }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const here = places.some(([path]) => pathname.startsWith(path));
  return (
    <>
      <button
        type="button"
        className={`places-more${here ? ' active' : ''}`}
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        More
      </button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {places.map(([path, title]) => (
          <MenuItem
            key={path}
            selected={pathname.startsWith(path)}
            onClick={() => {
              setAnchor(null);
              void navigate(path);
            }}
          >
            {title}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
