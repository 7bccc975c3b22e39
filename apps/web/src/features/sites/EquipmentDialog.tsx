import type { Problem, SiteEquipment } from '@firm-needle/contract';
import { useState } from 'react';
import { v7 as uuid } from 'uuid';
import { useSaveEquipmentMutation } from '../../store/api.ts';
import { useKeepNew } from '../../store/keep.ts';
import { retiredApart } from '../../ui/Meanwhile.tsx';
import { RecordDialog, type Fields } from '../../ui/RecordDialog.tsx';
import { problemOf } from '../../ui/States.tsx';
import { Retire } from './Retire.tsx';
import { EQUIPMENT_FIELDS, equipmentFields, equipmentForm } from './words.ts';

/** A piece of equipment with what its maker's plate says. */
export function EquipmentDialog({
  site,
  equipment,
  onClose,
}: {
  site: string;
  equipment: SiteEquipment | undefined;
  onClose: () => void;
}) {
  const [save] = useSaveEquipmentMutation();
  const keepNew = useKeepNew();
  const [id] = useState(() => equipment?.id ?? uuid());
  const keep = async (
    f: Fields,
    version: number,
    retired = equipment?.retired,
  ): Promise<Problem | undefined> => {
    const body = equipmentForm(f, site, version, retired);
    const send = () => save({ id, body });
    return equipment ? problemOf((await send()).error) : keepNew(`/equipment/${id}`, body, send);
  };
  return (
    <RecordDialog
      title={equipment ? equipment.name : 'New equipment'}
      fields={EQUIPMENT_FIELDS}
      values={equipmentFields(equipment)}
      version={equipment?.version ?? 0}
      onKeep={(f, version, taken) => keep(f, version, (taken as SiteEquipment | undefined)?.retired)}
      beside={(current) => retiredApart(equipment?.retired, (current as SiteEquipment).retired)}
      shown={(current) => {
        const now = current as SiteEquipment | undefined;
        return now && { values: equipmentFields(now), version: now.version };
      }}
      keep="Keep the equipment"
      onClose={onClose}
      acts={
        equipment && (
          <Retire
            of={equipment}
            what="it"
            onRetire={(r) => keep(equipmentFields(equipment), equipment.version + 1, r)}
            done={onClose}
          />
        )
      }
    />
  );
}
