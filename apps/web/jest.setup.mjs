// Long enough for a machine that is busy: what never comes is found all the same.
import { configure } from '@testing-library/dom';
import { TextDecoder, TextEncoder } from 'node:util';
configure({ asyncUtilTimeout: 10_000 });
// What every browser has and jsdom hides.
globalThis.TextEncoder ??= TextEncoder;
globalThis.TextDecoder ??= TextDecoder;
// What is stored in these tests is plain JSON.
globalThis.structuredClone ??= (value) => JSON.parse(JSON.stringify(value));
globalThis.matchMedia ??= (query) => ({
  matches: false,
  media: query,
  addEventListener() {},
  removeEventListener() {},
  addListener() {},
  removeListener() {},
});
// One tab has nobody to talk to.
globalThis.BroadcastChannel ??= class {
  addEventListener() {}
  removeEventListener() {}
  postMessage() {}
};
// Nothing has a size here.
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
