import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../store/api.ts';
import { useAppDispatch, useAppSelector } from '../store/index.ts';
import { leave, tellLeaving } from '../store/leaving.ts';
import { forgetMe, useMe } from '../store/me.ts';
import { shortcutsShown, sounded, themed } from '../store/ui.ts';
import { outbox } from '../sync/outbox.ts';
import { useWide } from './useWide.ts';

const initials = (name: string): string => {
  const [first = '', ...rest] = name.split(' ');
  return rest.length > 0 ? `${first.charAt(0)}. ${rest.at(-1) ?? ''}` : name;
};

const letters = (name: string): string =>
  name
    .split(' ')
    .map((part) => part.charAt(0))
    .join('');

export function UserMenu() {
  const wide = useWide();
  const me = useMe();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { theme, sound, outbox: box } = useAppSelector((s) => s.ui);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [warn, setWarn] = useState(false);
  const close = (): void => setAnchor(null);
  const signOut = async (): Promise<void> => {
    setWarn(false);
    // Shut here at once, signal or none; the server is told now or when it can be reached.
    leave();
    await tellLeaving();
    forgetMe();
    outbox.use(undefined);
    // Another account on this device must not be shown what this one looked at.
    await caches?.delete('firm-needle-api').catch(() => false);
    dispatch(api.util.resetApiState());
    void navigate('/sign-in');
  };
  return (
    <>
      <Button
        size="small"
        variant="text"
        onClick={(e) => setAnchor(e.currentTarget)}
        aria-haspopup="menu"
        className="user-button"
      >
        {wide ? initials(me.name) : <span aria-label={me.name}>{letters(me.name)}</span>}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close}>
        {wide && (
          <MenuItem
            onClick={() => {
              close();
              void navigate('/account');
            }}
          >
            Your account
          </MenuItem>
        )}
        <MenuItem
          onClick={() => {
            dispatch(themed(theme === 'daylight' ? 'plant' : 'daylight'));
            close();
          }}
        >
          {theme === 'daylight' ? 'Plant-room theme' : 'Daylight theme'}
        </MenuItem>
        <MenuItem onClick={() => dispatch(sounded(!sound))}>
          {sound ? 'Turn sounds off' : 'Turn sounds on'}
        </MenuItem>
        <MenuItem
          onClick={() => {
            dispatch(shortcutsShown(true));
            close();
          }}
        >
          Shortcuts
        </MenuItem>
        <Divider />
        <MenuItem
          onClick={() => {
            close();
            if (box.kept > 0) setWarn(true);
            else void signOut();
          }}
        >
          Sign out
        </MenuItem>
      </Menu>
      <Dialog open={warn} onClose={() => setWarn(false)}>
        <DialogTitle>{box.kept} entries were not sent yet</DialogTitle>
        <DialogContent>
          They stay on this device and are sent when you sign in here again. Signing out now keeps them from
          the office until then.
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setWarn(false)}>Stay</Button>
          <Button onClick={() => void signOut()}>Sign out all the same</Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
