import type { HeldPermit } from '../../common/permits.js';
import type { Role } from '@firm-needle/contract';
import type { CreationOptional } from 'sequelize';
import { BelongsTo, Column, DataType, ForeignKey, PrimaryKey, Table } from 'sequelize-typescript';
import { Row } from './row.js';

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
