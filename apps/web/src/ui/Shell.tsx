import { NavLink, Outlet } from 'react-router';
import { Brand } from './Brand.tsx';
import { Shortcuts } from './Shortcuts.tsx';
import { SyncStatus } from './SyncStatus.tsx';
import { UserMenu } from './UserMenu.tsx';
import { useWide } from './useWide.ts';

/** Header and places around every page that is not a job. */
export function Shell() {
  const wide = useWide();
  return (
    <div className="shell">
      <a className="skip" href="#main">
        Skip to the page
      </a>
      <header className="top">
        <span className="brand">
          <Brand />
          {wide && <strong>Firm Needle</strong>}
        </span>
        <nav className="places" aria-label="Places">
          <NavLink to="/" end>
            Today
          </NavLink>
          <NavLink to="/sites">Sites</NavLink>
          <NavLink to="/gauges">Gauges</NavLink>
          <NavLink to="/reckoner">Reckoner</NavLink>
          {wide && <NavLink to="/traces">Traces</NavLink>}
        </nav>
        <span className="grow" />
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
