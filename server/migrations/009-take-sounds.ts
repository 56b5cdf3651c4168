import { DataTypes, type QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** The sound of takes that a player keeps: a file in the data folder, named here. */
export const takeSounds: RunnableMigration<QueryInterface> = {
  name: '009-take-sounds',
  async up({ context }) {
    await context.createTable('take_sounds', {
      take_id: { type: DataTypes.UUID, primaryKey: true, allowNull: false },
      song_id: { type: DataTypes.UUID, allowNull: false },
      type: { type: DataTypes.STRING, allowNull: false },
      file: { type: DataTypes.STRING, allowNull: false },
      bytes: { type: DataTypes.INTEGER, allowNull: false },
    });
    await context.addIndex('take_sounds', ['song_id']);
  },
  async down({ context }) {
    await context.dropTable('take_sounds');
  },
};
