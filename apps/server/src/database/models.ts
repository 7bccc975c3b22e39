import type { Sheet } from '@firm-needle/core/family';
import type { FoundError, Gauge } from '@firm-needle/core/gauge';
import type { DueKind } from '@firm-needle/core/history';
import type { Finding, Outcome, Plan } from '@firm-needle/core/procedure';
import type { EventCorrection } from '@firm-needle/core/trace';
import type { CreationOptional, InferAttributes, InferCreationAttributes } from 'sequelize';
import {
  AutoIncrement,
  BelongsTo,
  Column,
  DataType,
  ForeignKey,
  HasMany,
  Model,
  PrimaryKey,
  Table,
} from 'sequelize-typescript';
import type { HeldPermit } from '../common/permits.js';
import type { Role } from '@firm-needle/contract';

/** A row with typed attributes. */
abstract class Row<M extends Model> extends Model<InferAttributes<M>, InferCreationAttributes<M>> {}

@Table({ tableName: 'organisations' })
export class Organisation extends Row<Organisation> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.STRING) declare name: string;
  @Column(DataType.BOOLEAN) declare demo: boolean;
  @Column(DataType.STRING) declare rule: 'guarded' | 'simple';
  @Column(DataType.DATE(3)) declare createdAt: Date;
}

@Table({ tableName: 'sites' })
export class Site extends Row<Site> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.STRING) declare name: string;
  @Column(DataType.DOUBLE) declare altitudeM: number;
  @Column(DataType.TEXT) declare notes: string | null;
  @Column(DataType.STRING) declare customer: CreationOptional<string | null>;
  @Column(DataType.STRING) declare address: CreationOptional<string | null>;
  @Column(DataType.STRING) declare contact: CreationOptional<string | null>;
  @Column(DataType.STRING) declare access: CreationOptional<string | null>;
  @Column(DataType.STRING) declare hazards: CreationOptional<string | null>;
  /** The customer's unit of pressure, where it is not that of each setting. */
  @Column(DataType.STRING) declare unit: CreationOptional<string | null>;
  @Column(DataType.INTEGER) declare version: CreationOptional<number>;
  @Column(DataType.DATE(3)) declare retiredAt: CreationOptional<Date | null>;
}

@Table({ tableName: 'users' })
export class User extends Row<User> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @ForeignKey(() => Organisation) @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.STRING) declare login: string;
  @Column(DataType.STRING) declare name: string;
  @Column(DataType.STRING) declare role: Role;
  @Column(DataType.JSON) declare permits: HeldPermit[];
  @Column(DataType.UUID) declare siteId: string | null;
  @Column(DataType.STRING) declare passwordHash: string;
  @Column(DataType.INTEGER) declare version: CreationOptional<number>;
  @Column(DataType.DATE(3)) declare disabledAt: CreationOptional<Date | null>;
  @BelongsTo(() => Organisation) declare organisation?: Organisation;
}

@Table({ tableName: 'sessions' })
export class Session extends Row<Session> {
  @PrimaryKey @Column(DataType.CHAR(64)) declare tokenHash: string;
  @ForeignKey(() => User) @Column(DataType.UUID) declare userId: string;
  @Column(DataType.DATE(3)) declare createdAt: Date;
  @Column(DataType.DATE(3)) declare expiresAt: Date;
  /** What the browser called itself when it signed in. */
  @Column(DataType.STRING) declare agent: CreationOptional<string | null>;
  @Column(DataType.DATE(3)) declare seenAt: CreationOptional<Date | null>;
  @BelongsTo(() => User) declare user?: User;
}

@Table({ tableName: 'login_attempts' })
export class LoginAttempt extends Row<LoginAttempt> {
  @PrimaryKey @Column(DataType.CHAR(64)) declare keyHash: string;
  @Column(DataType.INTEGER) declare tries: number;
  @Column(DataType.DATE(3)) declare windowStart: Date;
}

@Table({ tableName: 'equipment' })
export class Equipment extends Row<Equipment> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @ForeignKey(() => Site) @Column(DataType.UUID) declare siteId: string;
  @Column(DataType.STRING) declare name: string;
  @Column(DataType.TEXT) declare notes: string | null;
  @Column(DataType.STRING) declare maker: CreationOptional<string | null>;
  @Column(DataType.STRING) declare model: CreationOptional<string | null>;
  @Column(DataType.STRING) declare serial: CreationOptional<string | null>;
  /** The year on its plate. */
  @Column(DataType.INTEGER) declare made: CreationOptional<number | null>;
  @Column(DataType.INTEGER) declare version: CreationOptional<number>;
  @Column(DataType.DATE(3)) declare retiredAt: CreationOptional<Date | null>;
  @BelongsTo(() => Site) declare site?: Site;
  @HasMany(() => Control) declare controls?: Control[];
}

