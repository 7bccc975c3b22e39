import type { EventCorrection } from '@firm-needle/core/trace';
import type { CreationOptional } from 'sequelize';
import { BelongsTo, Column, DataType, ForeignKey, PrimaryKey, Table } from 'sequelize-typescript';
import { Control } from './controls.js';
import { Row } from './row.js';

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
