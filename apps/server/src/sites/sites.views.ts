import type { Sent, SiteControl, SiteEquipment, Site as SiteAnswer } from '@firm-needle/contract';
import type { Control, Equipment, Site } from '../database/models.js';

export const viewControl = (c: Control): Sent<SiteControl> => ({
  id: c.id,
  name: c.name,
  family: c.family,
  due: c.due,
  story: c.story,
  months: c.months,
  lawMonths: c.lawMonths,
  lawBy: c.lawBy,
  customerDay: c.customerDay,
  version: c.version,
  retired: c.retiredAt !== null,
});

export const viewEquipment = (e: Equipment): Sent<SiteEquipment> => ({
  id: e.id,
  name: e.name,
  notes: e.notes,
  maker: e.maker,
  model: e.model,
  serial: e.serial,
  made: e.made,
  version: e.version,
  retired: e.retiredAt !== null,
  controls: (e.controls ?? []).map(viewControl),
});

export const viewSite = (s: Site, equipment: readonly Equipment[]): Sent<SiteAnswer> => ({
  id: s.id,
  name: s.name,
  altitude_m: s.altitudeM,
  notes: s.notes,
  customer: s.customer,
  address: s.address,
  contact: s.contact,
  access: s.access,
  hazards: s.hazards,
  unit: s.unit,
  version: s.version,
  retired: s.retiredAt !== null,
  equipment: equipment.map(viewEquipment),
});
