// What a dossier is made of: one list, from which it is written, read, and its JSON Schema made.

export const DOSSIER_FORMAT = 'firm-needle-dossier';
/** Raised when what it holds changes; an older program refuses a newer one. */
export const DOSSIER_VERSION = 1;

export type ColumnType =
  'id' | 'text' | 'whole' | 'number' | 'day' | 'time' | 'json' | 'yes' | 'bytes' | 'hash';

export interface DossierColumn {
  readonly name: string;
  readonly type: ColumnType;
  readonly nullable: boolean;
}

/** By what the rows of a part are found: the site itself, its controls, its jobs, gauges or people that are named, a trace. */
export type Scope =
  'site' | 'equipment' | 'control' | 'job' | 'gauge' | 'person' | 'photo' | 'trace' | 'visit';

export interface DossierPart {
  readonly part: string;
  readonly table: string;
  readonly scope: Scope;
  /** The column that the scope's ids stand in. */
  readonly by: string;
  readonly order: string;
  readonly columns: readonly DossierColumn[];
  /** The table says whose firm a row is. */
  readonly firm: boolean;
}

/** `name:type` for each column, with `?` behind a type that may be missing. */
function part(
  name: string,
  table: string,
  [scope, by]: readonly [Scope, string],
  order: string,
  columns: string,
  firm = true,
): DossierPart {
  return {
    part: name,
    table,
    scope,
    by,
    order,
    firm,
    columns: columns
      .trim()
      .split(/\s+/)
      .map((c) => {
        const [column = '', type = 'text'] = c.split(':');
        return { name: column, type: type.replace('?', '') as ColumnType, nullable: type.endsWith('?') };
      }),
  };
}

/** In the order in which they are written and taken in: what is named stands before what names it. */
export const PARTS: readonly DossierPart[] = [
  part('people', 'users', ['person', 'id'], 'id', 'id:id name:text role:text permits:json'),
  part(
    'sites',
    'sites',
    ['site', 'id'],
    'id',
    'id:id name:text altitude_m:number notes:text? customer:text? address:text? contact:text? access:text? hazards:text? unit:text? version:whole retired_at:time?',
  ),
  part(
    'equipment',
    'equipment',
    ['site', 'site_id'],
    'id',
    'id:id site_id:id name:text notes:text? maker:text? model:text? serial:text? made:whole? version:whole retired_at:time?',
  ),
  part(
    'gauges',
    'gauges',
    ['gauge', 'id'],
    'id',
    'id:id label:text owner:text? body:json due:day? retired_at:time?',
  ),
  part(
    'controls',
    'controls',
    ['control', 'id'],
    'id',
    'id:id equipment_id:id name:text family:text plan_version:whole due:day? story:text? gauge_id:id? months:whole? law_months:whole? law_by:text? customer_day:day? version:whole created_at:time retired_at:time?',
  ),
  part(
    'plans',
    'control_plans',
    ['control', 'control_id'],
    'control_id, version',
    'id:id control_id:id version:whole plan:json author_id:id created_at:time',
  ),
  part(
    'links',
    'control_links',
    ['control', 'control_id'],
    'control_id, role',
    'control_id:id role:text to_id:id',
    false,
  ),
  part(
    'devices',
    'fitted_devices',
    ['control', 'control_id'],
    'control_id, id',
    'id:id control_id:id label:text fitted_on:day removed_on:day? learned:json rig:json?',
  ),
  part(
    'due',
    'due_reasons',
    ['control', 'control_id'],
    'control_id, kind',
    'control_id:id kind:text day:day because:text',
  ),
  part(
    'visits',
    'visits',
    ['site', 'site_id'],
    'day, id',
    'id:id site_id:id technician_id:id day:day purpose:text? stop:whole packed:json version:whole cancelled:text?',
  ),
  part(
    'visitControls',
    'visit_controls',
    ['visit', 'visit_id'],
    'visit_id, position',
    'visit_id:id control_id:id position:whole',
    false,
  ),
  part(
    'jobs',
    'jobs',
    ['job', 'id'],
    'id',
    'id:id control_id:id visit_id:id? opened_by:id opened_at:time seq:whole head:hash signed_at:time?',
  ),
  part(
    'events',
    'job_events',
    ['job', 'job_id'],
    'job_id, seq',
    'job_id:id seq:whole id:id kind:text author_id:id received_at:time text:text hash:hash',
    false,
  ),
  part(
    'results',
    'job_results',
    ['job', 'job_id'],
    'job_id',
    'job_id:id control_id:id through_seq:whole outcome:text? signed_at:time? result:json objections:json settled:yes practice:yes counts:yes',
  ),
  part(
    'findings',
    'job_findings',
    ['job', 'job_id'],
    'job_id, code',
    'job_id:id control_id:id signed_at:time code:text message:text',
  ),
  part(
    'jobGauges',
    'job_gauges',
    ['job', 'job_id'],
    'job_id, gauge_id, slot',
    'job_id:id gauge_id:id slot:text at:time',
    false,
  ),
  part(
    'gaugeChecks',
    'gauge_checks',
    ['job', 'job_id'],
    'id',
    'id:id gauge_id:id job_id:id at:time before_pa:number after_pa:number handling:text',
  ),
  part(
    'gaugeSpans',
    'gauge_spans',
    ['job', 'job_id'],
    'job_id, gauge_id',
    'job_id:id gauge_id:id at:time outcome:text errors:json',
  ),
  part(
    'flags',
    'job_flags',
    ['job', 'job_id'],
    'job_id, by_job_id',
    'job_id:id by_job_id:id gauge_id:id at:time text:text',
    false,
  ),
  part(
    'traces',
    'traces',
    ['trace', 'id'],
    'id',
    'id:id control_id:id? job_id:id? author_id:id name:text kind:text unit:text channels:json samples:whole from_s:number to_s:number clock_offset_s:number created_at:time',
  ),
  part(
    'traceBlocks',
    'trace_blocks',
    ['trace', 'trace_id'],
    'trace_id, block',
    'trace_id:id block:whole samples:whole packed:bytes',
    false,
  ),
  part(
    'traceCorrections',
    'trace_corrections',
    ['trace', 'trace_id'],
    'trace_id, id',
    'id:id trace_id:id author_id:id at:time body:json',
    false,
  ),
  part(
    'photos',
    'photos',
    ['photo', 'hash'],
    'hash',
    'hash:hash width:whole height:whole bytes:whole data:bytes created_by:id created_at:time',
  ),
  part(
    'controlPhotos',
    'control_photos',
    ['control', 'control_id'],
    'id',
    'id:id control_id:id hash:hash width:whole height:whole text:text created_by:id created_at:time removed_at:time?',
  ),
];

