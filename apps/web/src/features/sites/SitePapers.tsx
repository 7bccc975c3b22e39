import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { useMe } from '../../store/me.ts';
import { fileUrl } from '../../handover/files.ts';

/** What of a site can be taken away on paper or as a file. */
export function SitePapers({ site }: { site: string }) {
  const { role } = useMe();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const files = [
    ['Tags, to be cut out', fileUrl(`/sites/${site}/tags.pdf`), 'all'],
    ['Readings, CSV', `/api/v1/export/readings.csv?site=${site}`, 'all'],
    ['Settings, CSV', `/api/v1/export/settings.csv?site=${site}`, 'all'],
    ['Dossier, JSON', `/api/v1/sites/${site}/dossier.json`, 'supervisor'],
  ].filter(([, , who]) => who !== 'supervisor' || role === 'supervisor');
  return (
    <>
      <Button aria-haspopup="menu" onClick={(e) => setMenu(e.currentTarget)}>
        Papers
      </Button>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)} onClick={() => setMenu(null)}>
        {files.map(([title, url]) => (
          <MenuItem key={title} component="a" href={url ?? ''} target="_blank" rel="noreferrer">
            {title}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
