import mysql2 from 'mysql2';
import { Sequelize, type SequelizeOptions } from 'sequelize-typescript';
import { MODELS } from './models.js';

/** Connection settings from the environment; the start command and the tests set them. */
export function connectionOptions(): SequelizeOptions {
  const need = (name: string): string => {
    const v = process.env[name];
    if (v === undefined) throw new Error(`${name} is not set; start with npm start.`);
    return v;
  };
  return {
    dialect: 'mysql',
    dialectModule: mysql2,
    host: need('DB_HOST'),
    port: Number(need('DB_PORT')),
    username: need('DB_USER'),
    password: need('DB_PASSWORD'),
    database: need('DB_NAME'),
    logging: false,
    timezone: '+00:00',
    define: { timestamps: false, underscored: true, freezeTableName: true },
    pool: { max: 10, acquire: 5000, idle: 10000 },
    dialectOptions: { connectTimeout: 3000 },
    models: [...MODELS],
  };
}

/** A connection outside the server: for preparing, verifying and rebuilding. */
export const connect = (): Sequelize => new Sequelize(connectionOptions());
