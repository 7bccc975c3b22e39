import { gunzip } from 'node:zlib';
import { promisify } from 'node:util';
import type { KeptTrace, ListedTrace, OpenedTrace, Page, Sent } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { findUnit } from '@firm-needle/core/quantity';
import { BLOCK_SAMPLES, blocksOf, decodeBlock, type EventCorrection } from '@firm-needle/core/trace';
import { Op, type WhereOptions } from 'sequelize';
import { anywhere } from '../common/like.js';
import { pageOf } from '../common/page.js';
import { forbidden, notFound, Problem } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import { ControlsService } from '../controls/controls.service.js';
import { Control, Equipment, Site, Trace, TraceBlock, TraceCorrection } from '../database/models.js';
import { JobsService } from '../jobs/jobs.service.js';
import type { TraceBody, TracesQuery } from './traces.controller.js';

/** A packed block: time, pressure and a few channels of doubles, which hardly grow when compressed. */
export const MOST_BLOCK_BYTES = 4 * 1024 * 1024;
const COLUMN_BYTES = 8 * BLOCK_SAMPLES;
const MOST_CORRECTIONS = 10_000;
const unzip = promisify(gunzip);

const view = (t: Trace): Sent<ListedTrace> => ({
  id: t.id,
  name: t.name,
  kind: t.kind,
  unit: t.unit,
  channels: t.channels,
  samples: t.samples,
  from_s: t.fromS,
  to_s: t.toS,
  offset_s: t.clockOffsetS,
  controlId: t.controlId,
  jobId: t.jobId,
  place: t.control ? [t.control.equipment?.site?.name, t.control.name].filter(Boolean).join(' · ') : null,
  createdAt: t.createdAt,
});

/** Where a trace was recorded: its control, on what, and at which site. */
const PLACE = [
  {
    model: Control,
    required: false,
    attributes: ['name'],
    include: [
      {
        model: Equipment,
        required: false,
        attributes: ['name'],
        include: [{ model: Site, required: false, attributes: ['name'] }],
      },
    ],
  },
];

/** Traces whose name, or whose place, holds some letters. */
const named = (q: string): WhereOptions => {
  const like = { [Op.like]: anywhere(q) };
  return {
    [Op.or]: [{ name: like }, { '$control.name$': like }, { '$control.equipment.site.name$': like }],
  };
};

/** Recorded traces, kept in compressed blocks that can be sent again from where the line broke. */
@Injectable()
export class TracesService {
  constructor(
    @InjectModel(Trace) private readonly traces: typeof Trace,
    @InjectModel(TraceBlock) private readonly blocks: typeof TraceBlock,
    @InjectModel(TraceCorrection) private readonly corrections: typeof TraceCorrection,
    private readonly controls: ControlsService,
    private readonly jobs: JobsService,
  ) {}

  async list(actor: Actor, query: TracesQuery): Promise<Sent<Page<ListedTrace>>> {
    // A customer's account sees the traces of a control that it may see.
    if (query.control) await this.controls.reach(actor, query.control);
    else if (query.job) await this.jobs.reach(actor, query.job);
    else if (actor.site) return { items: [], next: null };
    const limit = query.limit ?? 50;
    const rows = await this.traces.findAll({
      where: {
        organisationId: actor.organisation.id,
        ...(query.control ? { controlId: query.control } : {}),
        ...(query.job ? { jobId: query.job } : {}),
        ...(query.after ? { id: { [Op.lt]: query.after } } : {}),
        ...(query.q ? named(query.q) : {}),
      },
      include: PLACE,
      subQuery: false,
      order: [['id', 'DESC']],
      limit: limit + 1,
    });
    const page = pageOf(rows, limit, (t) => t.id);
    return { items: page.items.map(view), next: page.next };
  }

  async one(actor: Actor, id: string): Promise<Sent<KeptTrace>> {
    const trace = await this.reach(actor, id);
    const said = await this.corrections.findAll({ where: { traceId: id }, order: ['at', 'id'] });
    return { ...view(trace), missing: await this.missing(trace), corrections: said.map((c) => c.body) };
  }

  async open(actor: Actor, id: string, body: TraceBody): Promise<Sent<OpenedTrace>> {
    this.mayRecord(actor);
    if (findUnit(body.unit)?.dimension !== 'pressure')
      throw wrong('unit', `"${body.unit}" is no unit of pressure.`, 'a unit of pressure such as psi');
    if (!(body.to_s >= body.from_s)) throw wrong('to_s', 'The trace ends before it begins.', 'to_s ≥ from_s');
    if (body.controlId) await this.controls.reach(actor, body.controlId);
    const job = body.jobId ? await this.jobs.reach(actor, body.jobId) : undefined;
    const there = await this.traces.findByPk(id);
    if (there && there.organisationId !== actor.organisation.id) throw notFound('trace');
    if (there && there.samples !== body.samples)
      throw new Problem(409, 'trace-differs', 'Another trace stands under this id.', {
        remedy: 'Keep the file again under a new id.',
      });
    const trace =
      there ??
      (await this.traces.create({
        id,
        organisationId: actor.organisation.id,
        controlId: body.controlId ?? job?.controlId ?? null,
        jobId: body.jobId ?? null,
        authorId: actor.id,
        name: body.name,
        kind: body.kind,
        unit: body.unit,
        channels: [...body.channels].sort(),
        samples: body.samples,
        fromS: body.from_s,
        toS: body.to_s,
        clockOffsetS: 0,
        createdAt: new Date(),
      }));
    return { ...view(trace), missing: await this.missing(trace) };
  }

