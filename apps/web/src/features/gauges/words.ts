/** Kinds of gauge, as they are called. */
export const KIND: Readonly<Record<string, string>> = {
  bourdon: 'Bourdon',
  digital: 'digital',
  'u-tube': 'U-tube',
  diaphragm: 'diaphragm',
  bench: 'bench',
  thermometer: 'thermometer',
};

/** How the newest signed check left a gauge. */
export const STANDING = { fit: 'fit', restricted: 'restricted', failed: 'failed' } as const;
