// What a family's `kit.ts` is made of; the core runs it.
export {
  BENCH_M,
  dial,
  faultsOf,
  installed,
  otherwise,
  rigFor,
  workedOn,
  type Hidden,
  type Installed,
  type Kit,
  type KitTrace,
  type KitVariant,
  type Right,
  type Seldom,
} from '@firm-needle/core/script';
