import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import type { Role } from '$lib/shared/types';

/** The tables that are asked for row by row; logs, snapshots and cards are asked for in SQL. Rules are in the services. */

export class PersonRow extends Model<InferAttributes<PersonRow>, InferCreationAttributes<PersonRow>> {
  declare id: string;
  declare name: string;
  declare email: string;
  declare passwordHash: string;
}

export class SessionRow extends Model<InferAttributes<SessionRow>, InferCreationAttributes<SessionRow>> {
  /** SHA-256 of the token in the cookie. */
  declare tokenHash: string;
  declare personId: string;
  declare expires: Date;
}

export class PieceRow extends Model<InferAttributes<PieceRow>, InferCreationAttributes<PieceRow>> {
  declare id: string;
  declare name: string;
  declare revision: number;
  declare deletedAt: CreationOptional<Date | null>;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

export class MemberRow extends Model<InferAttributes<MemberRow>, InferCreationAttributes<MemberRow>> {
  declare pieceId: string;
  declare personId: string;
  declare role: Role;
}

export class AssetRow extends Model<InferAttributes<AssetRow>, InferCreationAttributes<AssetRow>> {
  declare id: string;
  declare mediaType: string;
  declare width: number;
  declare height: number;
  declare bytes: Buffer;
}

/** Which pieces may show an asset. */
export class PieceAssetRow extends Model<InferAttributes<PieceAssetRow>, InferCreationAttributes<PieceAssetRow>> {
  declare pieceId: string;
  declare assetId: string;
}

/** Columns by kind. Each call makes a new object, since Sequelize writes the column's name into it. */
const text = () => ({ type: DataTypes.TEXT, allowNull: false });
const key = () => ({ type: DataTypes.TEXT, allowNull: false, primaryKey: true });
const integer = () => ({ type: DataTypes.INTEGER, allowNull: false });
const real = () => ({ type: DataTypes.DOUBLE, allowNull: false });
const moment = () => ({ type: DataTypes.DATE, allowNull: false });

export function defineModels(sequelize: Sequelize): void {
  const plain = { sequelize, underscored: true, timestamps: false } as const;
  PersonRow.init({ id: key(), name: text(), email: text(), passwordHash: text() }, { ...plain, tableName: 'people' });
  SessionRow.init({ tokenHash: key(), personId: text(), expires: moment() }, { ...plain, tableName: 'sessions' });
  PieceRow.init(
    { id: key(), name: text(), revision: integer(), deletedAt: { type: DataTypes.DATE }, createdAt: moment(), updatedAt: moment() },
    { ...plain, timestamps: true, tableName: 'pieces' }
  );
  MemberRow.init({ pieceId: key(), personId: key(), role: text() }, { ...plain, tableName: 'members' });
  AssetRow.init(
    { id: key(), mediaType: text(), width: real(), height: real(), bytes: { type: DataTypes.BLOB, allowNull: false } },
    { ...plain, tableName: 'assets' }
  );
  PieceAssetRow.init({ pieceId: key(), assetId: key() }, { ...plain, tableName: 'piece_assets' });
}
