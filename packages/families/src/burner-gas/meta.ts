import type { FamilyMeta } from '@firm-needle/core/family';

export const burnerGasMeta: FamilyMeta = {
  id: 'burner-gas',
  title: 'Burner gas train',
  version: 1,
  what: 'Gas to a burner: what is supplied, what its regulator gives, and the switches that prove gas and air.',
  trace: { kind: 'levels', title: 'Burner gas regulator' },
};