@Table({ tableName: 'controls' })
export class Control extends Row<Control> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @ForeignKey(() => Equipment) @Column(DataType.UUID) declare equipmentId: string;
  @Column(DataType.STRING) declare name: string;
  @Column(DataType.STRING) declare family: string;
  @Column(DataType.INTEGER) declare planVersion: number;
  @Column(DataType.DATEONLY) declare due: string | null;
  @Column(DataType.STRING) declare story: string | null;
  /** Set where the control is one of the firm's own gauges: a gauge owns one control for its checks. */
  @Column(DataType.UUID) declare gaugeId: string | null;
  @Column(DataType.INTEGER) declare version: CreationOptional<number>;
  /** Months between checks; the usual ones where null. */
  @Column(DataType.INTEGER) declare months: CreationOptional<number | null>;
  /** Months that a law, an insurer or an authority sets, and who. */
  @Column(DataType.INTEGER) declare lawMonths: CreationOptional<number | null>;
  @Column(DataType.STRING) declare lawBy: CreationOptional<string | null>;
  @Column(DataType.DATEONLY) declare customerDay: CreationOptional<string | null>;
  @Column(DataType.DATE(3)) declare createdAt: CreationOptional<Date>;
  @Column(DataType.DATE(3)) declare retiredAt: CreationOptional<Date | null>;
  @BelongsTo(() => Equipment) declare equipment?: Equipment;
}

@Table({ tableName: 'control_plans' })
export class ControlPlan extends Row<ControlPlan> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare controlId: string;
  @Column(DataType.INTEGER) declare version: number;
  @Column(DataType.JSON) declare plan: Plan;
  @Column(DataType.UUID) declare authorId: string;
  @Column(DataType.DATE(3)) declare createdAt: Date;
}

/** The control that stands beside another in a role; at most one in each. */
@Table({ tableName: 'control_links' })
export class ControlLink extends Row<ControlLink> {
  @PrimaryKey @Column(DataType.UUID) declare controlId: string;
  @PrimaryKey @Column(DataType.STRING) declare role: string;
  @Column(DataType.UUID) declare toId: string;
}

/** The device fitted under a control; learned turn and drift belong to it and start again with the next one. */
@Table({ tableName: 'fitted_devices' })
export class FittedDevice extends Row<FittedDevice> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare controlId: string;
  @Column(DataType.STRING) declare label: string;
  @Column(DataType.DATEONLY) declare fittedOn: string;
  @Column(DataType.DATEONLY) declare removedOn: string | null;
  @Column(DataType.JSON) declare learned: Record<string, { perTurn: number; spread: number }>;
  /** What the simulated stand-in of this device hides; demo organisations only. */
  @Column(DataType.JSON) declare rig: { seed: number; faults: string[] } | null;
}

@Table({ tableName: 'gauges' })
export class GaugeRow extends Row<GaugeRow> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.STRING) declare label: string;
  @Column(DataType.STRING) declare owner: string | null;
  @Column(DataType.JSON) declare body: Gauge;
  @Column(DataType.DATEONLY) declare due: string | null;
  @Column(DataType.DATE(3)) declare retiredAt: CreationOptional<Date | null>;
}

@Table({ tableName: 'visits' })
export class Visit extends Row<Visit> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @ForeignKey(() => Site) @Column(DataType.UUID) declare siteId: string;
  @ForeignKey(() => User) @Column(DataType.UUID) declare technicianId: string;
  @Column(DataType.DATEONLY) declare day: string;
  @Column(DataType.STRING) declare purpose: string | null;
  /** Its place among the stops of its day. */
  @Column(DataType.INTEGER) declare stop: CreationOptional<number>;
  /** What of the carry list is packed. */
  @Column(DataType.JSON) declare packed: CreationOptional<string[]>;
  @Column(DataType.INTEGER) declare version: CreationOptional<number>;
  /** Why it was cancelled; null while it stands. */
  @Column(DataType.STRING) declare cancelled: CreationOptional<string | null>;
  @BelongsTo(() => Site) declare site?: Site;
  @BelongsTo(() => User) declare technician?: User;
}

@Table({ tableName: 'visit_controls' })
export class VisitControl extends Row<VisitControl> {
  @PrimaryKey @Column(DataType.UUID) declare visitId: string;
  @PrimaryKey @Column(DataType.UUID) declare controlId: string;
  @Column(DataType.INTEGER) declare position: number;
}

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

