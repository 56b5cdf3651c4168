import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** Timed changes: found by the strings that they were played on and by their date. */
export const changeTimes: RunnableMigration<QueryInterface> = {
  name: '003-change-times',
  async up({ context }) {
    await context.createTable('change_times', {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
      madeAt: { type: DataTypes.DATE, allowNull: false },
      strings: { type: DataTypes.STRING, allowNull: false },
      timing: { type: DataTypes.TEXT, allowNull: false },
    });
    await context.addIndex('change_times', ['strings', 'madeAt']);
  },
  async down({ context }) {
    await context.dropTable('change_times');
  },
};
