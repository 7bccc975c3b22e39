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
// The style sheets of the app are not loaded here; those of its parts decide nothing that a test looks at, and to ask them all of every
// element is most of the time. What an element says of itself, or an attribute says of it, is all that hides it.
const SHOWN = { display: 'block', visibility: 'visible', content: '', opacity: '1' };
globalThis.getComputedStyle = (element, pseudo) => {
  const own = pseudo ? {} : element.style;
  const of = (name) =>
    (name === 'display' && element.hidden ? 'none' : own[name]) ||
    SHOWN[name] ||
    (name in own ? '' : undefined);
  return new Proxy(own, {
    get: (_, name) => (name === 'getPropertyValue' ? (asked) => of(asked) ?? '' : of(name)),
  });
};
