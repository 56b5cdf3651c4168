import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** Takes that were judged: found by their song and date. */
export const takes: RunnableMigration<QueryInterface> = {
  name: '004-takes',
  async up({ context }) {
    await context.createTable('takes', {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
      songId: { type: DataTypes.UUID, allowNull: false },
      madeAt: { type: DataTypes.DATE, allowNull: false },
      tempo: { type: DataTypes.FLOAT, allowNull: false },
      from: { type: DataTypes.INTEGER, allowNull: false },
      to: { type: DataTypes.INTEGER, allowNull: false },
      source: { type: DataTypes.STRING, allowNull: false },
      trouble: { type: DataTypes.STRING, allowNull: false },
      sentence: { type: DataTypes.TEXT, allowNull: false },
      judgement: { type: DataTypes.TEXT, allowNull: false },
    });
    await context.addIndex('takes', ['songId', 'madeAt']);
  },
  async down({ context }) {
    await context.dropTable('takes');
  },
};
