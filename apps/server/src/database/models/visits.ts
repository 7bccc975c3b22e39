import type { CreationOptional } from 'sequelize';
import { BelongsTo, Column, DataType, ForeignKey, PrimaryKey, Table } from 'sequelize-typescript';
import { Site, User } from './firm.js';
import { Row } from './row.js';

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
