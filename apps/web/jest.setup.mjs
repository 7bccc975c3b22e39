// jsdom hides Node's own structuredClone, which the stand-in for IndexedDB needs; what is stored here is plain JSON.
globalThis.structuredClone ??= (value) => JSON.parse(JSON.stringify(value));
