import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** Instruments of the player's own. */
export const instruments: RunnableMigration<QueryInterface> = {
  name: '006-instruments',
  async up({ context }) {
    await context.createTable('instruments', {
      id: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
      name: { type: DataTypes.STRING, allowNull: false },
      instrument: { type: DataTypes.TEXT, allowNull: false },
    });
  },
  async down({ context }) {
    await context.dropTable('instruments');
  },
};
