import type { Sheet } from '@firm-needle/core/family';
import type { FoundError } from '@firm-needle/core/gauge';
import type { DueKind } from '@firm-needle/core/history';
import type { Finding, Outcome } from '@firm-needle/core/procedure';
import type { CreationOptional } from 'sequelize';
import {
  AutoIncrement,
  BelongsTo,
  Column,
  DataType,
  ForeignKey,
  PrimaryKey,
  Table,
} from 'sequelize-typescript';
import { Control } from './controls.js';
import { Row } from './row.js';

@Table({ tableName: 'jobs' })
export class Job extends Row<Job> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @ForeignKey(() => Control) @Column(DataType.UUID) declare controlId: string;
  @Column(DataType.UUID) declare visitId: string | null;
  @Column(DataType.UUID) declare openedBy: string;
  @Column(DataType.DATE(3)) declare openedAt: Date;
  @Column(DataType.INTEGER) declare seq: number;
  @Column(DataType.CHAR(64)) declare head: string;
  @Column(DataType.DATE(3)) declare signedAt: Date | null;
  @BelongsTo(() => Control) declare control?: Control;
}

/** Append-only. `text` is the exact canonical JSON that was hashed; the other columns are only an index. */
@Table({ tableName: 'job_events' })
export class JobEventRow extends Row<JobEventRow> {
  @PrimaryKey @Column(DataType.UUID) declare jobId: string;
  @PrimaryKey @Column(DataType.INTEGER) declare seq: number;
  @Column(DataType.UUID) declare id: string;
  @Column(DataType.STRING) declare kind: string;
  @Column(DataType.UUID) declare authorId: string;
  @Column(DataType.DATE(3)) declare receivedAt: Date;
  @Column(DataType.TEXT) declare text: string;
  @Column(DataType.CHAR(64)) declare hash: string;
}

/** The server's fold of a job; rebuilt from its events by one command. */
@Table({ tableName: 'job_results' })
export class JobResult extends Row<JobResult> {
  @PrimaryKey @Column(DataType.UUID) declare jobId: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare controlId: string;
  @Column(DataType.INTEGER) declare throughSeq: number;
  @Column(DataType.STRING) declare outcome: Outcome | null;
  @Column(DataType.DATE(3)) declare signedAt: Date | null;
  @Column(DataType.JSON) declare result: Sheet;
  /** Why the outcome that was signed is not what the log proves; empty where it is. */
  @Column(DataType.JSON) declare objections: CreationOptional<Finding[]>;
  /** Everything that follows from the sign-off was done. */
  @Column(DataType.BOOLEAN) declare settled: CreationOptional<boolean>;
  /** Worked on a rig to learn: in nobody's history. */
  @Column(DataType.BOOLEAN) declare practice: CreationOptional<boolean>;
  /** It proved the control: its dates run from here. */
  @Column(DataType.BOOLEAN) declare counts: CreationOptional<boolean>;
}

/** A gauge that a job used, in any place. */
@Table({ tableName: 'job_gauges' })
export class JobGauge extends Row<JobGauge> {
  @PrimaryKey @Column(DataType.UUID) declare jobId: string;
  @PrimaryKey @Column(DataType.UUID) declare gaugeId: string;
  @PrimaryKey @Column(DataType.STRING) declare slot: string;
  @Column(DataType.DATE(3)) declare at: Date;
}

/** A zero of a gauge, projected from a signed job's log; the event's own id keeps it single. */
@Table({ tableName: 'gauge_checks' })
export class GaugeCheck extends Row<GaugeCheck> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare gaugeId: string;
  @Column(DataType.UUID) declare jobId: string;
  @Column(DataType.DATE(3)) declare at: Date;
  @Column(DataType.DOUBLE) declare beforePa: number;
  @Column(DataType.DOUBLE) declare afterPa: number;
  @Column(DataType.STRING) declare handling: 'carried' | 'adjusted';
}

/** The errors of a gauge that one signed job found against something better. */
@Table({ tableName: 'gauge_spans' })
export class GaugeSpan extends Row<GaugeSpan> {
  @PrimaryKey @Column(DataType.UUID) declare jobId: string;
  @PrimaryKey @Column(DataType.UUID) declare gaugeId: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.DATE(3)) declare at: Date;
  @Column(DataType.STRING) declare outcome: Outcome;
  @Column(DataType.JSON) declare errors: FoundError[];
}

/** A signed job that used a gauge which later failed its check; the job itself is never edited. */
@Table({ tableName: 'job_flags' })
export class JobFlag extends Row<JobFlag> {
  @PrimaryKey @Column(DataType.UUID) declare jobId: string;
  @PrimaryKey @Column(DataType.UUID) declare byJobId: string;
  @PrimaryKey @Column(DataType.UUID) declare gaugeId: string;
  @Column(DataType.DATE(3)) declare at: Date;
  @Column(DataType.STRING) declare text: string;
}

/** Why a control is due, one of each kind; its own `due` is the soonest. */
@Table({ tableName: 'due_reasons' })
export class DueReasonRow extends Row<DueReasonRow> {
  @PrimaryKey @Column(DataType.UUID) declare controlId: string;
  @PrimaryKey @Column(DataType.STRING) declare kind: DueKind;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.DATEONLY) declare day: string;
  @Column(DataType.STRING) declare because: string;
}

/** What a signed job found, so that it can be searched for. */
@Table({ tableName: 'job_findings' })
export class JobFinding extends Row<JobFinding> {
  @PrimaryKey @AutoIncrement @Column(DataType.BIGINT) declare id: CreationOptional<number>;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare jobId: string;
  @Column(DataType.UUID) declare controlId: string;
  @Column(DataType.DATE(3)) declare signedAt: Date;
  @Column(DataType.STRING) declare code: string;
  @Column(DataType.STRING) declare message: string;
}
