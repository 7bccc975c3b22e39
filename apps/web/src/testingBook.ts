// Shared by the web's tests: records of a firm's book, bare but for what a test says of them.
import type { Site, SiteControl, SiteEquipment } from '@firm-needle/contract';

export const controlOf = (id: string, name: string, over: Partial<SiteControl> = {}): SiteControl => ({
  id,
  name,
  family: 'well-switch',
  due: null,
  story: null,
  months: null,
  lawMonths: null,
  lawBy: null,
  customerDay: null,
  version: 1,
  retired: false,
  ...over,
});

export const equipmentOf = (
  id: string,
  name: string,
  controls: readonly SiteControl[],
  over: Partial<SiteEquipment> = {},
): SiteEquipment => ({
  id,
  name,
  notes: null,
  maker: null,
  model: null,
  serial: null,
  made: null,
  version: 1,
  retired: false,
  controls,
  ...over,
});

export const siteOf = (
  id: string,
  name: string,
  equipment: readonly SiteEquipment[],
  over: Partial<Site> = {},
): Site => ({
  id,
  name,
  altitude_m: 3,
  notes: null,
  customer: null,
  address: null,
  contact: null,
  access: null,
  hazards: null,
  unit: null,
  version: 1,
  retired: false,
  equipment,
  ...over,
});
