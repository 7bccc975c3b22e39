import type { Problem, Site } from '@firm-needle/contract';
import { v7 as uuid } from 'uuid';
import { useState } from 'react';
import { useSaveSiteMutation } from '../../store/api.ts';
import { useKeepNew } from '../../store/keep.ts';
import { retiredApart } from '../../ui/Meanwhile.tsx';
import { RecordDialog, type Fields } from '../../ui/RecordDialog.tsx';
import { problemOf } from '../../ui/States.tsx';
import { Retire } from './Retire.tsx';
import { SITE_FIELDS, siteFields, siteForm } from './words.ts';

/** A customer's site: new, or corrected. */
export function SiteDialog({
  site,
  onClose,
  onKept,
}: {
  site: Site | undefined;
  onClose: () => void;
  onKept?: (id: string) => void;
}) {
  const [save] = useSaveSiteMutation();
  const keepNew = useKeepNew();
  // One site, however often its form is sent.
  const [id] = useState(() => site?.id ?? uuid());
  const keep = async (f: Fields, version: number, retired = site?.retired): Promise<Problem | undefined> => {
    const body = siteForm(f, version, retired);
    const send = () => save({ id, body });
    const problem = site ? problemOf((await send()).error) : await keepNew(`/sites/${id}`, body, send);
    if (!problem) onKept?.(id);
    return problem;
  };
  return (
    <RecordDialog
      title={site ? site.name : 'A new site'}
      fields={SITE_FIELDS}
      values={siteFields(site)}
      version={site?.version ?? 0}
      onKeep={(f, version, taken) => keep(f, version, (taken as Site | undefined)?.retired)}
      beside={(current) => retiredApart(site?.retired, (current as Site).retired)}
      shown={(current) => {
        const now = current as Site | undefined;
        return now && { values: siteFields(now), version: now.version };
      }}
      keep="Keep the site"
      onClose={onClose}
      acts={
        site && (
          <Retire
            of={site}
            what="the site"
            onRetire={(r) => keep(siteFields(site), site.version + 1, r)}
            done={onClose}
          />
        )
      }
    />
  );
}
