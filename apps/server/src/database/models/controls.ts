import type { Gauge } from '@firm-needle/core/gauge';
import type { Plan } from '@firm-needle/core/procedure';
import type { CreationOptional } from 'sequelize';
import { BelongsTo, Column, DataType, ForeignKey, HasMany, PrimaryKey, Table } from 'sequelize-typescript';
import { Site } from './firm.js';
import { Row } from './row.js';

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