  async put(
    actor: Actor,
    id: string,
    block: number,
    packed: unknown,
  ): Promise<{ missing: readonly number[] }> {
    this.mayRecord(actor);
    const trace = await this.reach(actor, id);
    const all = blocksOf(trace.samples);
    if (block < 0 || block >= all)
      throw wrong('block', `This trace has no block ${block}.`, `0 to ${all - 1}`);
    if (!Buffer.isBuffer(packed))
      throw wrong(
        'body',
        'A block is sent as application/octet-stream.',
        `at most ${MOST_BLOCK_BYTES} bytes`,
      );
    const columns = trace.channels.length + 2;
    const bytes = await unzip(packed, { maxOutputLength: 8 + COLUMN_BYTES * columns }).catch(() => undefined);
    const samples = bytes && decodeBlock(bytes, trace.channels);
    const due = Math.min(BLOCK_SAMPLES, trace.samples - block * BLOCK_SAMPLES);
    if (!samples?.ok || samples.value.p.length !== due)
      throw wrong('body', 'These bytes are not that block.', `${due} samples of ${columns} columns, gzipped`);
    await this.blocks.upsert({ traceId: id, block, samples: due, packed });
    return { missing: await this.missing(trace) };
  }

  async block(actor: Actor, id: string, block: number): Promise<Buffer> {
    await this.reach(actor, id);
    const row = await this.blocks.findOne({ where: { traceId: id, block } });
    if (!row) throw notFound('block');
    return row.packed;
  }

  async clock(actor: Actor, id: string, offset: number): Promise<Sent<ListedTrace>> {
    this.mayRecord(actor);
    const trace = await this.reach(actor, id);
    await trace.update({ clockOffsetS: offset });
    return view(trace);
  }

  async correct(
    actor: Actor,
    id: string,
    correction: string,
    body: EventCorrection,
  ): Promise<Sent<KeptTrace>> {
    this.mayRecord(actor);
    const trace = await this.reach(actor, id);
    if ((body.t === undefined) !== (body.p === undefined))
      throw wrong(
        't',
        'An event has a time and a pressure, or neither where there was none.',
        't and p together',
      );
    if (body.t === undefined && body.found_s === undefined)
      throw wrong('found_s', 'Which event was no event?', 'the time of an event that was found');
    if (body.t !== undefined && (body.t < trace.fromS || body.t > trace.toS))
      throw wrong('t', 'This time is not on the trace.', `${trace.fromS} to ${trace.toS} s`);
    if ((await this.corrections.count({ where: { traceId: id } })) >= MOST_CORRECTIONS)
      throw wrong(
        'trace',
        'So many events were corrected that the trace should be read anew.',
        `${MOST_CORRECTIONS}`,
      );
    const there = await this.corrections.findByPk(correction);
    if (there && there.traceId !== id) throw notFound('correction');
    if (!there)
      await this.corrections.create({
        id: correction,
        traceId: id,
        authorId: actor.id,
        at: new Date(),
        body,
      });
    return this.one(actor, id);
  }

  /** Blocks that have not come yet, in order. */
  private async missing(trace: Trace): Promise<readonly number[]> {
    const rows = await this.blocks.findAll({ where: { traceId: trace.id }, attributes: ['block'] });
    const have = new Set(rows.map((r) => r.block));
    return Array.from({ length: blocksOf(trace.samples) }, (_, i) => i).filter((i) => !have.has(i));
  }

  private async reach(actor: Actor, id: string): Promise<Trace> {
    const trace = await this.traces.findOne({
      where: { id, organisationId: actor.organisation.id },
      include: PLACE,
    });
    if (!trace) throw notFound('trace');
    if (actor.site) {
      if (!trace.controlId) throw notFound('trace');
      await this.controls.reach(actor, trace.controlId);
    }
    return trace;
  }

  private mayRecord(actor: Actor): void {
    if (actor.role === 'reader') throw forbidden('Your account may look, not record.');
  }
}

const wrong = (field: string, message: string, bound: string): Problem =>
  new Problem(422, 'trace-wrong', message, { errors: [{ field, message, bound }] });