const UUID = '^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$';
const TYPES: Readonly<Record<ColumnType, object>> = {
  id: { type: 'string', pattern: UUID },
  text: { type: 'string' },
  whole: { type: 'integer' },
  number: { type: 'number' },
  day: { type: 'string', pattern: '^\\d{4}-\\d{2}-\\d{2}$' },
  time: { type: 'string', pattern: '^\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2}(\\.\\d+)?Z$' },
  json: { type: ['object', 'array'] },
  yes: { type: 'boolean' },
  bytes: { type: 'string', pattern: '^[A-Za-z0-9+/]*={0,2}$' },
  hash: { type: 'string', pattern: '^[0-9a-f]{64}$' },
};

/** The JSON Schema [draft 2020-12] of a dossier. */
export const dossierSchema = (): object => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  $id: 'urn:firm-needle:dossier:1',
  title: 'Firm Needle dossier of a site',
  type: 'object',
  required: ['format', 'version', 'made', 'firm', ...PARTS.map((p) => p.part)],
  additionalProperties: false,
  properties: {
    format: { const: DOSSIER_FORMAT },
    version: { const: DOSSIER_VERSION },
    made: TYPES.time,
    firm: { type: 'string' },
    ...Object.fromEntries(
      PARTS.map((p) => [
        p.part,
        {
          type: 'array',
          items: {
            type: 'object',
            additionalProperties: false,
            required: p.columns.map((c) => c.name),
            properties: Object.fromEntries(
              p.columns.map((c) => [
                c.name,
                c.nullable ? { anyOf: [TYPES[c.type], { type: 'null' }] } : TYPES[c.type],
              ]),
            ),
          },
        },
      ]),
    ),
  },
});