/** A recorded trace; its samples stand in its blocks. */
@Table({ tableName: 'traces' })
export class Trace extends Row<Trace> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @ForeignKey(() => Control) @Column(DataType.UUID) declare controlId: string | null;
  @Column(DataType.UUID) declare jobId: string | null;
  @Column(DataType.UUID) declare authorId: string;
  @Column(DataType.STRING) declare name: string;
  @Column(DataType.STRING) declare kind: string;
  @Column(DataType.STRING) declare unit: string;
  @Column(DataType.JSON) declare channels: string[];
  @Column(DataType.INTEGER) declare samples: number;
  @Column(DataType.DOUBLE) declare fromS: number;
  @Column(DataType.DOUBLE) declare toS: number;
  /** Added to the trace's times to have the job's live clock. */
  @Column(DataType.DOUBLE) declare clockOffsetS: number;
  @Column(DataType.DATE(3)) declare createdAt: Date;
  @BelongsTo(() => Control) declare control?: Control | null;
}

/** A run of a trace's samples, packed by core and compressed. */
@Table({ tableName: 'trace_blocks' })
export class TraceBlock extends Row<TraceBlock> {
  @PrimaryKey @Column(DataType.UUID) declare traceId: string;
  @PrimaryKey @Column(DataType.INTEGER) declare block: number;
  @Column(DataType.INTEGER) declare samples: number;
  @Column(DataType.BLOB('medium')) declare packed: Buffer;
}

/** What a person said of an event that was found; only ever added to. */
@Table({ tableName: 'trace_corrections' })
export class TraceCorrection extends Row<TraceCorrection> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare traceId: string;
  @Column(DataType.UUID) declare authorId: string;
  @Column(DataType.DATE(3)) declare at: Date;
  @Column(DataType.JSON) declare body: EventCorrection;
}
@Table({ tableName: 'photos' })
export class Photo extends Row<Photo> {
  @PrimaryKey @Column(DataType.UUID) declare organisationId: string;
  @PrimaryKey @Column(DataType.CHAR(64)) declare hash: string;
  @Column(DataType.INTEGER) declare width: number;
  @Column(DataType.INTEGER) declare height: number;
  @Column(DataType.INTEGER) declare bytes: number;
  @Column(DataType.BLOB('medium')) declare data: Buffer;
  @Column(DataType.UUID) declare createdBy: string;
  @Column(DataType.DATE(3)) declare createdAt: Date;
}

/** A photo of a control's plate or of how it stands. */
@Table({ tableName: 'control_photos' })
export class ControlPhotoRow extends Row<ControlPhotoRow> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare controlId: string;
  @Column(DataType.CHAR(64)) declare hash: string;
  @Column(DataType.INTEGER) declare width: number;
  @Column(DataType.INTEGER) declare height: number;
  @Column(DataType.STRING) declare text: string;
  @Column(DataType.UUID) declare createdBy: string;
  @Column(DataType.DATE(3)) declare createdAt: Date;
  @Column(DataType.DATE(3)) declare removedAt: CreationOptional<Date | null>;
}

/** A link by which a customer reads one sheet; only its token's hash is kept. */
@Table({ tableName: 'shares' })
export class Share extends Row<Share> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare jobId: string;
  @Column(DataType.CHAR(64)) declare tokenHash: string;
  @Column(DataType.STRING) declare unit: string | null;
  @Column(DataType.STRING) declare zone: string | null;
  @Column(DataType.UUID) declare createdBy: string;
  @Column(DataType.DATE(3)) declare createdAt: Date;
  @Column(DataType.DATE(3)) declare expiresAt: Date;
  @Column(DataType.DATE(3)) declare withdrawnAt: CreationOptional<Date | null>;
  /** How often its page was loaded. */
  @Column(DataType.INTEGER) declare opened: CreationOptional<number>;
}

/** A secret address under which a calendar program reads visits and due dates. */
@Table({ tableName: 'calendars' })
export class CalendarRow extends Row<CalendarRow> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare userId: string;
  @Column(DataType.CHAR(64)) declare tokenHash: string;
  /** One's own visits alone; else everybody's, and what is due. */
  @Column(DataType.BOOLEAN) declare own: boolean;
  @Column(DataType.DATE(3)) declare createdAt: Date;
  @Column(DataType.DATE(3)) declare withdrawnAt: CreationOptional<Date | null>;
}

export const MODELS = [
  DueReasonRow,
  JobFinding,
  Trace,
  TraceBlock,
  TraceCorrection,
  GaugeCheck,
  GaugeSpan,
  JobFlag,
  JobGauge,
  Organisation,
  Site,
  User,
  Session,
  LoginAttempt,
  Equipment,
  Control,
  ControlPlan,
  ControlLink,
  FittedDevice,
  GaugeRow,
  Visit,
  VisitControl,
  Job,
  JobEventRow,
  JobResult,
  Photo,
  ControlPhotoRow,
  Share,
  CalendarRow,
] as const;
