import { BLOCK_SAMPLES, blocksOf, decodeBlock, encodeBlock, type Samples } from '@firm-needle/core/trace';

const HEADERS = { 'x-firm-needle': '1' };

/** A kept trace as the server tells it. */
export interface KeptMeta {
  readonly id: string;
  readonly name: string;
  readonly kind: string;
  readonly unit: string;
  readonly channels: readonly string[];
  readonly samples: number;
  readonly missing: readonly number[];
}

async function asked(path: string, init: RequestInit): Promise<Response> {
  const r = await fetch(`/api/v1/traces/${path}`, { credentials: 'same-origin', ...init });
  if (r.ok) return r;
  const problem = (await r.json().catch(() => ({}))) as { detail?: string };
  throw new Error(problem.detail ?? `The server answered ${r.status}.`);
}

const streamed = async (
  bytes: BodyInit,
  through: GenericTransformStream,
): Promise<Uint8Array<ArrayBuffer>> => {
  const body = new Response(bytes).body;
  if (!body) throw new Error('Nothing to send.');
  return new Uint8Array(await new Response(body.pipeThrough(through)).arrayBuffer());
};

/**
 * Sends a trace block by block, only those that the server does not have yet: called again after the line broke, it goes on.
 * @returns how many blocks were sent
 */
export async function sendTrace(
  id: string,
  meta: Readonly<Record<string, unknown>>,
  samples: Samples,
  progress: (part: number) => void,
): Promise<number> {
  const json = { 'content-type': 'application/json', ...HEADERS };
  const opened = await asked(id, { method: 'PUT', headers: json, body: JSON.stringify(meta) });
  const { missing } = (await opened.json()) as KeptMeta;
  const all = blocksOf(samples.p.length);
  let sent = 0;
  for (const block of missing) {
    progress((all - missing.length + sent) / all);
    const raw = encodeBlock(samples, block);
    await asked(`${id}/blocks/${block}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream', ...HEADERS },
      body: await streamed(raw.buffer as ArrayBuffer, new CompressionStream('gzip')),
    });
    sent++;
  }
  progress(1);
  return sent;
}

/** The samples of a kept trace, block by block. */
export async function fetchTrace(meta: KeptMeta, progress: (part: number) => void): Promise<Samples> {
  const out: Samples = {
    t: new Float64Array(meta.samples),
    p: new Float64Array(meta.samples),
    states: Object.fromEntries(meta.channels.map((c) => [c, new Float64Array(meta.samples)])),
  };
  const all = blocksOf(meta.samples);
  for (let block = 0; block < all; block++) {
    progress(block / all);
    const packed = await (await asked(`${meta.id}/blocks/${block}`, {})).arrayBuffer();
    const part = decodeBlock(await streamed(packed, new DecompressionStream('gzip')), meta.channels);
    if (!part.ok) throw new Error(part.refusal.message);
    const at = block * BLOCK_SAMPLES;
    out.t.set(part.value.t, at);
    out.p.set(part.value.p, at);
    for (const c of meta.channels) out.states[c]?.set(part.value.states[c] ?? [], at);
  }
  progress(1);
  return out;
}
