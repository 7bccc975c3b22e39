import type { Help, LevelId, RunKind, Word } from '@firm-needle/core/practice';
import type { CreationOptional, InferAttributes, InferCreationAttributes } from 'sequelize';
import { Column, DataType, Model, PrimaryKey, Table } from 'sequelize-typescript';

abstract class Row<M extends Model> extends Model<InferAttributes<M>, InferCreationAttributes<M>> {}

/** What the server itself reckoned of a run. */
export interface Judged {
  readonly word: Word;
  readonly unlucky: boolean;
  readonly k: number | null;
  readonly sentence: string;
  readonly missed: readonly string[];
  readonly grave: number;
  readonly sure: { readonly c: number; readonly right: boolean } | null;
}

/** A test that was set. */
@Table({ tableName: 'practice_tests' })
export class PracticeTestRow extends Row<PracticeTestRow> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.STRING) declare family: string;
  @Column(DataType.STRING) declare variant: string;
  @Column(DataType.INTEGER) declare level: LevelId;
  @Column(DataType.STRING) declare sealed: string;
  @Column(DataType.DATEONLY) declare until: string;
  @Column(DataType.STRING) declare note: string | null;
  @Column(DataType.UUID) declare createdBy: string;
  @Column(DataType.DATE(3)) declare createdAt: Date;
}

/** Somebody's one try at a test. */
@Table({ tableName: 'practice_tries' })
export class PracticeTry extends Row<PracticeTry> {
  @PrimaryKey @Column(DataType.UUID) declare testId: string;
  @PrimaryKey @Column(DataType.UUID) declare userId: string;
  @Column(DataType.UUID) declare runId: string;
  @Column(DataType.DATE(3)) declare startedAt: Date;
}

/** A run that is over; `record` is the text of it, as it came. */
@Table({ tableName: 'practice_runs' })
export class PracticeRunRow extends Row<PracticeRunRow> {
  @PrimaryKey @Column(DataType.UUID) declare id: string;
  @Column(DataType.UUID) declare organisationId: string;
  @Column(DataType.UUID) declare userId: string;
  @Column(DataType.STRING) declare kind: RunKind;
  @Column(DataType.STRING) declare family: string;
  @Column(DataType.STRING) declare variant: string;
  @Column(DataType.INTEGER) declare level: LevelId;
  @Column(DataType.STRING) declare help: Help;
  @Column(DataType.UUID) declare testId: string | null;
  @Column(DataType.DATE(3)) declare startedAt: Date;
  @Column(DataType.DATE(3)) declare endedAt: Date;
  @Column(DataType.STRING) declare word: Word;
  @Column(DataType.JSON) declare judged: Judged;
  @Column(DataType.TEXT('long')) declare record: string;
  @Column(DataType.STRING) declare hash: string;
  @Column(DataType.BOOLEAN) declare shared: CreationOptional<boolean>;
  @Column(DataType.STRING) declare unfair: CreationOptional<string | null>;
  @Column(DataType.DATE(3)) declare createdAt: Date;
}

/** That somebody looked at another's run. */
@Table({ tableName: 'practice_looks' })
export class PracticeLook extends Row<PracticeLook> {
  @PrimaryKey @Column(DataType.UUID) declare runId: string;
  @PrimaryKey @Column(DataType.UUID) declare userId: string;
  @Column(DataType.DATE(3)) declare at: Date;
}

export const PRACTICE_MODELS = [PracticeTestRow, PracticeTry, PracticeRunRow, PracticeLook] as const;
