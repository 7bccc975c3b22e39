// The few icons that stand alone on a button: drawn by MUI from the paths of an icon package, themed and sized like its own.
import { mdiBackspaceOutline, mdiMagnify } from '@mdi/js';
import { SvgIcon, type SvgIconProps } from '@mui/material';

const drawn = (path: string) =>
  function Icon(props: SvgIconProps) {
    return (
      <SvgIcon {...props}>
        <path d={path} />
      </SvgIcon>
    );
  };

export const BackspaceIcon = drawn(mdiBackspaceOutline);
export const SearchIcon = drawn(mdiMagnify);
