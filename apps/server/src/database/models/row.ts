import type { InferAttributes, InferCreationAttributes } from 'sequelize';
import { Model } from 'sequelize-typescript';

/** A row with typed attributes. */
export abstract class Row<M extends Model> extends Model<InferAttributes<M>, InferCreationAttributes<M>> {}
